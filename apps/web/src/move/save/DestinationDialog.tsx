import { zodResolver } from '@hookform/resolvers/zod';
import { DestinationSchema, linkClasses, mediumClasses, type Destination } from '@ulvane/core/backup';
import { fileSystems } from '@ulvane/core/catalogue';
import { printExactBytes } from '@ulvane/core/quantity';
import Form from 'react-bootstrap/Form';
import { useForm } from 'react-hook-form';
import { z } from 'zod';
import { clusterChoices, clusterFrom, linkNames, mediumNames } from '../../drives/words';
import { Field } from '../../shell/Field';
import { FormDialog } from '../../shell/FormDialog';
import { nameField } from '../../shell/formFields';
import { useSizes } from '../../shell/useSizes';

type Written = Omit<Destination, 'id' | 'takes' | 'driveId'>;

type DestinationDialogProps = {
  readonly destination: Destination | undefined;
  readonly error: unknown;
  readonly onKeep: (written: Written) => Promise<boolean>;
  readonly onClose: () => void;
};

/** Types one destination, with its capacity as formatted. */
export function DestinationDialog({ destination, error, onKeep, onClose }: DestinationDialogProps) {
  const { bytesOf, size, reading } = useSizes();
  const { register, handleSubmit, formState, watch } = useForm({
    resolver: zodResolver(
      z.object({
        ...DestinationSchema.pick({ kind: true, fileSystem: true, link: true, medium: true }).shape,
        name: nameField,
        serial: z.string(),
        capacity: size,
        free: size,
        cluster: z.string(),
      }),
    ),
    defaultValues: {
      name: destination?.name ?? '',
      kind: destination?.kind ?? 'drive',
      serial: destination?.serial ?? '',
      capacity: destination ? printExactBytes(destination.capacityBytes, 'decimal') : '',
      free: destination ? printExactBytes(destination.freeBytes, 'decimal') : '',
      fileSystem: destination?.fileSystem ?? 'exfat',
      cluster: destination?.clusterBytes === undefined ? '' : String(destination.clusterBytes),
      link: destination?.link ?? 'usb3',
      medium: destination?.medium ?? 'spinning',
    },
  });
  const { errors } = formState;
  const submit = handleSubmit(async ({ capacity, free, cluster, ...rest }) => {
    const sizes = { capacityBytes: bytesOf(capacity), freeBytes: bytesOf(free), ...clusterFrom(cluster) };
    if (await onKeep({ ...rest, ...sizes })) onClose();
  });
  return (
    <FormDialog
      title={destination?.name ?? 'A destination'}
      action="Save"
      error={error}
      busy={formState.isSubmitting}
      onSubmit={() => void submit()}
      onClose={onClose}
    >
      <div className="row">
        <div className="col-6">
          <Field label="Name on its label" error={errors.name?.message}>
            {(ids) => <Form.Control {...ids} {...register('name')} autoFocus />}
          </Field>
        </div>
        <div className="col-6">
          <Field label="Serial">
            {(ids) => <Form.Control {...ids} className="mono" {...register('serial')} />}
          </Field>
        </div>
        <div className="col-6">
          <Field
            label="Capacity as formatted"
            hint={reading(watch('capacity')) ?? 'A drive sold as 256 GB shows about 238 GiB'}
            error={errors.capacity?.message}
          >
            {(ids) => <Form.Control {...ids} {...register('capacity')} />}
          </Field>
        </div>
        <div className="col-6">
          <Field label="Free now" hint={reading(watch('free'))} error={errors.free?.message}>
            {(ids) => <Form.Control {...ids} {...register('free')} />}
          </Field>
        </div>
        <div className="col-6">
          <Field label="What it is">
            {(ids) => (
              <Form.Select {...ids} {...register('kind')}>
                <option value="drive">backup drive</option>
                <option value="stick">stick</option>
                <option value="share">network share</option>
                <option value="cloud">cloud</option>
              </Form.Select>
            )}
          </Field>
        </div>
        <div className="col-6">
          <Field label="File system">
            {(ids) => (
              <Form.Select {...ids} {...register('fileSystem')}>
                {fileSystems.map(({ id, name }) => (
                  <option key={id} value={id}>
                    {name}
                  </option>
                ))}
              </Form.Select>
            )}
          </Field>
        </div>
        <div className="col-6">
          <Field label="Cluster size">
            {(ids) => (
              <Form.Select {...ids} {...register('cluster')}>
                {clusterChoices.map(([value, text]) => (
                  <option key={value} value={value}>
                    {text}
                  </option>
                ))}
              </Form.Select>
            )}
          </Field>
        </div>
        <div className="col-6">
          <Field label="Link">
            {(ids) => (
              <Form.Select {...ids} {...register('link')}>
                {linkClasses.map((link) => (
                  <option key={link} value={link}>
                    {linkNames[link]}
                  </option>
                ))}
              </Form.Select>
            )}
          </Field>
        </div>
        <div className="col-6">
          <Field label="Medium">
            {(ids) => (
              <Form.Select {...ids} {...register('medium')}>
                {mediumClasses.map((medium) => (
                  <option key={medium} value={medium}>
                    {mediumNames[medium]}
                  </option>
                ))}
              </Form.Select>
            )}
          </Field>
        </div>
      </div>
    </FormDialog>
  );
}
