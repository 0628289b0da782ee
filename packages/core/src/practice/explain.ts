import type { Practice } from './practice';

type Setting = Exclude<keyof Practice, 'weights'>;

export type PracticeText = {
  readonly title: string;
  /** What each school says for its answer, in fair words. */
  readonly sides: readonly { readonly value: string; readonly label: string; readonly reason: string }[];
  /** What the setting does to a plan. */
  readonly effect: string;
};

/** Both sides' reasons for each setting, shown beside the choice. */
export const practiceTexts: Record<Setting, PracticeText> = {
  copiesBeforeLine: {
    title: 'Copies before the Line',
    sides: [
      {
        value: '1',
        label: 'one',
        reason: 'Half the copying time; one verified copy on a good drive has served most desks well.',
      },
      {
        value: '2',
        label: 'two',
        reason: 'A backup drive fails on the day it is needed; two devices do not fail together.',
      },
    ],
    effect: 'One more copy-and-verify step for each data set, and a gate that waits for it.',
  },
  cloudCopyCounts: {
    title: 'A cloud copy counts as a copy',
    sides: [
      {
        value: 'true',
        label: 'counts',
        reason: 'It is away from the bench and is kept by people whose job it is.',
      },
      {
        value: 'false',
        label: 'does not count',
        reason: 'Placeholders look like files; nobody here has compared its checksums.',
      },
    ],
    effect: 'Copies on a cloud destination are counted at the gate, or are not.',
  },
  otherDisks: {
    title: 'Other disks during the install',
    sides: [
      { value: 'unplug', label: 'unplug', reason: 'A disk that is not there cannot be erased.' },
      {
        value: 'tell-apart',
        label: 'tell apart by size and serial',
        reason: 'Opening the case costs time and risks the connectors.',
      },
    ],
    effect: 'A step to unplug the other disks, or a step to tell them apart.',
  },
  encryption: {
    title: 'Device encryption',
    sides: [
      { value: 'during-setup', label: 'during set-up', reason: 'No file ever lies on the disk in clear.' },
      {
        value: 'after',
        label: 'after the restore',
        reason:
          'The restore runs faster and trouble is easier to mend; the key is recorded when all is well.',
      },
      {
        value: 'off',
        label: 'off',
        reason: 'A desk that holds nothing personal; a lost key cannot lock anyone out.',
      },
    ],
    effect: 'Where the encryption step stands in the runbook, or whether there is one.',
  },
  networkDuringSetup: {
    title: 'Network during set-up',
    sides: [
      { value: 'online', label: 'online', reason: 'Drivers and fixes come at once.' },
      {
        value: 'offline',
        label: 'offline',
        reason:
          'Set-up asks for fewer accounts, takes a known time, and is not exposed before its first fixes.',
      },
    ],
    effect: 'The network is left connected, or taken off until the first start.',
  },
  account: {
    title: 'First account',
    sides: [
      {
        value: 'organisation',
        label: 'organisation account',
        reason: 'One place to revoke it when a device is lost.',
      },
      {
        value: 'online',
        label: 'the owner’s online account',
        reason: 'Settings and licences follow the owner.',
      },
      {
        value: 'local',
        label: 'local account',
        reason: 'Works with no network and hands nothing to anyone.',
      },
    ],
    effect: 'What the account step says, and whether set-up needs a network.',
  },
  boot: {
    title: 'Starting from the stick',
    sides: [
      { value: 'menu-once', label: 'boot menu, once', reason: 'Nothing to put back afterwards.' },
      {
        value: 'change-order',
        label: 'change the boot order',
        reason: 'Survives the restarts on firmware that forgets the menu’s choice.',
      },
    ],
    effect: 'A step to put the boot order back at the end.',
  },
  stick: {
    title: 'Size of the installer stick',
    sides: [
      { value: 'minimum', label: 'the minimum', reason: 'The small sticks get used up.' },
      {
        value: 'with-margin',
        label: 'with margin',
        reason: 'Images grow with every release; drivers fit beside the image.',
      },
    ],
    effect: 'A quarter is added to the bytes that the stick must hold.',
  },
  optionalUpdates: {
    title: 'Optional driver updates and previews',
    sides: [
      { value: 'true', label: 'take them', reason: 'They often mend what the first start shows.' },
      { value: 'false', label: 'leave them', reason: 'They are the updates that break a working device.' },
    ],
    effect: 'One more update step.',
  },
  keepBackupDays: {
    title: 'Days a backup is kept after hand-over',
    sides: [
      { value: '30', label: 'thirty', reason: 'What is missed is missed within a month.' },
      { value: '7', label: 'seven', reason: 'Personal data should lie about as briefly as it can.' },
    ],
    effect: 'The wipe date on the hand-over sheet.',
  },
};
