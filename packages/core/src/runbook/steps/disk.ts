import type { PlannedOperation } from '../../disk/layout/operation';
import type { ThreePoint } from '../../quantity/duration';
import type { Operator } from '../../machine/operator';
import { diskMark } from '../../survey/disk';
import type { DiskWorkPlan } from '../diskWork';
import type { StepDraft, StepMaker } from '../input';

/** The plan's minutes as a wait: half when all goes well, three times when the disk is slow. */
function waitOf(minutes: number): ThreePoint {
  return { low: minutes / 2, likely: minutes, high: minutes * 3 };
}

/** Layouts of a whole disk or of the system's place are the installer's own work. */
const laidOutByInstaller = ({ work }: DiskWorkPlan) =>
  work.kind === 'layout' && (work.goal.kind === 'wipe' || work.goal.kind === 'standard');

/** What an operation on the table does to the machine; one that only adds to free space changes nothing that is asked for. */
function operatorsOf(operation: PlannedOperation, disk: string): readonly Operator[] {
  switch (operation.kind) {
    case 'shrink':
      return [{ op: 'shrink', disk, partition: operation.partition }];
    case 'move':
      return [{ op: 'move-partition', disk, partition: operation.partition }];
    case 'delete':
      return [{ op: 'delete-partition', disk, partition: operation.partition }];
    case 'create':
    case 'format':
    case 'grow':
    case 'set-type':
    case 'convert':
      return [];
  }
}

/** The step of an operation that was planned on a table. */
export function diskStepId(operation: PlannedOperation, index: number): string {
  return `disk:${operation.kind}:${'partition' in operation ? operation.partition : index}`;
}

function draftOf(operation: PlannedOperation, plan: DiskWorkPlan, index: number): StepDraft {
  const gone = operation.kind === 'move' || operation.kind === 'delete';
  return {
    words: () => ({
      title: `${operation.sentence.replace(/\.$/, '')} (disk ${diskMark(plan.disk)})`,
      why: `Undo: ${operation.undo}`,
      success: 'The disk page shows the new place and size, and the files open.',
      caution: `If the power fails: ${operation.ifPowerFails}`,
    }),
    id: diskStepId(operation, index),
    operators: () => operatorsOf(operation, plan.disk.name),
    extraWaiting: waitOf(operation.minutes),
    destructive: gone,
    troubles: operation.kind === 'shrink' ? ['cannot-shrink', 'power-lost'] : ['power-lost'],
  };
}

export const keepTable: StepMaker = ({ diskWork }) =>
  diskWork
    ? [
        {
          words: () => ({
            title: `Keep the old sectors of disk ${diskMark(diskWork.disk)}: the undo capsule`,
            why: 'The table of the disk is about to be rewritten. With the capsule it comes back to the byte.',
            success:
              'The capsule is stored with this move, and a copy of it is on a stick that is not the installer.',
            caution: [
              ...diskWork.first,
              'Read the disk’s first and last sectors again if anything was changed since: a capsule of another state does not undo.',
            ].join(' '),
          }),
          operators: () => [{ op: 'keep-sectors', disk: diskWork.disk.name }],
          troubles: ['power-lost'],
        },
      ]
    : [];

export const shrinkPartitions: StepMaker = ({ diskWork }) =>
  diskWork && !laidOutByInstaller(diskWork)
    ? diskWork.operations.flatMap((operation, index) =>
        operation.kind === 'shrink' ? [draftOf(operation, diskWork, index)] : [],
      )
    : [];

export const changeLayout: StepMaker = ({ diskWork }) =>
  diskWork && diskWork.work.kind === 'layout' && !laidOutByInstaller(diskWork)
    ? diskWork.operations.flatMap((operation, index) =>
        operation.kind === 'shrink' ? [] : [draftOf(operation, diskWork, index)],
      )
    : [];

const converting = (plan: DiskWorkPlan | undefined) =>
  plan?.work.kind === 'convert' ? { plan, target: plan.work.target } : undefined;

const schemeNames = { gpt: 'GPT', mbr: 'MBR' } as const;

export const convertScheme: StepMaker = ({ diskWork }) => {
  const conversion = converting(diskWork);
  if (!conversion) return [];
  const { plan, target } = conversion;
  const rest = plan.operations.filter(({ kind }) => kind !== 'shrink' && kind !== 'convert');
  const minutes = plan.operations
    .filter(({ kind }) => kind !== 'shrink')
    .reduce((sum, operation) => sum + operation.minutes, 0);
  return [
    {
      words: () => ({
        title: `Convert disk ${diskMark(plan.disk)} from ${plan.before.scheme.toUpperCase()} to ${schemeNames[target]}`,
        why: `Contents stay where they are, to the byte. ${rest.map(({ sentence }) => sentence).join(' ')} Step one of three: boot files and firmware follow, or it does not start.`,
        success: `The disk page says ${schemeNames[target]}, and every partition begins where it did.`,
        caution:
          'Serial number and size again. If the power fails, write the undo capsule back and begin anew.',
      }),
      operators: () => [{ op: 'convert', disk: plan.disk.name, scheme: target }],
      extraWaiting: waitOf(minutes),
      destructive: true,
      troubles: ['power-lost'],
    },
  ];
};

export const bootFiles: StepMaker = ({ diskWork }) => {
  const conversion = converting(diskWork);
  if (!conversion) return [];
  const { plan, target } = conversion;
  const efi = plan.after.partitions.find(
    ({ typeCode, role }) => role === 'efi' || typeCode.startsWith('C12A7328'),
  );
  return [
    {
      words: () => ({
        title:
          target === 'gpt'
            ? `Make the boot files${efi ? ` on the EFI system partition (partition ${efi.number})` : ''}`
            : 'Make the boot files, and mark their partition active',
        why: 'The system’s own repair tool writes them. Step two of three: without them the converted disk does not start.',
        success: 'The tool reports that the boot files were made for this system.',
      }),
      operators: () => [{ op: 'write-loader' }],
      troubles: ['recovery-key-asked', 'power-lost'],
    },
  ];
};

export const switchFirmware: StepMaker = ({ diskWork, keys }) => {
  const conversion = converting(diskWork);
  if (!conversion) return [];
  const mode = conversion.target === 'gpt' ? 'UEFI' : 'legacy';
  return [
    {
      words: () => ({
        title: `Switch the firmware to ${mode} mode`,
        why: `${schemeNames[conversion.target]} starts in ${mode} mode. Step three of three. Set-up key: ${keys.setup}.`,
        success: 'The present system starts from the converted disk.',
        caution: 'The recovery key may be asked for at this start: have it at hand.',
      }),
      operators: () => [
        { op: 'start', what: 'firmware' },
        { op: 'set-switch', to: { switch: 'mode', only: conversion.target === 'gpt' ? 'uefi' : 'legacy' } },
        { op: 'start', what: 'present' },
      ],
      troubles: ['does-not-start', 'recovery-key-asked'],
    },
  ];
};
