import { printCount } from '../quantity/count';
import { printBytes, printBothUnits } from '../quantity/bytes';
import { diskBytes, diskMark, type Disk } from './disk';
import type { FactKey, FactValue } from './facts';

type FactText = {
  readonly label: string;
  readonly group:
    'identity' | 'processor' | 'firmware' | 'disks' | 'display' | 'network' | 'power' | 'present system';
  /** The shortest way to find it out. */
  readonly howToFind: string;
};

export const factTexts: Record<FactKey, FactText> = {
  maker: { label: 'Maker', group: 'identity', howToFind: 'Read the label below the device or on its back.' },
  model: { label: 'Model', group: 'identity', howToFind: 'Read the label below the device or on its back.' },
  serial: { label: 'Serial', group: 'identity', howToFind: 'Read the label, or run the collector as root.' },
  year: {
    label: 'Year',
    group: 'identity',
    howToFind: 'On the label, or the date of the firmware in its set-up.',
  },
  chassis: { label: 'Laptop or desktop', group: 'identity', howToFind: 'Look at it.' },
  processorName: { label: 'Processor', group: 'processor', howToFind: 'Run the collector.' },
  wordBits: {
    label: 'Processor word size',
    group: 'processor',
    howToFind: 'Run the collector: a 32-bit system may run on a 64-bit processor.',
  },
  cores: { label: 'Cores', group: 'processor', howToFind: 'Run the collector.' },
  clockMhz: {
    label: 'Clock',
    group: 'processor',
    howToFind: 'Run the collector, or read it on the firmware’s first page.',
  },
  cpuFlags: { label: 'Processor features', group: 'processor', howToFind: 'Run the collector.' },
  memoryBytes: {
    label: 'Memory',
    group: 'processor',
    howToFind: 'Run the collector, or read it on the firmware’s first page.',
  },
  firmwareMode: {
    label: 'Firmware mode',
    group: 'firmware',
    howToFind: 'Enter the firmware set-up and read the boot page.',
  },
  secureBoot: {
    label: 'Secure Boot',
    group: 'firmware',
    howToFind: 'Enter the firmware set-up and read the security page.',
  },
  tpm: {
    label: 'Security chip (TPM)',
    group: 'firmware',
    howToFind: 'Enter the firmware set-up: it may be there and switched off.',
  },
  graphicsTier: {
    label: 'Graphics tier',
    group: 'display',
    howToFind: 'Start the rescue stick’s desktop and see whether it draws smoothly; type the tier.',
  },
  screenWidth: {
    label: 'Screen width',
    group: 'display',
    howToFind: 'Read it in the present system’s display page.',
  },
  screenHeight: {
    label: 'Screen height',
    group: 'display',
    howToFind: 'Read it in the present system’s display page.',
  },
  disks: { label: 'Disks', group: 'disks', howToFind: 'Run the collector.' },
  networkAdapters: { label: 'Network adapters', group: 'network', howToFind: 'Run the collector.' },
  batteryPercent: {
    label: 'Battery charge',
    group: 'power',
    howToFind: 'Run the collector on the laptop itself.',
  },
  charger: { label: 'Charger', group: 'power', howToFind: 'Look whether the charger’s light is on.' },
  presentRelease: {
    label: 'Present system',
    group: 'present system',
    howToFind: 'Start the present system and open its page about the device.',
  },
  presentLanguage: {
    label: 'Present language',
    group: 'present system',
    howToFind: 'Start the present system and look.',
  },
  activation: {
    label: 'Activation',
    group: 'present system',
    howToFind: 'Open the present system’s activation page.',
  },
  diskEncryption: {
    label: 'Disk encryption',
    group: 'present system',
    howToFind: 'Open the present system’s encryption page; ask where the recovery key is.',
  },
  fastStart: {
    label: 'Fast start',
    group: 'present system',
    howToFind: 'Open the present system’s power page.',
  },
  applications: {
    label: 'Applications',
    group: 'present system',
    howToFind: 'Ask the owner, and list what is installed.',
  },
  recoveryKeyPlace: {
    label: 'Place of the recovery key',
    group: 'present system',
    howToFind: 'Ask the owner and look in the account it was filed under; never note the key itself here.',
  },
  accounts: {
    label: 'Accounts on the device',
    group: 'present system',
    howToFind: 'Open the present system’s page of accounts: files of others are often forgotten.',
  },
  licencesHeld: {
    label: 'Licences at hand',
    group: 'present system',
    howToFind: 'Look in the folder of licences: for which releases is one free for this device?',
  },
  attachedDevices: {
    label: 'Attached devices',
    group: 'present system',
    howToFind: 'Look what is plugged in, and whether its maker has a driver for the target.',
  },
  graphicsChips: { label: 'Graphics chips', group: 'display', howToFind: 'Run the collector.' },
  opticalDrive: {
    label: 'Drive for discs',
    group: 'disks',
    howToFind: 'Look at the device: a tray, a slot, or a drive on USB that is at hand.',
  },
  bootFromFile: {
    label: 'Boot from file',
    group: 'firmware',
    howToFind: 'Enter the firmware set-up and look on the boot page for a line that asks for a file.',
  },
  storageMode: {
    label: 'Storage controller',
    group: 'firmware',
    howToFind: 'Enter the firmware set-up and read the storage page.',
  },
  licenceBelongsTo: {
    label: 'Licence belongs to',
    group: 'present system',
    howToFind:
      'Ask for the invoice, and whether the board was ever replaced: the activation page says “hardware changed” then.',
  },
};

const words: Record<string, string> = {
  uefi: 'UEFI',
  legacy: 'legacy',
  'uefi-with-legacy': 'UEFI with legacy compatibility on',
  'not-supported': 'not supported',
  'present-off': 'present but off',
  'not-connected': 'not connected',
  'account-bound': 'bound to an account',
  solid: 'solid-state',
  ahci: 'AHCI, plain',
  raid: 'RAID, for several disks',
  ide: 'IDE, compatible',
  'this-board': 'this board',
  'another-board': 'another board or computer',
  'no-board': 'no computer, bought apart',
};

/** A disk in one line: mark, bytes, kind. @example '…9C2E 256.1 GB solid-state sata, gpt, 4 partitions' */
export function describeDisk(disk: Disk): string {
  const kind = disk.rotational === undefined ? '' : disk.rotational ? ' spinning' : ' solid-state';
  const scheme =
    disk.scheme === undefined
      ? 'scheme unknown'
      : disk.scheme === 'none'
        ? 'no scheme'
        : disk.scheme.toUpperCase();
  const count = disk.partitions.length;
  return `${diskMark(disk)} ${printBytes(diskBytes(disk), 'decimal')}${kind}${disk.bus ? ` ${disk.bus}` : ''}, ${scheme}, ${printCount(count, 'partition')}`;
}

const listOrNone = (entries: readonly string[]) => (entries.length === 0 ? 'none' : entries.join('; '));

type Printer<K extends FactKey> = (value: FactValue<K>) => string;

const printers: { readonly [K in FactKey]?: Printer<K> } = {
  wordBits: (bits) => `${bits} bit`,
  clockMhz: (mhz) => `${mhz} MHz`,
  cpuFlags: (flags) => `${flags.length} listed`,
  memoryBytes: (bytes) => printBothUnits(bytes),
  screenWidth: (pixels) => `${pixels} pixels`,
  screenHeight: (pixels) => `${pixels} pixels`,
  disks: (disks) => (disks.length === 0 ? 'none' : disks.map(describeDisk).join('; ')),
  networkAdapters: (adapters) =>
    listOrNone(
      adapters.map(({ name, kind, driver }) =>
        [name, kind, driver && `driver ${driver}`].filter(Boolean).join(' '),
      ),
    ),
  graphicsChips: (chips) =>
    listOrNone(chips.map(({ name, driver }) => (driver === undefined ? name : `${name} (driver ${driver})`))),
  attachedDevices: (devices) =>
    listOrNone(devices.map(({ name, needsDriver }) => (needsDriver ? `${name} (needs a driver)` : name))),
  batteryPercent: (percent) => `${percent} %`,
};

/** A fact's value for reading. @example describeFact('memoryBytes', 8589934592) // '8.6 GB (8.0 GiB)' */
export function describeFact<K extends FactKey>(key: K, value: FactValue<K>): string {
  const printer: Printer<K> | undefined = printers[key];
  if (printer) return printer(value);
  if (Array.isArray(value)) return value.join(', ');
  return words[String(value)] ?? String(value);
}
