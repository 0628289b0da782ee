import { zodResolver } from '@hookform/resolvers/zod';
import { dataSetKinds, DataSetSchema, type DataSet } from '@ulvane/core/backup';
import { printExactBytes } from '@ulvane/core/quantity';
import Form from 'react-bootstrap/Form';
import { useForm } from 'react-hook-form';
import { z } from 'zod';
import { useFormDraft } from '../../shell/useDraft';
import { useOpenMove } from '../MoveContext';
import { Field } from '../../shell/Field';
import { FormDialog } from '../../shell/FormDialog';
import { countField, countOrEmpty, nameField } from '../../shell/formFields';
import { useSizes } from '../../shell/useSizes';

export const emptyDataSet: DataSet = {
  id: '',
  name: '',
  kind: 'folder',
  path: '',
  sizeBytes: 0,
  fileCount: 0,
  largestFileBytes: 0,
  place: 'system-partition',
};

type DataSetDialogProps = {
  readonly dataSet: DataSet;
  readonly error: unknown;
  readonly onKeep: (dataSet: DataSet) => Promise<boolean>;
  readonly onClose: () => void;
};

/** Types one data set; sizes as people write them. */
export function DataSetDialog({ dataSet, error, onKeep, onClose }: DataSetDialogProps) {
  const { move } = useOpenMove();
  const { bytesOf, size, sizeOrEmpty, reading } = useSizes();
  const form = useForm({
    resolver: zodResolver(
      z.object({
        name: nameField,
        ...DataSetSchema.pick({ kind: true, place: true }).shape,
        path: z.string(),
        size,
        files: countField,
        placeholders: countOrEmpty,
        encrypted: countOrEmpty,
        keyWhere: z.string(),
        largest: sizeOrEmpty,
      }),
    ),
    defaultValues: {
      name: dataSet.name,
      kind: dataSet.kind,
      path: dataSet.path,
      place: dataSet.place,
      size: dataSet.sizeBytes === 0 ? '' : printExactBytes(dataSet.sizeBytes, 'decimal'),
      files: dataSet.fileCount === 0 ? '' : String(dataSet.fileCount),
      placeholders: dataSet.placeholderFiles ? String(dataSet.placeholderFiles) : '',
      encrypted: dataSet.encrypted ? String(dataSet.encrypted.files) : '',
      keyWhere: dataSet.encrypted?.keyWhere ?? '',
      largest: dataSet.largestFileBytes === 0 ? '' : printExactBytes(dataSet.largestFileBytes, 'decimal'),
    },
  });
  const { register, handleSubmit, formState, watch } = form;
  const forgetDraft = useFormDraft(`${move.reference} data set ${dataSet.id}`, form);
  const close = () => {
    forgetDraft();
    onClose();
  };
  const { errors } = formState;
  const submit = handleSubmit(
    async ({ name, kind, path, place, size, files, largest, placeholders, encrypted, keyWhere }) => {
      const sizeBytes = bytesOf(size);
      const kept = await onKeep({
        id: dataSet.id,
        ...(dataSet.part ? { part: dataSet.part } : {}),
        ...(Number(placeholders) > 0 ? { placeholderFiles: Number(placeholders) } : {}),
        ...(Number(encrypted) > 0 ? { encrypted: { files: Number(encrypted), keyWhere } } : {}),
        name,
        kind,
        path,
        place,
        sizeBytes,
        fileCount: Number(files),
        largestFileBytes: largest === '' ? 0 : bytesOf(largest),
      });
      if (kept) close();
    },
  );
  return (
    <FormDialog
      title={dataSet.name || 'A data set'}
      action="Save"
      error={error}
      busy={formState.isSubmitting}
      onSubmit={() => void submit()}
      onClose={close}
    >
      <Field label="Name" error={errors.name?.message}>
        {(ids) => <Form.Control {...ids} {...register('name')} autoFocus />}
      </Field>
      <div className="row">
        <div className="col-6">
          <Field label="Kind">
            {(ids) => (
              <Form.Select {...ids} {...register('kind')}>
                {dataSetKinds.map((kind) => (
                  <option key={kind} value={kind}>
                    {kind.replace('-', ' ')}
                  </option>
                ))}
              </Form.Select>
            )}
          </Field>
        </div>
        <div className="col-6">
          <Field label="Is on">
            {(ids) => (
              <Form.Select {...ids} {...register('place')}>
                <option value="system-partition">the system partition</option>
                <option value="data-partition">a data partition</option>
                <option value="other-disk">another disk</option>
              </Form.Select>
            )}
          </Field>
        </div>
      </div>
      <Field label="Path">
        {(ids) => <Form.Control {...ids} className="mono" {...register('path')} maxLength={1024} />}
      </Field>
      <div className="row">
        <div className="col-4">
          <Field
            label="Size"
            hint={reading(watch('size')) ?? '74.2 GB, 69 GiB, 1200'}
            error={errors.size?.message}
          >
            {(ids) => <Form.Control {...ids} {...register('size')} />}
          </Field>
        </div>
        <div className="col-4">
          <Field label="Files" error={errors.files?.message}>
            {(ids) => <Form.Control {...ids} {...register('files')} inputMode="numeric" />}
          </Field>
        </div>
        <div className="col-4">
          <Field
            label="Largest file"
            hint={reading(watch('largest')) ?? 'may be left empty'}
            error={errors.largest?.message}
          >
            {(ids) => <Form.Control {...ids} {...register('largest')} />}
          </Field>
        </div>
      </div>
      <div className="row">
        <div className="col-4">
          <Field
            label="Only placeholders"
            hint="files that are in a cloud"
            error={errors.placeholders?.message}
          >
            {(ids) => <Form.Control {...ids} {...register('placeholders')} inputMode="numeric" />}
          </Field>
        </div>
        <div className="col-4">
          <Field label="Encrypted files" error={errors.encrypted?.message}>
            {(ids) => <Form.Control {...ids} {...register('encrypted')} inputMode="numeric" />}
          </Field>
        </div>
        <div className="col-4">
          <Field label="Where their key is" hint="the key itself goes into the vault">
            {(ids) => <Form.Control {...ids} {...register('keyWhere')} maxLength={300} />}
          </Field>
        </div>
      </div>
    </FormDialog>
  );
}
