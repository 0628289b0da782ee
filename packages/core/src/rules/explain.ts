import { houseRuleKeys, type HouseRules, type HouseRuleKey } from './houseRules';
import { rateIds, rateLabels } from './rates';
import { setUpIds, setUpLabels } from './setUpNames';
import { termIds, termLabels } from './weights';

type HouseRuleText = {
  readonly title: string;
  /** Why the shipped answer is what it is. */
  readonly defaultBecause: string;
  /** What each profile says for its answer, in fair words. */
  readonly sides: readonly { readonly value: string; readonly label: string; readonly reason: string }[];
  /** What the setting does to a plan. */
  readonly effect: string;
};

/** Both sides' reasons for each setting, shown beside the choice. */
export const houseRuleTexts: Record<HouseRuleKey, HouseRuleText> = {
  manner: {
    title: 'Keep everything or start clean',
    defaultBecause: 'What is not moved cannot be lost on the way.',
    sides: [
      {
        value: 'keep',
        label: 'Keep everything',
        reason: 'Files, settings and applications stay where the owner knows them; less is left to forget.',
      },
      {
        value: 'start-clean',
        label: 'Start clean',
        reason: 'Years of leftovers and unwanted software go at once, and the result is known.',
      },
    ],
    effect: 'Which routes the advice prefers, by the weight of house rules.',
  },
  erase: {
    title: 'Clean installs erase',
    defaultBecause: 'Data on the same disk has to be saved all the same, so the tidy layout costs little.',
    sides: [
      {
        value: 'whole-disk',
        label: 'Every partition on the disk',
        reason: 'One known layout; nothing old is left to trip over.',
      },
      {
        value: 'system-partition',
        label: 'Only the system partition',
        reason: 'Data that is already apart does not have to be copied at all.',
      },
    ],
    effect: 'Which clean install the advice prefers.',
  },
  otherDisks: {
    title: 'Other disks during the install',
    defaultBecause:
      'Serial number and size can be checked from the chair; cases are opened by qualified people.',
    sides: [
      { value: 'unplug', label: 'Unplug', reason: 'A disk that is not there cannot be erased.' },
      {
        value: 'tell-apart',
        label: 'Tell apart by size and serial',
        reason: 'Opening the case costs time and risks the connectors.',
      },
    ],
    effect: 'A step to unplug the other disks, or a step to tell them apart.',
  },
  savedAs: {
    title: 'What a backup holds',
    defaultBecause: 'Every file can be compared by itself; the list of forgotten things does the rest.',
    sides: [
      { value: 'data', label: 'User data only', reason: 'Small, quick, and readable on any system.' },
      { value: 'image', label: 'A full image of the disk', reason: 'Whatever nobody thought of is in it.' },
      {
        value: 'both',
        label: 'Both',
        reason: 'The image for what was forgotten, the files for what is needed tomorrow.',
      },
    ],
    effect: 'The copy steps take the data sets, an image of the disk, or both.',
  },
  copiesBeforeLine: {
    title: 'Copies before the Line',
    defaultBecause: 'The two-device rule has saved more files than any other.',
    sides: [
      {
        value: '1',
        label: 'One',
        reason: 'Half the copying time; one verified copy on a good drive has served most desks well.',
      },
      {
        value: '2',
        label: 'Two',
        reason: 'A backup drive fails on the day it is needed; two devices do not fail together.',
      },
    ],
    effect: 'One more copy-and-verify step for each data set, and a gate that waits for it.',
  },
  copyProof: {
    title: 'How a copy of what is erased is checked',
    defaultBecause: 'A copy that nobody has read is a hope; the comparison runs by itself.',
    sides: [
      {
        value: 'compared',
        label: 'One copy compared in full, the others at least sampled',
        reason: 'Every file is known to be on one device; a bad cable or a bad sector shows before the Line.',
      },
      {
        value: 'sampled',
        label: 'A random sample is enough',
        reason: 'A sample finds what damages many files, in minutes where a comparison takes hours.',
      },
      {
        value: 'stated',
        label: 'A statement by hand is enough',
        reason: 'Where the copying program compares by itself, its word need not be proved twice.',
      },
    ],
    effect: 'Which copies the gate before the Line counts. What the route keeps needs a statement only.',
  },
  cloudCopyCounts: {
    title: 'A cloud copy counts as a copy',
    defaultBecause: 'A gate counts only what has been compared by checksum.',
    sides: [
      {
        value: 'true',
        label: 'Counts',
        reason: 'It is away from the bench and is kept by people whose job it is.',
      },
      {
        value: 'false',
        label: 'Does not count',
        reason: 'Placeholders look like files; nobody here has compared its checksums.',
      },
    ],
    effect: 'Copies on a cloud destination are counted at the gate, or are not.',
  },
  dataPartition: {
    title: 'Layout after a clean install',
    defaultBecause: 'Most disks are small, and a size that was guessed is wrong after a year.',
    sides: [
      {
        value: 'one',
        label: 'One big partition',
        reason: 'Space is where it is needed; nobody runs out on one side.',
      },
      {
        value: 'separate',
        label: 'A data partition of its own',
        reason: 'The next install need not touch the data.',
      },
    ],
    effect: 'A step that makes the data partition, after the install.',
  },
  encryption: {
    title: 'Device encryption',
    defaultBecause: 'A restore that goes wrong is easier to fix in clear.',
    sides: [
      { value: 'during-setup', label: 'During set-up', reason: 'No file is ever on the disk in clear.' },
      {
        value: 'after',
        label: 'After the restore',
        reason: 'The restore runs faster and trouble is easier to fix; the key is recorded when all is well.',
      },
      {
        value: 'off',
        label: 'Off',
        reason: 'A desk that holds nothing personal; a lost key cannot lock anyone out.',
      },
    ],
    effect: 'Where the encryption step is in the runbook, or whether there is one.',
  },
  networkDuringSetup: {
    title: 'Network during set-up',
    defaultBecause: 'The time it takes is known, and the first fixes come under supervision.',
    sides: [
      { value: 'online', label: 'Online', reason: 'Drivers and fixes come at once.' },
      {
        value: 'offline',
        label: 'Offline',
        reason:
          'Set-up asks for fewer accounts, takes a known time, and is not exposed before its first fixes.',
      },
    ],
    effect: 'The network is left connected, or taken off until the first start.',
  },
  account: {
    title: 'First account',
    defaultBecause: 'A device that is lost can be locked from the office.',
    sides: [
      {
        value: 'organisation',
        label: 'Organisation account',
        reason: 'One place to revoke it when a device is lost.',
      },
      {
        value: 'online',
        label: 'The owner’s online account',
        reason: 'Settings and licences follow the owner.',
      },
      {
        value: 'local',
        label: 'Local account',
        reason: 'Works with no network and gives nothing to anyone.',
      },
    ],
    effect: 'What the account step says, and whether set-up needs a network.',
  },
  boot: {
    title: 'Starting from the stick',
    defaultBecause: 'There is nothing to forget afterwards.',
    sides: [
      { value: 'menu-once', label: 'Boot menu, once', reason: 'Nothing to put back afterwards.' },
      {
        value: 'change-order',
        label: 'Change the boot order',
        reason: 'Survives the restarts on firmware that forgets the menu’s choice.',
      },
    ],
    effect: 'A step to put the boot order back at the end.',
  },
  efiPartition: {
    title: 'EFI system partition of a second system',
    defaultBecause: 'The old system’s updates have overwritten a shared loader before.',
    sides: [
      {
        value: 'share',
        label: 'Share the one there is',
        reason: 'The firmware’s menu lists both; nothing has to shrink for it.',
      },
      {
        value: 'own',
        label: 'Make a new one',
        reason: 'Each system’s updates touch their own loader only; removing one leaves the other whole.',
      },
    ],
    effect: 'What the side-by-side install says about the EFI system partition.',
  },
  stick: {
    title: 'Size of the installer stick',
    defaultBecause: 'The next release is larger than this one.',
    sides: [
      { value: 'minimum', label: 'The minimum', reason: 'The small sticks get used up.' },
      {
        value: 'with-margin',
        label: 'With margin',
        reason: 'Images grow with every release; drivers fit beside the image.',
      },
    ],
    effect: 'A quarter is added to the bytes that the stick must hold.',
  },
  stickTool: {
    title: 'How installer sticks are made',
    defaultBecause: 'It downloads and checks in one go.',
    sides: [
      {
        value: 'official',
        label: 'The maker’s own tool',
        reason: 'It picks the newest image and checks it.',
      },
      {
        value: 'image-writer',
        label: 'An image writer',
        reason: 'One tool for every system, and the image is the one that was tested.',
      },
      {
        value: 'by-hand',
        label: 'By hand',
        reason: 'No tool to trust: one partition, and the files of the image that was compared.',
      },
    ],
    effect:
      'What the step that writes the stick asks for; where that way cannot do the job, the next one is taken.',
  },
  belowMinimum: {
    title: 'A device below the minimum',
    defaultBecause: 'It is the only answer that costs nothing and keeps promised fixes.',
    sides: [
      {
        value: 'waive',
        label: 'Waive the checks',
        reason: 'The device serves on; fixes usually come all the same.',
      },
      {
        value: 'alternative',
        label: 'Use an alternative system',
        reason: 'Fixes are promised, and the hardware is fast enough for it.',
      },
      {
        value: 'replace',
        label: 'Replace the device',
        reason: 'One move now instead of two; parts and patience are spent only once.',
      },
    ],
    effect: 'Which routes the advice prefers where no release of the family accepts the device.',
  },
  partitioning: {
    title: 'Partitioning in the installer',
    defaultBecause: 'On a disk that is wiped whole there is nothing to protect from it.',
    sides: [
      {
        value: 'guided',
        label: 'Guided',
        reason: 'The installer knows its own small partitions; fewer mistakes.',
      },
      {
        value: 'by-hand',
        label: 'By hand',
        reason: 'Nothing happens that was not typed; sizes come out as planned.',
      },
    ],
    effect: 'Whether the erase step types sizes or lets the installer lay the disk out.',
  },
  automaticSignIn: {
    title: 'Sign-in at the start',
    defaultBecause: 'Whoever finds the device is not let into the owner’s files.',
    sides: [
      {
        value: 'off',
        label: 'Asked for',
        reason: 'A device that is lost or stolen opens for nobody, and encryption is worth something.',
      },
      {
        value: 'on',
        label: 'Automatic',
        reason: 'A desk that many share, or an owner who cannot type, starts working at once.',
      },
    ],
    effect: 'What is chosen for the first account at the first start, with its consequence.',
  },
  looksAfter: {
    title: 'Who looks after a device afterwards',
    defaultBecause: 'Most devices go back to somebody who has them alone.',
    sides: [
      {
        value: 'owner',
        label: 'Its owner',
        reason: 'What takes practice to keep up is then not kept up: easy systems come first.',
      },
      {
        value: 'help-desk',
        label: 'The help desk',
        reason: 'Somebody who can is there, and may choose a system that takes more.',
      },
    ],
    effect: 'What a system takes to keep up weighs more or less in the advice.',
  },
  optionalUpdates: {
    title: 'Optional driver updates and previews',
    defaultBecause: 'A device that works is left alone.',
    sides: [
      { value: 'true', label: 'Take them', reason: 'They often fix what the first start shows.' },
      { value: 'false', label: 'Leave them', reason: 'They are the updates that break a working device.' },
    ],
    effect: 'One more update step.',
  },
  spokenGigabyte: {
    title: 'GB in conversation',
    defaultBecause: 'Drives are bought by it.',
    sides: [
      {
        value: 'decimal',
        label: 'Means 1000³',
        reason: 'It is what the label on the drive and the standard say.',
      },
      { value: 'binary', label: 'Means 1024³', reason: 'It is what the present system’s windows show.' },
    ],
    effect: 'How a size that is typed with a bare G is read, and which unit plans name first.',
  },
  writtenNumbers: {
    title: 'Numbers are written',
    defaultBecause: 'A size that is read wrong by a thousand spoils every sum; asking costs a moment.',
    sides: [
      {
        value: 'either',
        label: '1,234.5 or 1.234,5: ask',
        reason: 'Where both are met, nothing is guessed: “8,192 MB” is asked about.',
      },
      {
        value: 'point',
        label: '1,234.5',
        reason: 'Everybody here writes a point before what is less than one; nobody has to be asked.',
      },
      {
        value: 'comma',
        label: '1.234,5',
        reason: 'Everybody here writes a comma before what is less than one; nobody has to be asked.',
      },
    ],
    effect: 'How sizes that are typed, and those in device lists, are read.',
  },
  keepBackupDays: {
    title: 'Days a backup is kept after hand-over',
    defaultBecause: 'Owners come back within the month, and personal data should not lie about for longer.',
    sides: [
      { value: '30', label: 'Thirty', reason: 'What is missed is missed within a month.' },
      { value: '7', label: 'Seven', reason: 'Personal data should lie about as briefly as it can.' },
    ],
    effect: 'The wipe date on the hand-over sheet.',
  },
};

/** A setting's answer within a sentence. @example houseRuleLabel('boot', 'menu-once') // 'boot menu, once' */
export function houseRuleLabel(setting: HouseRuleKey, value: string | number | boolean): string {
  const label = houseRuleTexts[setting].sides.find((side) => side.value === String(value))?.label;
  return label === undefined ? String(value) : `${label.charAt(0).toLowerCase()}${label.slice(1)}`;
}

const lineWords = (megabits: number | undefined) =>
  megabits === undefined ? 'not known' : `${megabits} Mbit/s`;

/**
 * What differs between two sets of house rules, a sentence each; empty when they are the same.
 * @example houseRuleChanges(before, after) // ['Copies before the Line: two, now one.']
 */
export function houseRuleChanges(before: HouseRules, after: HouseRules): string[] {
  const settings = houseRuleKeys.flatMap((key) =>
    before[key] === after[key]
      ? []
      : [
          `${houseRuleTexts[key].title}: ${houseRuleLabel(key, before[key])}, now ${houseRuleLabel(key, after[key])}.`,
        ],
  );
  const weights = termIds.flatMap((id) =>
    before.weights[id] === after.weights[id]
      ? []
      : [`Weight of “${termLabels[id]}”: ${before.weights[id]}, now ${after.weights[id]}.`],
  );
  const rates = rateIds.flatMap((id) =>
    before.rates[id] === after.rates[id]
      ? []
      : [`${rateLabels[id]}: ${before.rates[id]}, now ${after.rates[id]}.`],
  );
  const names = setUpIds.flatMap((id) =>
    before.setUp[id] === after.setUp[id]
      ? []
      : [`${setUpLabels[id]}: ${before.setUp[id]}, now ${after.setUp[id]}.`],
  );
  const lines = [...new Set([...Object.keys(before.lines), ...Object.keys(after.lines)])].flatMap((site) =>
    before.lines[site] === after.lines[site]
      ? []
      : [`Line of ${site}: ${lineWords(before.lines[site])}, now ${lineWords(after.lines[site])}.`],
  );
  const zone =
    before.timeZone === after.timeZone ? [] : [`Time zone: ${before.timeZone}, now ${after.timeZone}.`];
  return [...settings, ...zone, ...names, ...lines, ...rates, ...weights];
}
