import fc from 'fast-check';
import {
  bufferSource,
  encodeTable,
  applyWrites,
  gptBounds,
  type PartitionTable,
  type SectorSource,
  type TablePartition,
} from '../src/disk';

/** Random bytes that come again with the same seed: xorshift32. */
export function seeded(seed: number): (byteCount: number) => Uint8Array {
  let state = seed === 0 ? 1 : seed >>> 0;
  return (byteCount) => {
    const bytes = new Uint8Array(byteCount);
    for (let index = 0; index < byteCount; index += 1) {
      state ^= state << 13;
      state >>>= 0;
      state ^= state >>> 17;
      state ^= state << 5;
      state >>>= 0;
      bytes[index] = state & 0xff;
    }
    return bytes;
  };
}

/** Everything that a source has, as one buffer. */
export function whole(source: SectorSource): Uint8Array {
  return source.read(0, source.sectorCount);
}

const besideTheTable: ReadonlySet<string> = new Set(['gap-in-use', 'end-in-use', 'start-off-mib']);

/** What was found in a table itself: random sectors around it and starts off whole MiB are no fault of it. */
export function inTheTable({ findings }: PartitionTable): PartitionTable['findings'] {
  return findings.filter(({ code }) => !besideTheTable.has(code));
}

/** A table written over a disk; fails the test when the table cannot be written. */
export function written(table: PartitionTable, under: SectorSource): SectorSource {
  const writes = encodeTable(table, under);
  if (!writes.ok) throw new Error(writes.problems[0]?.sentence);
  const applied = applyWrites(under, writes.value);
  if (!applied.ok) throw new Error(applied.problems[0]?.sentence);
  return bufferSource(whole(applied.value), under.sectorSizeBytes);
}

const bytesOfTypes = ['0x07', '0x0C', '0x0B', '0x83', '0x82', '0x27', '0x8E'];
const guidsOfTypes = [
  'EBD0A0A2-B9E5-4433-87C0-68B6B72699C7',
  '0FC63DAF-8483-4772-8E79-3D69D8477DE4',
  '0657FD6D-A4AB-43C4-84E5-0933C84B4F4F',
  'DE94BBA4-06D1-4D40-A16A-BFD50179D6AC',
];

const guid = fc
  .uuid()
  .map((text) => text.toUpperCase())
  .filter((text) => text !== '00000000-0000-0000-0000-000000000000');

/** Gaps and lengths as they follow one another on the disk; a sector at least before each. */
const stretches = (most: number) =>
  fc.array(fc.record({ gap: fc.integer({ min: 1, max: 60 }), length: fc.integer({ min: 1, max: 200 }) }), {
    minLength: 1,
    maxLength: most,
  });

function laidOut(from: number, list: readonly { readonly gap: number; readonly length: number }[]) {
  let next = from;
  return list.map(({ gap, length }) => {
    const startLba = next + gap;
    next = startLba + length;
    return { startLba, sectorCount: length };
  });
}

export type RandomDisk = { readonly table: PartitionTable; readonly source: SectorSource };

/** A valid GPT over random contents; GUIDs are all different. */
export const gptDisk: fc.Arbitrary<RandomDisk> = fc
  .record({
    sectorSizeBytes: fc.constantFrom(512, 4096),
    list: stretches(7),
    tail: fc.integer({ min: 0, max: 40 }),
    seed: fc.integer({ min: 1 }),
    guids: fc.uniqueArray(guid, { minLength: 8, maxLength: 8 }),
    types: fc.array(fc.constantFrom(...guidsOfTypes), { minLength: 7, maxLength: 7 }),
    names: fc.array(fc.constantFrom('', 'DATA', 'Fährbücher', 'x'.repeat(36)), {
      minLength: 7,
      maxLength: 7,
    }),
  })
  .map(({ sectorSizeBytes, list, tail, seed, guids, types, names }) => {
    const head = gptBounds(sectorSizeBytes, 0).firstUsableLba;
    const places = laidOut(head, list);
    const last = places.at(-1);
    const sectorCount = (last ? last.startLba + last.sectorCount : head) + tail + head;
    const partitions = places.map((place, index): TablePartition => {
      const name = names[index] ?? '';
      return {
        number: index + 1,
        kind: 'entry',
        ...place,
        typeCode: types[index] ?? '',
        guid: guids[index + 1] ?? '',
        ...(name === '' ? {} : { name }),
      };
    });
    const table: PartitionTable = {
      scheme: 'gpt',
      sectorSizeBytes,
      sectorCount,
      diskId: guids[0] ?? '',
      partitions,
      ...gptBounds(sectorSizeBytes, sectorCount),
      gpt: { entryCount: 128, entrySizeBytes: 128, entriesLba: 2, backupLba: sectorCount - 1, hybrid: false },
      findings: [],
    };
    return {
      table,
      source: written(table, bufferSource(filled(sectorCount * sectorSizeBytes, seed), sectorSizeBytes)),
    };
  });

/** A valid MBR, with up to three primaries and a chain of up to five logical partitions behind them. */
export const mbrDisk: fc.Arbitrary<RandomDisk> = fc
  .record({
    sectorSizeBytes: fc.constantFrom(512, 4096),
    head: fc.integer({ min: 0, max: 60 }),
    primaries: stretches(3),
    logicals: fc.oneof(fc.constant([]), stretches(5)),
    tail: fc.integer({ min: 0, max: 60 }),
    /** Sectors of the extended partition behind its last logical one. */
    slack: fc.integer({ min: 0, max: 30 }),
    seed: fc.integer({ min: 1 }),
    types: fc.array(fc.constantFrom(...bytesOfTypes), { minLength: 8, maxLength: 8 }),
  })
  .map(({ sectorSizeBytes, head, primaries, logicals, tail, slack, seed, types }) => {
    const first = laidOut(head, primaries);
    const end = first.at(-1);
    const extendedAt = (end ? end.startLba + end.sectorCount : head) + 1;
    const inside = laidOut(extendedAt, logicals);
    const lastInside = inside.at(-1);
    const lastEnd = lastInside ? lastInside.startLba + lastInside.sectorCount + slack : extendedAt;
    const sectorCount = lastEnd + tail + 1;
    const partitions: TablePartition[] = [
      ...first.map((place, index): TablePartition => ({
        number: index + 1,
        kind: 'primary',
        ...place,
        typeCode: types[index] ?? '',
        ...(index === 0 ? { active: true } : {}),
      })),
      ...inside.map((place, index): TablePartition => ({
        number: index + 5,
        kind: 'logical',
        ...place,
        typeCode: types[index + 3] ?? '',
        ebrLba: index === 0 ? extendedAt : place.startLba - 1,
      })),
    ];
    const table: PartitionTable = {
      scheme: 'mbr',
      sectorSizeBytes,
      sectorCount,
      diskId: 'B0A7D15C',
      partitions,
      ...(lastInside
        ? { extended: { startLba: extendedAt, sectorCount: lastEnd - extendedAt, entry: 4 } }
        : {}),
      firstUsableLba: 1,
      lastUsableLba: sectorCount - 1,
      findings: [],
    };
    const blank = filled(sectorCount * sectorSizeBytes, seed);
    // Where GPT would stand there is nothing: a random header is as good as none, and so are zeros.
    blank.fill(0, 0, 2 * sectorSizeBytes);
    return { table, source: written(table, bufferSource(blank, sectorSizeBytes)) };
  });

function filled(byteCount: number, seed: number): Uint8Array {
  // One block of random bytes over and over, shifted each time: quick, and no two sectors alike.
  const block = seeded(seed)(4093);
  const bytes = new Uint8Array(byteCount);
  for (let at = 0; at < byteCount; at += block.length)
    bytes.set(block.subarray(0, Math.min(block.length, byteCount - at)), at);
  return bytes;
}
