import { restartsSentence } from './restarts';
import { releaseTitle } from '../../catalogue/find';
import { riskOf } from '../../backup/scope/scope';
import { explainSizeBox } from '../../disk/sizeBox';
import { printCount } from '../../quantity/count';
import { mebibyteBytes, printBothUnits, printBytes } from '../../quantity/bytes';
import { diskBytes, diskMark, partitionBytes, systemDisk, systemPartition } from '../../survey/disk';
import { isEmptyDevice, valueOf } from '../../survey/facts';
import { diskToWrite } from '../diskToWrite';
import { diskIdOf, newSystem } from '../machineOf';
import { wantedSizeBox } from '../sizeToType';
import { apartInInstaller, layoutApart } from '../layoutApart';
import { installWait } from '../installWait';
import type { Effect } from '../step';
import type { RunbookInput, StepInput, StepMaker } from '../input';

/** Effects of a step that empties what the route writes over. */
export function erased({ dataSets, route }: RunbookInput): readonly Effect[] {
  const ids = dataSets
    .filter((dataSet) => riskOf(dataSet, route.writesOver) === 'at-risk')
    .map(({ id }) => id);
  return ids.length === 0 ? [] : [{ kind: 'erased', dataSetIds: ids }];
}

export const startUpgrade: StepMaker = (input) => {
  const { release } = input;
  return release
    ? [
        {
          words: () => ({
            title: `Start the upgrade to ${releaseTitle(release)} from inside the running system`,
            why: `Keep files, settings and applications. ${restartsSentence(release.restarts)}.`,
            success: 'The first start shows the owner’s own desktop.',
            caution: `Do not switch off, however still it seems. ${release.goBackDays === 0 ? 'There is no way back but the backup.' : `The old system is kept for ${printCount(release.goBackDays, 'day')}: until then the upgrade can be taken back.`}`,
          }),
          operators: () => [{ op: 'upgrade', ...newSystem(input) }],
          destructive: true,
          troubles: ['power-lost', 'black-screen', 'key-refused', 'update-never-ends'],
        },
      ]
    : [];
};

/** The number to type, when the technician wants a size of their own for the system. */
function sizeToType(input: RunbookInput): string {
  const box = wantedSizeBox(input);
  return box ? ` ${explainSizeBox(box)}` : '';
}

/** The places of a layout that was planned for the whole disk or the system's place. */
function plannedLayout({ diskWork }: StepInput): string {
  const created =
    diskWork?.work.kind === 'layout' &&
    (diskWork.work.goal.kind === 'wipe' || diskWork.work.goal.kind === 'standard')
      ? diskWork.operations.filter(({ kind }) => kind === 'create')
      : [];
  return created.length === 0 ? '' : ` Planned: ${created.map(({ sentence }) => sentence).join(' ')}`;
}

/** What the installer would have made by itself, for those who partition by hand. */
function ownPartitions({ release }: RunbookInput): string {
  const own = release?.installerPartitions ?? [];
  return own.length === 0
    ? ''
    : ` Make first: ${own.map(({ purpose, sizeBytes }) => `${purpose} ${printBytes(sizeBytes, 'binary')}`).join(', ')}.`;
}

/** The system’s share and the partitions for data, in whole MiB as they are typed, for those who partition by hand. */
function partsByHand(input: StepInput): string {
  const layout = apartInInstaller(input);
  if (!layout) return '';
  const parts = layout.parts.map(({ name, sizeBytes }) =>
    sizeBytes === null ? `${name} with the rest` : `${name} ${Math.floor(sizeBytes / mebibyteBytes)} MiB`,
  );
  return ` Then the system ${Math.ceil(layout.systemBytes / mebibyteBytes)} MiB, ${parts.join(', ')}.`;
}

export const eraseDisk: StepMaker = (input) => {
  const disk = diskToWrite(input);
  const { partitioning } = input.houseRules;
  const what = disk
    ? `disk ${diskMark(disk)}, ${printBytes(diskBytes(disk), 'decimal')}`
    : 'the disk with the serial number and size noted';
  // A disk of which nobody listed the partitions may still have some.
  const isBlank = disk?.partitions.length === 0 && isEmptyDevice(input.facts);
  return [
    {
      words: () => ({
        title: isBlank ? `Take ${what}, which has no partition` : `Erase every partition on ${what}`,
        why:
          partitioning === 'guided'
            ? `The new system gets the whole disk; the installer lays it out by itself.${sizeToType(input)}${plannedLayout(input)}`
            : `The new system gets the whole disk; every partition is made by hand.${ownPartitions(input)}${partsByHand(input) || sizeToType(input)}${plannedLayout(input)}`,
        success: 'The installer shows one run of free space of the disk’s full size.',
        caution: 'Serial number and size again, on the installer’s own page, before the key is pressed.',
      }),
      operators: () => [{ op: 'erase', disk: diskIdOf(input) }],
      destructive: true,
      effects: erased(input),
      troubles: ['no-disk-shown', 'wrong-scheme', 'disk-asks-password', 'power-lost'],
    },
  ];
};

export const formatSystem: StepMaker = (input) => {
  const disk = systemDisk(valueOf(input.facts, 'disks'));
  const system = systemPartition(disk);
  if (!disk || !system) return [];
  const stay = disk.partitions.filter(({ role }) => role === 'data').map(({ number }) => number);
  return [
    {
      words: () => ({
        title: `Format partition ${system.number} on disk ${diskMark(disk)}`,
        why: `${printBothUnits(partitionBytes(disk, system))}${system.label ? `, label ${system.label}` : ''}. Not partition ${stay.join(', ')}: that is the owner’s data.${sizeToType(input)}${plannedLayout(input)}`,
        success: 'Only this partition shows as free; the data partitions keep number, label and size.',
        caution: 'Number, label and size must all agree before the key is pressed.',
      }),
      operators: () => [{ op: 'format-system', disk: disk.name }],
      destructive: true,
      effects: erased(input),
      troubles: ['no-disk-shown', 'wrong-scheme', 'disk-asks-password', 'power-lost'],
    },
  ];
};

export const install: StepMaker = (input) => {
  const { release, route } = input;
  return release
    ? [
        {
          words: () => ({
            title: `Install ${releaseTitle(release)}`,
            why: `Edition ${release.edition || release.name}, to fit the licence. ${restartsSentence(release.restarts)}.`,
            success: 'The progress reaches its end and the device restarts by itself.',
          }),
          operators: () => [
            {
              op: 'install',
              into: route.writesOver === 'system-partition' ? 'system-partition' : 'empty-disk',
              ...newSystem(input),
              ...(apartInInstaller(input) ? { dataApart: true as const } : {}),
            },
          ],
          extraWaiting: installWait(input, release),
          troubles: ['wrong-scheme', 'key-refused', 'no-network', 'signatures-refused', 'power-lost'],
        },
      ]
    : [];
};

export const stickOut: StepMaker = () => [
  {
    words: () => ({
      title: 'Take the stick out at the first restart',
      why: 'Else set-up starts again from the beginning.',
      success: 'The device goes on from its own disk.',
    }),
    operators: () => [{ op: 'take-out' }],
    troubles: ['set-up-loops', 'loader-prompt', 'black-screen'],
  },
];

/** Data apart, where the installer has laid out one partition: the system comes down to its share. */
export const makeDataPartition: StepMaker = (input) => {
  const layout = layoutApart(input);
  if (!layout || apartInInstaller(input)) return [];
  const { houseRules, preparation } = input;
  const disk = diskToWrite(input);
  const mebibytes = Math.ceil(layout.systemBytes / mebibyteBytes);
  const sized = layout.parts.reduce((sum, { sizeBytes }) => sum + (sizeBytes ?? 0), 0);
  const rest = disk ? diskBytes(disk) - layout.systemBytes - sized : undefined;
  const left =
    rest !== undefined && rest > 0 ? `, about ${printBothUnits(rest, houseRules.spokenGigabyte)},` : '';
  const parts = layout.parts
    .map(({ name, sizeBytes }) =>
      sizeBytes === null
        ? ` and give the rest${left} to ${name}`
        : `, make ${name} of ${Math.floor(sizeBytes / mebibyteBytes)} MiB`,
    )
    .join('');
  const who =
    preparation.dataParts.length > 0 ? 'They are wanted apart.' : 'The house rules keep data apart.';
  return [
    {
      words: () => ({
        title:
          layout.parts.length === 1
            ? 'Make a data partition of its own'
            : `Make ${printCount(layout.parts.length, 'partition')} for data`,
        why: `${who} Shrink the system to ${mebibytes} MiB${parts}.`,
        success: 'The disk page shows system and data, each with its label.',
      }),
      operators: () => [{ op: 'make-data-partition' }],
      troubles: ['cannot-shrink'],
    },
  ];
};
