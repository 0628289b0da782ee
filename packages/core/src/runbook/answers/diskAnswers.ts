import type { InstallChoice } from '../../catalogue/installerPage';
import { gibibyteBytes, gigabyteBytes, printBytes } from '../../quantity/bytes';
import { diskBytes, diskMark, type Disk } from '../../survey/disk';
import { valueOf } from '../../survey/facts';
import { diskToWrite } from '../diskToWrite';
import { encryptedWhen, isInPlace } from '../machineOf';
import { wantedSizeBox } from '../sizeToType';
import { bold, plain, typed, type Answer } from './answer';
import { cautionOf, stepNumber, waitsFor, type AnswerContext, type AnswerMaker } from './context';
import { handSummary, type HandPartitions } from './handPartitions';

/** The page's own words for a choice; installers differ in them. */
const usualLabels: Readonly<Record<InstallChoice, string>> = {
  upgrade: 'Upgrade',
  'whole-disk': 'Whole disk',
  beside: 'Beside the present system',
  'by-hand': 'Custom',
};

/** Whether partitions are made by hand: the house wants it so, something on the disk is kept, or a layout was planned. */
export function isByHand({ input, hand }: Pick<AnswerContext, 'input' | 'hand'>): boolean {
  if (hand === undefined || isInPlace(input.route)) return false;
  const { diskWork } = input;
  const isPlanned =
    diskWork?.disk.name === hand.disk.name && diskWork.operations.some(({ kind }) => kind === 'create');
  return isPlanned || hand.kept.length > 0 || input.houseRules.partitioning === 'by-hand';
}

/** What a choice that is not meant would do. */
function consequence(choice: InstallChoice, hand: HandPartitions | undefined): string {
  // Small ones are the systems’ own: nobody would name what is lost with them.
  const kept = hand?.kept.filter(({ sizeBytes }) => sizeBytes >= gigabyteBytes) ?? [];
  switch (choice) {
    case 'whole-disk':
      return kept.length === 0
        ? 'It would erase the whole disk.'
        : `It would erase the whole disk, also ${kept
            .map(({ label, sizeBytes }) => `${label}, ${printBytes(sizeBytes, 'decimal')}`)
            .join(' and ')}.`;
    case 'upgrade':
      return 'It would keep the present system with its settings and its troubles.';
    case 'beside':
      return 'It would take room of its own choice, and keep the present system.';
    case 'by-hand':
      return 'It would lay out the disk, and keep no settings and no applications.';
  }
}

const upgradeOrCustom: AnswerMaker = ({ input, page, hand }) => {
  const wanted: InstallChoice = isInPlace(input.route)
    ? 'upgrade'
    : isByHand({ input, hand })
      ? 'by-hand'
      : 'whole-disk';
  const known = page.choices.map(({ means }) => means);
  // An installer without that choice lays out by hand what it does not offer by itself.
  const right = known.length === 0 || known.includes(wanted) ? wanted : 'by-hand';
  const labelOf = (choice: InstallChoice) =>
    page.choices.find(({ means }) => means === choice)?.label ?? usualLabels[choice];
  const wrong = page.opensWith !== undefined && page.opensWith !== right ? page.opensWith : undefined;
  return {
    hand: 'choose',
    pieces: [
      ...(wrong === undefined ? [] : [{ text: labelOf(wrong), as: 'not-picked' as const }]),
      { text: labelOf(right), as: 'picked' },
    ],
    from: 'decision',
    ...(wrong === undefined
      ? {}
      : { caution: `“${labelOf(wrong)}” is selected when this page opens. ${consequence(wrong, hand)}` }),
  };
};

/** As installers show a disk: in GiB, one place behind the point. */
const shownAs = (disk: Disk) => (diskBytes(disk) / gibibyteBytes).toFixed(1);

const disk: AnswerMaker = ({ input }) => {
  const target = diskToWrite(input);
  if (!target) return waitsFor('disks');
  const others = (valueOf(input.facts, 'disks') ?? []).filter((one) => one.name !== target.name);
  return {
    hand: 'choose',
    pieces: [
      bold(diskMark(target)),
      plain('shown as'),
      bold(`${shownAs(target)} GiB.`),
      plain(
        [
          ...(input.installerMedium === 'stick' ? ['Not the stick.'] : []),
          ...others.map((one) => `Not ${diskMark(one)}, ${shownAs(one)} GiB.`),
        ].join(' '),
      ),
    ].filter(({ text }) => text !== ''),
    from: 'survey',
  };
};

const partitions: AnswerMaker = (context) => {
  const { hand, input } = context;
  if (isInPlace(input.route))
    return {
      hand: 'leave',
      pieces: [plain('As they are: an upgrade changes no partition.')],
      from: 'decision',
    };
  if (!hand) return waitsFor('disks');
  if (!isByHand(context)) {
    const whole = [bold(`The whole of ${hand.disk.called}.`), plain('The installer lays it out by itself.')];
    const box = wantedSizeBox(input);
    return box
      ? {
          hand: 'type',
          pieces: [...whole, plain('Size of the system:'), typed(box.type), plain(`${box.unit}.`)],
          from: 'preparation',
        }
      : { hand: 'choose', pieces: whole, from: 'house-rule' };
  }
  return {
    hand: 'type',
    pieces: [bold(`${handSummary(hand)}:`), plain('see “Partitions by hand”.')],
    from: 'disk-plan',
  };
};

const fileSystem: AnswerMaker = ({ release }) => ({
  hand: 'choose',
  pieces: [bold(release.systemFileSystem)],
  from: 'release',
});

/** A laptop may sleep to its disk, and then writes all of its memory there. */
const swap: AnswerMaker = ({ input }) => {
  const memory = valueOf(input.facts, 'memoryBytes');
  if (memory === undefined) return waitsFor('memoryBytes');
  const isLaptop = valueOf(input.facts, 'chassis') !== 'desktop';
  const bytes = isLaptop ? memory : Math.min(memory, 4 * gibibyteBytes);
  return {
    hand: 'choose',
    pieces: [
      bold(`A swap file of ${printBytes(bytes, 'binary')}`),
      plain(isLaptop ? 'as much as the memory, for sleep.' : 'a desktop does not sleep to its disk.'),
    ],
    from: 'survey',
  };
};

const loader: AnswerMaker = ({ hand, input }) => {
  const target = diskToWrite(input);
  if (!target) return waitsFor('disks');
  const efi = hand?.loader;
  return {
    hand: 'choose',
    pieces: [
      plain('Disk'),
      bold(`${diskMark(target)}${efi ? `, partition ${efi.number}` : ''}.`),
      ...(input.installerMedium === 'stick' ? [plain('Not the stick.')] : []),
    ],
    from: 'disk-plan',
  };
};

const encryption: AnswerMaker = (context): Answer => {
  const { input, steps } = context;
  const when = encryptedWhen(input);
  const wanted = input.houseRules.encryption;
  if (when === null)
    return {
      hand: 'choose',
      pieces: [
        bold('No.'),
        plain(wanted === 'off' ? 'The house does not encrypt.' : 'The disk stays encrypted as it is.'),
      ],
      from: wanted === 'off' ? 'house-rule' : 'survey',
      ...cautionOf(context, ['encryption-by-itself']),
    };
  if (when === 'during-setup')
    return {
      hand: 'type',
      pieces: [bold('Yes.'), plain('The passphrase from the vault:')],
      from: 'vault',
      secret: 'password',
      ...cautionOf(
        context,
        ['encryption'],
        'The passphrase is in the vault before this page is left: without it the files are gone.',
      ),
    };
  const later = stepNumber(steps, 'encrypt');
  return {
    hand: 'choose',
    pieces: [
      bold('No.'),
      plain(later === undefined ? 'It stays off for now.' : `Step ${later} switches it on.`),
    ],
    from: 'house-rule',
    ...cautionOf(context, ['encryption']),
  };
};

export const diskAnswers = {
  'upgrade-or-custom': upgradeOrCustom,
  disk,
  partitions,
  'file-system': fileSystem,
  swap,
  loader,
  encryption,
} as const;
