import fc from 'fast-check';
import {
  alignmentSectors,
  gptBounds,
  type LayoutPlanGoal,
  type PartitionTable,
  type SectorSource,
  type TablePartition,
} from '../src/disk';

/** A disk in which every sector says where it stood at first: its number in its first eight bytes. */
export function numberedDisk(sectorSizeBytes: number, sectorCount: number): SectorSource {
  return {
    sectorSizeBytes,
    sectorCount,
    read: (lba, count) => {
      const bytes = new Uint8Array(count * sectorSizeBytes);
      const view = new DataView(bytes.buffer);
      for (let index = 0; index < count; index += 1)
        view.setBigUint64(index * sectorSizeBytes, 0x7a11000000000000n + BigInt(lba + index));
      return bytes;
    },
  };
}

/** The number that a sector of a numbered disk carries, wherever it was moved; undefined for any other. */
export function numberIn(source: SectorSource, lba: number): number | undefined {
  const bytes = source.read(lba, 1);
  const value = new DataView(bytes.buffer, bytes.byteOffset, 8).getBigUint64(0);
  return value >> 48n === 0x7a11n ? Number(value & 0xffffffffffffn) : undefined;
}

/** A disk as two sources on top of one another: sectors that were copied, and what is below. */
export function withCopied(
  under: SectorSource,
  fromLba: number,
  toLba: number,
  sectorCount: number,
): SectorSource {
  return {
    ...under,
    read: (lba, count) => {
      const bytes = under.read(lba, count).slice();
      const first = Math.max(lba, toLba);
      const end = Math.min(lba + count, toLba + sectorCount);
      if (first < end)
        bytes.set(under.read(first - toLba + fromLba, end - first), (first - lba) * under.sectorSizeBytes);
      return bytes;
    },
  };
}

const mib = 1024 ** 2;
const roles = [undefined, 'data', 'recovery', 'swap'] as const;
const gptTypes = [
  'EBD0A0A2-B9E5-4433-87C0-68B6B72699C7',
  '0FC63DAF-8483-4772-8E79-3D69D8477DE4',
  '0657FD6D-A4AB-43C4-84E5-0933C84B4F4F',
];
const mbrTypes = ['0x07', '0x83', '0x82'];

const block = fc.record({
  gap: fc.integer({ min: 0, max: 9 }),
  /** Sectors beyond whole MiB at its start: older installers did so. */
  off: fc.oneof(
    { weight: 4, arbitrary: fc.constant(0) },
    { weight: 1, arbitrary: fc.integer({ min: 1, max: 200 }) },
  ),
  mebibytes: fc.integer({ min: 2, max: 60 }),
  more: fc.integer({ min: 0, max: 100 }),
  usedPercent: fc.option(fc.integer({ min: 1, max: 100 }), { nil: undefined }),
  type: fc.integer({ min: 0, max: 2 }),
  role: fc.integer({ min: 0, max: 3 }),
});

/** Any disk that a layout can be asked of: both schemes, both sector sizes, chains, starts off whole MiB. */
export const anyLayoutDisk: fc.Arbitrary<PartitionTable> = fc
  .record({
    sectorSizeBytes: fc.constantFrom(512, 4096),
    scheme: fc.constantFrom('gpt' as const, 'mbr' as const),
    blocks: fc.array(block, { minLength: 1, maxLength: 7 }),
    inside: fc.array(block, { minLength: 0, maxLength: 4 }),
    tail: fc.integer({ min: 0, max: 40 }),
    system: fc.nat(),
  })
  .map(({ sectorSizeBytes, scheme, blocks, inside, tail, system }) => {
    const align = alignmentSectors(sectorSizeBytes);
    const outside = scheme === 'mbr' ? blocks.slice(0, inside.length > 0 ? 3 : 4) : blocks;
    const partitions: TablePartition[] = [];
    let next = align;
    const place = (one: (typeof blocks)[number], lead: number, more: Partial<TablePartition>) => {
      const startLba = Math.ceil((next + lead) / align) * align + one.gap * align + one.off;
      const sectorCount = one.mebibytes * align + one.more;
      next = startLba + sectorCount;
      const role = roles[one.role];
      partitions.push({
        number: partitions.length + 1,
        kind: 'entry',
        startLba,
        sectorCount,
        typeCode: (scheme === 'gpt' ? gptTypes : mbrTypes)[one.type] ?? '0x07',
        ...(scheme === 'gpt'
          ? {
              guid: `00000000-0000-4000-8000-00000000000${(partitions.length + 1).toString(16).toUpperCase()}`,
            }
          : {}),
        ...(one.usedPercent === undefined
          ? {}
          : { usedBytes: Math.floor((sectorCount * sectorSizeBytes * one.usedPercent) / 100) }),
        ...(role === undefined ? {} : { role }),
        ...more,
      });
    };
    for (const one of outside) place(one, 0, scheme === 'mbr' ? { kind: 'primary' } : {});
    let extended: PartitionTable['extended'];
    if (scheme === 'mbr' && inside.length > 0) {
      const startLba = Math.ceil(next / align) * align;
      next = startLba;
      inside.forEach((one, index) => {
        place(one, 1, { kind: 'logical', number: 5 + index });
        const at = partitions.length - 1;
        const made = partitions[at];
        if (made) partitions[at] = { ...made, ebrLba: index === 0 ? startLba : made.startLba - 1 };
      });
      next = Math.ceil(next / align) * align + 3 * align;
      extended = { startLba, sectorCount: next - startLba, entry: 4 };
    }
    const marked = partitions[system % partitions.length];
    const sectorCount = Math.ceil(next / align) * align + tail * align + 64;
    return {
      scheme,
      sectorSizeBytes,
      sectorCount,
      diskId: scheme === 'gpt' ? '00000000-0000-4000-8000-0000000000FF' : 'B0A7D15C',
      partitions: partitions.map((one) => (one === marked ? { ...one, role: 'system' as const } : one)),
      ...(extended ? { extended } : {}),
      ...(scheme === 'gpt'
        ? {
            ...gptBounds(sectorSizeBytes, sectorCount),
            gpt: {
              entryCount: 128,
              entrySizeBytes: 128,
              entriesLba: 2,
              backupLba: sectorCount - 1,
              hybrid: false,
            },
          }
        : { firstUsableLba: 1, lastUsableLba: sectorCount - 1 }),
      findings: [],
    };
  });

/** Any goal; sizes that fit now and then, and partitions that may be there. */
export const anyGoal: fc.Arbitrary<LayoutPlanGoal> = fc.oneof(
  fc.integer({ min: 1, max: 90 }).map((count) => ({ kind: 'room' as const, sizeBytes: count * mib })),
  fc.integer({ min: 1, max: 50 }).map((count) => ({ kind: 'split' as const, systemBytes: count * mib })),
  fc
    .integer({ min: 1, max: 60 })
    .map((count) => ({ kind: 'installer-partition' as const, sizeBytes: count * mib + 4096 })),
  fc.constantFrom<LayoutPlanGoal>(
    { kind: 'standard', installer: [] },
    { kind: 'standard', installer: [{ purpose: 'recovery', sizeBytes: 3 * mib }] },
    {
      kind: 'wipe',
      scheme: 'gpt',
      installer: [
        { purpose: 'efi', sizeBytes: 4 * mib },
        { purpose: 'loader', sizeBytes: mib },
      ],
    },
    { kind: 'wipe', scheme: 'mbr', installer: [] },
  ),
  fc
    .record({ partition: fc.integer({ min: 1, max: 6 }), gone: fc.integer({ min: 1, max: 6 }) })
    .map(({ partition, gone }) => ({ kind: 'grow-back' as const, partition, remove: [gone] })),
);
