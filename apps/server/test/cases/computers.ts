import type { DataSet } from '@ulvane/core/backup';
import type { Disk, Survey } from '@ulvane/core/survey';

export const gib = 1024 ** 3;
const mib = 1024 ** 2;

type Part = {
  readonly role?: 'efi' | 'reserved' | 'system' | 'data' | 'recovery';
  readonly mib: number;
  readonly used?: number;
  readonly label?: string;
};

/** A disk whose partitions stand one behind the other from the first mebibyte on. */
export function diskOf(
  name: string,
  serial: string,
  bytes: number,
  scheme: 'gpt' | 'mbr' | undefined,
  parts: readonly Part[],
  more: Partial<Disk> = {},
): Disk {
  let start = mib / 512;
  const partitions = parts.map(({ role, mib: size, used, label }, index) => {
    const sectorCount = (size * mib) / 512;
    const startLba = start;
    start += sectorCount;
    return {
      number: index + 1,
      startLba,
      sectorCount,
      ...(role && { role }),
      ...(label && { label }),
      ...(used !== undefined && { usedBytes: used, fileSystem: 'ntfs' }),
    };
  });
  return {
    name,
    serial,
    bus: 'sata',
    rotational: false,
    removable: false,
    sectorBytes: 512,
    sectorCount: Math.floor(bytes / 512),
    health: 'good',
    ...(scheme && { scheme }),
    partitions,
    ...more,
  };
}

/** EFI, system and, where it is given, data, on GPT. */
export const gpt = (serial: string, bytes: number, systemMib: number, used: number, dataMib = 0) =>
  diskOf('sda', serial, bytes, 'gpt', [
    { role: 'efi', mib: 260 },
    { role: 'reserved', mib: 16 },
    { role: 'system', mib: systemMib, used, label: 'SYSTEM' },
    ...(dataMib > 0 ? [{ role: 'data' as const, mib: dataMib, used: 30e9, label: 'DATA' }] : []),
  ]);

type Device = {
  readonly maker: string;
  readonly model: string;
  readonly year: number;
  readonly chassis: 'laptop' | 'desktop';
};

let serials = 0;

/** A survey of a computer of that model, in which everything is known. */
export function surveyOf(
  device: Device,
  disks: readonly Disk[],
  { system, ...change }: Partial<Survey> = {},
): Survey {
  serials += 1;
  return {
    format: 'ulvane-survey',
    version: 1,
    takenAt: '2026-03-02T09:12:00.000Z',
    collector: { version: '1.0.0', asRoot: true, rootWouldAdd: [] },
    device: { ...device, serial: `CASE-${String(serials).padStart(4, '0')}` },
    processor: {
      name: 'four cores',
      wordBits: 64,
      cores: 4,
      clockMhz: 2600,
      flags: ['sse2', 'sse4_2', 'popcnt', 'avx'],
    },
    memoryBytes: 8 * gib,
    firmware: { mode: 'uefi', secureBoot: 'on', tpm: '2.0' },
    display: { graphicsTier: 3, widthPixels: 1920, heightPixels: 1080 },
    disks: [...disks],
    power: device.chassis === 'laptop' ? { batteryPercent: 80, charger: 'connected' } : {},
    network: [{ name: 'en-a', kind: 'wired', driver: 'kite-eth' }],
    ...change,
    system: {
      release: 'corvel-9-business',
      language: 'en',
      activation: 'digital',
      diskEncryption: 'off',
      fastStart: 'off',
      applications: ['browser'],
      ...system,
    },
  };
}

/** Nothing runs on it yet, and a licence lies beside it. */
export const emptySystem: NonNullable<Survey['system']> = {
  release: 'none',
  licencesHeld: ['corvel-10-business'],
};

export const fenwright14: Device = { maker: 'Kestle', model: 'Fenwright 14', year: 2017, chassis: 'laptop' };
export const fenwright11: Device = { maker: 'Kestle', model: 'Fenwright 11', year: 2013, chassis: 'laptop' };
export const tower: Device = { maker: 'Draymoor', model: 'Tower 77', year: 2018, chassis: 'desktop' };
export const brack12: Device = { maker: 'Ostley', model: 'Brack 12', year: 2011, chassis: 'laptop' };
export const brack15: Device = { maker: 'Ostley', model: 'Brack 15', year: 2020, chassis: 'laptop' };
const studio: Device = { maker: 'Pellworth', model: 'Studio 27', year: 2014, chassis: 'desktop' };
export const slate: Device = { maker: 'Pellworth', model: 'Slate 13', year: 2018, chassis: 'laptop' };

export function set(id: string, place: DataSet['place'] = 'system-partition'): DataSet {
  return {
    id,
    name: `${id.slice(0, 1).toUpperCase()}${id.slice(1)}`,
    kind: 'folder',
    path: `/home/crew/${id}`,
    sizeBytes: 0,
    fileCount: 0,
    largestFileBytes: 0,
    place,
  };
}

export const documents = set('documents');
export const pictures = set('pictures', 'data-partition');
export const photos = set('photos', 'other-disk');

const locked = { release: 'aurin-13', activation: 'account-bound', fastStart: 'off' } as const;
export const studioWith = (disk: Disk, change: Partial<Survey> = {}) =>
  surveyOf(studio, [disk], {
    memoryBytes: 16 * gib,
    firmware: { mode: 'uefi', secureBoot: 'not-supported', tpm: 'none' },
    ...change,
    system: { ...locked, ...change.system },
  });

/** Photos on a second, spinning disk. */
export const photoDisk = diskOf(
  'sdb',
  'PH-77A0C31',
  1e12,
  'gpt',
  [{ role: 'data', mib: 900_000, used: 400e9, label: 'PHOTOS' }],
  {
    rotational: true,
  },
);
