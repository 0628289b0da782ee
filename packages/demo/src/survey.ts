import type { Model } from '@ulvane/core/catalogue';
import { gibibyteBytes, gigabyteBytes, mebibyteBytes } from '@ulvane/core/quantity';
import type { Disk, Partition, Survey, SurveyFolder } from '@ulvane/core/survey';
import { between, pick, serial, type Random } from './random';
import type { DemoTables, Group } from './tables';

const sectorBytes = 512;
const mib = mebibyteBytes / sectorBytes;

/** The folders of one owner: the table's sizes, each a little more or less. */
function foldersOf(
  random: Random,
  tables: DemoTables,
  group: Group,
  homePath: string,
): readonly SurveyFolder[] {
  return (tables.folderSets[group.folders] ?? []).map(([name, gigabytes, files, largestGigabytes]) => {
    const factor = 0.7 + random() * 0.6;
    return {
      owner: group.owner,
      name,
      path: `${homePath}/${name}`,
      sizeBytes: Math.round(gigabytes * factor * gigabyteBytes),
      fileCount: Math.max(1, Math.round(files * factor)),
      largestFileBytes: Math.round(largestGigabytes * factor * gigabyteBytes),
    };
  });
}

type Draft = Omit<Partition, 'number' | 'startLba'>;

function partitionsFor(
  layout: Group['disk']['layout'][number],
  sectors: number,
  systemUsedBytes: number,
  dataUsedBytes: number,
): readonly Draft[] {
  const gpt = layout.startsWith('gpt');
  const split = layout.endsWith('split');
  const own: Draft[] = gpt
    ? [
        {
          sectorCount: 260 * mib,
          fileSystem: 'fat32',
          label: 'EFI',
          role: 'efi',
          usedBytes: 31 * mebibyteBytes,
        },
        { sectorCount: 16 * mib, role: 'reserved' },
      ]
    : [
        {
          sectorCount: 100 * mib,
          fileSystem: 'ntfs',
          label: 'START',
          role: 'boot',
          usedBytes: 26 * mebibyteBytes,
        },
      ];
  const recovery = gpt ? 620 * mib : 0;
  const tail = recovery + 2 * mib;
  const left = sectors - own.reduce((sum, { sectorCount }) => sum + sectorCount, 0) - mib - tail;
  const systemSectors = split ? Math.floor((left * 0.46) / mib) * mib : Math.floor(left / mib) * mib;
  const list: Draft[] = [
    ...own,
    {
      sectorCount: systemSectors,
      fileSystem: 'ntfs',
      label: 'SYSTEM',
      role: 'system',
      usedBytes: split ? systemUsedBytes : systemUsedBytes + dataUsedBytes,
    },
  ];
  if (split)
    list.push({
      sectorCount: Math.floor((left - systemSectors) / mib) * mib,
      fileSystem: 'ntfs',
      label: 'DATA',
      role: 'data',
      usedBytes: dataUsedBytes,
    });
  if (recovery > 0)
    list.push({
      sectorCount: recovery,
      fileSystem: 'ntfs',
      label: 'RECOVERY',
      role: 'recovery',
      usedBytes: 480 * mebibyteBytes,
    });
  return list;
}

function systemDiskOf(
  random: Random,
  group: Group,
  layout: Group['disk']['layout'][number],
  dataBytes: number,
): Disk {
  const sectorCount = Math.floor(group.disk.sizeBytes / sectorBytes);
  const ceiling = group.disk.sizeBytes * 0.4;
  const systemUsed = Math.round(Math.min(ceiling, between(random, 24, 44) * gigabyteBytes));
  let next = mib;
  const partitions = partitionsFor(
    layout,
    sectorCount,
    systemUsed,
    Math.round(Math.min(dataBytes * 1.04, ceiling)),
  ).map((draft, index): Partition => {
    const startLba = next;
    next += draft.sectorCount;
    const mountedAt =
      draft.role === 'system'
        ? { mountedAt: '/media/system' }
        : draft.role === 'data'
          ? { mountedAt: '/media/data' }
          : {};
    return { number: index + 1, startLba, ...draft, ...mountedAt };
  });
  return {
    name: group.disk.bus === 'nvme' ? 'nvme0n1' : 'sda',
    model: pick(random, ['Halyard 3', 'Bittern S', 'Capstan M2']),
    serial: serial(random, 'HX##@##@#@##'),
    bus: group.disk.bus,
    rotational: group.disk.rotational,
    removable: false,
    sectorBytes,
    sectorCount,
    scheme: layout.startsWith('gpt') ? 'gpt' : 'mbr',
    health: group.disk.health,
    partitions,
  };
}

function secondDiskOf(random: Random, second: NonNullable<Group['second']>): Disk {
  const sectorCount = Math.floor(second.sizeBytes / sectorBytes);
  return {
    name: 'sdb',
    model: 'Ballast 7200',
    serial: serial(random, 'BL#####@@##'),
    bus: second.bus,
    rotational: second.rotational,
    removable: false,
    sectorBytes,
    sectorCount,
    scheme: 'gpt',
    health: 'good',
    partitions: second.empty
      ? []
      : [
          {
            number: 1,
            startLba: mib,
            sectorCount: sectorCount - 2 * mib,
            fileSystem: 'ntfs',
            label: 'ARCHIVE',
            usedBytes: Math.round(second.sizeBytes * 0.3),
          },
        ],
  };
}

/** GPT starts in UEFI mode: firmware that starts it has that mode at least beside the other one. */
function thatStarts(
  layout: Group['disk']['layout'][number],
  mode: Group['firmwareMode'][number],
): Group['firmwareMode'][number] {
  return layout.startsWith('gpt') && mode === 'legacy' ? 'uefi-with-legacy' : mode;
}

/** One invented device of a group as the collector would have printed it. */
export function surveyOf(
  random: Random,
  tables: DemoTables,
  group: Group,
  model: Model,
  takenAt: string,
): Survey {
  const layout = pick(random, group.disk.layout);
  const folders = foldersOf(
    random,
    tables,
    group,
    layout.endsWith('split') ? '/media/data/owner' : '/media/system/owner',
  );
  const disk = systemDiskOf(
    random,
    group,
    layout,
    folders.reduce((sum, { sizeBytes }) => sum + sizeBytes, 0),
  );
  return {
    format: 'ulvane-survey',
    version: 1,
    takenAt,
    collector: { version: '1.0.0', asRoot: true, rootWouldAdd: [] },
    device: {
      maker: model.maker,
      model: model.model,
      serial: serial(random, group.serialPattern),
      year: between(random, group.yearFrom, group.yearTo),
      chassis: model.chassis,
    },
    processor: {
      wordBits: group.wordBits,
      cores: pick(random, group.cores),
      clockMhz: pick(random, group.clockMhz),
      flags: group.flags,
    },
    memoryBytes: Math.round(pick(random, group.memoryGiB) * gibibyteBytes * 0.975),
    firmware: {
      mode: thatStarts(layout, pick(random, group.firmwareMode)),
      secureBoot: pick(random, group.secureBoot),
      tpm: pick(random, group.tpm),
      ...(group.storageMode && { storageMode: group.storageMode }),
    },
    display: {
      graphicsTier: group.graphicsTier,
      widthPixels: group.screen[0],
      heightPixels: group.screen[1],
      ...(group.graphicsChips && { chips: group.graphicsChips }),
    },
    ...(group.opticalDrive && { opticalDrive: group.opticalDrive }),
    disks: group.second ? [disk, secondDiskOf(random, group.second)] : [disk],
    ...(group.battery
      ? {
          power: {
            batteryPercent: between(random, 41, 100),
            charger: pick(random, ['connected', 'not-connected']),
          },
        }
      : {}),
    network: group.adapters.map(([name, kind, driver]) => ({ name, kind, driver })),
    system: {
      release: pick(random, group.presentRelease),
      language: 'en',
      activation: pick(random, group.activation),
      diskEncryption: pick(random, group.encryption),
      fastStart: pick(random, group.fastStart),
      applications: group.applications,
      accounts: group.accounts,
      attachedDevices: group.attachedDevices,
    },
    folders: [...folders],
  };
}
