import { zodResolver } from '@hookform/resolvers/zod';
import { DestinationSchema, type Destination } from '@ulvane/core/backup';
import { printExactBytes } from '@ulvane/core/quantity';
import { useForm } from 'react-hook-form';
import { z } from 'zod';
import { useFormDraft } from '../../shell/useDraft';
import { useOpenMove } from '../MoveContext';
import { DriveFields } from '../../drives/DriveFields';
import { clusterFrom, destinationKinds } from '../../drives/words';
import { HalfChoice, HalfText } from '../../shell/fields';
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
  const { move } = useOpenMove();
  const { bytesOf, size, reading } = useSizes();
  const form = useForm({
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
  const { register, handleSubmit, formState, watch } = form;
  const forgetDraft = useFormDraft(`${move.reference} destination ${destination?.id ?? 'new'}`, form);
  const close = () => {
    forgetDraft();
    onClose();
  };
  const { errors } = formState;
  const submit = handleSubmit(async ({ capacity, free, cluster, ...rest }) => {
    const sizes = { capacityBytes: bytesOf(capacity), freeBytes: bytesOf(free), ...clusterFrom(cluster) };
    if (await onKeep({ ...rest, ...sizes })) close();
  });
  return (
    <FormDialog
      title={destination?.name ?? 'A destination'}
      action="Save"
      error={error}
      busy={formState.isSubmitting}
      onSubmit={() => void submit()}
      onClose={close}
    >
      <div className="row">
        <HalfText label="Name on its label" of={register('name')} error={errors.name?.message} autoFocus />
        <HalfText label="Serial" of={register('serial')} mono />
        <HalfText
          label="Capacity as formatted"
          of={register('capacity')}
          hint={reading(watch('capacity')) ?? 'A drive sold as 256 GB shows about 238 GiB'}
          error={errors.capacity?.message}
        />
        <HalfText
          label="Free now"
          of={register('free')}
          hint={reading(watch('free'))}
          error={errors.free?.message}
        />
        <HalfChoice label="What it is" of={register('kind')} options={destinationKinds} />
        <DriveFields register={register} />
      </div>
    </FormDialog>
  );
}
