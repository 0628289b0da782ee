import { zodResolver } from '@hookform/resolvers/zod';
import { api, type DriveView } from '@ulvane/contract';
import { driveHealths, DriveSchema } from '@ulvane/core/backup';
import { printExactBytes } from '@ulvane/core/quantity';
import { useState } from 'react';
import Form from 'react-bootstrap/Form';
import { useForm } from 'react-hook-form';
import { z } from 'zod';
import { useFormDraft } from '../shell/useDraft';
import { call } from '../api/call';
import { Field } from '../shell/Field';
import { FormDialog } from '../shell/FormDialog';
import { nameField } from '../shell/formFields';
import { useSizes } from '../shell/useSizes';
import { HalfChoice, HalfText } from '../shell/fields';
import { DriveFields } from './DriveFields';
import { clusterFrom, kindNames } from './words';

type DriveDialogProps = {
  readonly drive: DriveView | undefined;
  /** What a new one is used for. */
  readonly purpose?: DriveView['purpose'];
  readonly onKept: () => void;
  readonly onClose: () => void;
};

/** Types one drive of the inventory, with its capacity as formatted. */
export function DriveDialog({ drive, purpose = 'backup', onKept, onClose }: DriveDialogProps) {
  const [error, setError] = useState<unknown>();
  const { bytesOf, size, sizeOrEmpty, reading } = useSizes();
  const form = useForm({
    resolver: zodResolver(
      z.object({
        ...DriveSchema.pick({
          kind: true,
          purpose: true,
          fileSystem: true,
          link: true,
          medium: true,
          health: true,
        }).shape,
        name: nameField,
        serial: z.string(),
        capacity: size,
        other: sizeOrEmpty,
        cluster: z.string(),
        note: z.string(),
      }),
    ),
    defaultValues: {
      name: drive?.name ?? '',
      serial: drive?.serial ?? '',
      kind: drive?.kind ?? (purpose === 'installer' ? 'stick' : 'drive'),
      purpose: drive?.purpose ?? purpose,
      capacity: drive ? printExactBytes(drive.capacityBytes, 'decimal') : '',
      other: drive && drive.otherBytes > 0 ? printExactBytes(drive.otherBytes, 'decimal') : '',
      fileSystem: drive?.fileSystem ?? (purpose === 'installer' ? 'fat32' : 'exfat'),
      cluster: drive?.clusterBytes === undefined ? '' : String(drive.clusterBytes),
      link: drive?.link ?? 'usb3',
      medium: drive?.medium ?? (purpose === 'installer' ? 'stick' : 'spinning'),
      health: drive?.health ?? 'good',
      note: drive?.note ?? '',
    },
  });
  const { register, handleSubmit, formState, watch } = form;
  const forgetDraft = useFormDraft(`drive ${drive?.id ?? `new ${purpose}`}`, form);
  const close = () => {
    forgetDraft();
    onClose();
  };
  const { errors } = formState;
  const submit = handleSubmit(async ({ capacity, other, cluster, ...rest }) => {
    setError(undefined);
    try {
      await call(api.putDrive, {
        params: { id: drive?.id ?? crypto.randomUUID() },
        body: {
          version: drive?.version ?? 0,
          drive: {
            ...rest,
            ...clusterFrom(cluster),
            capacityBytes: bytesOf(capacity),
            otherBytes: other.trim() === '' ? 0 : bytesOf(other),
            holds: drive?.holds ?? [],
            seenOn: drive?.seenOn ?? null,
            seenAt: drive?.seenAt ?? '',
          },
        },
      });
      onKept();
      close();
    } catch (problem) {
      setError(problem);
    }
  });
  return (
    <FormDialog
      title={drive?.name ?? 'A drive'}
      action="Save"
      error={error}
      busy={formState.isSubmitting}
      onSubmit={() => void submit()}
      onClose={close}
    >
      <div className="row">
        <HalfText label="Name on its label" of={register('name')} error={errors.name?.message} autoFocus />
        <HalfText label="Serial" of={register('serial')} mono />
        <HalfChoice
          label="Used for"
          of={register('purpose')}
          options={[
            ['backup', 'backups'],
            ['installer', 'installers: erased with every image'],
          ]}
        />
        <HalfChoice label="What it is" of={register('kind')} options={Object.entries(kindNames)} />
        <HalfText
          label="Capacity as formatted"
          of={register('capacity')}
          hint={reading(watch('capacity')) ?? 'A drive sold as 256 GB shows about 238 GiB'}
          error={errors.capacity?.message}
        />
        <HalfText
          label="Used by other data"
          of={register('other')}
          hint={reading(watch('other')) ?? 'not by backups of moves'}
          error={errors.other?.message}
        />
        <DriveFields register={register} />
        <HalfChoice
          label="Health"
          of={register('health')}
          options={driveHealths.map((health) => [health, health])}
        />
      </div>
      <Field label="Note">{(ids) => <Form.Control {...ids} {...register('note')} maxLength={300} />}</Field>
    </FormDialog>
  );
}
