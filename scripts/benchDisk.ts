import { closeSync, ftruncateSync, mkdtempSync, openSync, readSync, rmSync, writeSync } from 'node:fs';
import { cpus, tmpdir, totalmem } from 'node:os';
import { join } from 'node:path';
import {
  applyWrites,
  bufferSource,
  encodeTable,
  gptBounds,
  planConversion,
  planLayout,
  readPartitionTable,
  sizeRange,
  type PartitionTable,
  type SectorSource,
  type TablePartition,
} from '@ulvane/core/disk';

/** Tables read, converted and planned, on one core; figures and machine are printed. */
const mib = 2048;

/** A counter in place of randomness: the figures do not hang on it. */
let counter = 1;
const random = (count: number) =>
  new Uint8Array(count).map(() => (counter = (counter * 48271) % 2147483647) & 0xff);

function gptOf(count: number, sectorCount: number, used: boolean): PartitionTable {
  const each = Math.floor((sectorCount / mib - 10) / count);
  const partitions = Array.from({ length: count }, (_none, index): TablePartition => ({
    number: index + 1,
    kind: 'entry',
    startLba: (1 + index * each) * mib,
    sectorCount: (each - (index % 3)) * mib,
    typeCode: 'EBD0A0A2-B9E5-4433-87C0-68B6B72699C7',
    guid: `00000000-0000-4000-8000-${(index + 1).toString(16).padStart(12, '0').toUpperCase()}`,
    ...(used ? { usedBytes: Math.floor(each * 1024 ** 2 * 0.6) } : {}),
  }));
  return {
    scheme: 'gpt',
    sectorSizeBytes: 512,
    sectorCount,
    diskId: '00000000-0000-4000-8000-00000000FFFF',
    partitions,
    ...gptBounds(512, sectorCount),
    gpt: { entryCount: 128, entrySizeBytes: 128, entriesLba: 2, backupLba: sectorCount - 1, hybrid: false },
    findings: [],
  };
}

/** A file read by slices, counting what is read. */
function fileSource(
  path: string,
  sectorCount: number,
): SectorSource & { readonly bytesRead: () => number; readonly close: () => void } {
  const file = openSync(path, 'r');
  let bytesRead = 0;
  return {
    sectorSizeBytes: 512,
    sectorCount,
    read: (lba, count) => {
      const bytes = new Uint8Array(count * 512);
      bytesRead += readSync(file, bytes, 0, bytes.length, lba * 512);
      return bytes;
    },
    bytesRead: () => bytesRead,
    close: () => closeSync(file),
  };
}

function millisecondsOf(work: () => void): number {
  const start = performance.now();
  work();
  return performance.now() - start;
}

/** The median of several runs, after one that is not counted. */
function median(runs: number, work: () => void): number {
  work();
  const times = Array.from({ length: runs }, () => millisecondsOf(work)).sort((a, b) => a - b);
  return times[Math.floor(runs / 2)] ?? 0;
}

function expectOk<T>(
  outcome:
    | { readonly ok: true; readonly value: T }
    | { readonly ok: false; readonly problems: readonly { readonly sentence: string }[] },
): T {
  if (!outcome.ok) throw new Error(outcome.problems.map(({ sentence }) => sentence).join(' '));
  return outcome.value;
}

const small = gptOf(8, 40 * mib, false);
const blank = bufferSource(new Uint8Array(40 * mib * 512), 512);
const laid = expectOk(applyWrites(blank, expectOk(encodeTable(small, blank))));
const smallDisk = bufferSource(laid.read(0, laid.sectorCount), 512);
const rounds = 2000;
const reading = millisecondsOf(() => {
  for (let round = 0; round < rounds; round += 1) expectOk(readPartitionTable(smallDisk));
});

const folder = mkdtempSync(join(tmpdir(), 'ulvane-bench-'));
try {
  const path = join(folder, 'four-terabytes.img');
  const sectorCount = 8_000_000_000;
  const file = openSync(path, 'w');
  ftruncateSync(file, sectorCount * 512);
  const big = gptOf(128, sectorCount, false);
  const empty = {
    sectorSizeBytes: 512,
    sectorCount,
    read: (_lba: number, count: number) => new Uint8Array(count * 512),
  };
  for (const { startLba, bytes } of expectOk(encodeTable(big, empty)))
    writeSync(file, bytes, 0, bytes.length, startLba * 512);
  closeSync(file);
  const source = fileSource(path, sectorCount);
  expectOk(readPartitionTable(source));
  const once = source.bytesRead();
  const sparse = median(9, () => expectOk(readPartitionTable(source)));
  const converting = median(9, () => {
    // 128 entries on 2 TB: 125 of them logical, which have a sector to spare before them or not.
    planConversion(source, 'mbr', { random });
  });
  source.close();
  // The longest chain that is read: 124 logical ones behind three primaries.
  const eighth = gptOf(127, 4_000_000_000, false);
  const logical = eighth.partitions.slice(3).map(({ number }) => number);
  const spaced = {
    ...eighth,
    partitions: eighth.partitions.map((one) => ({ ...one, sectorCount: one.sectorCount - mib })),
  };
  const sourceOf = (table: PartitionTable): SectorSource => {
    const under = {
      sectorSizeBytes: 512,
      sectorCount: table.sectorCount,
      read: (_lba: number, count: number) => new Uint8Array(count * 512),
    };
    return expectOk(applyWrites(under, expectOk(encodeTable(table, under))));
  };
  const spacedDisk = sourceOf(spaced);
  const resolutions = [{ kind: 'entry-to-logical' as const, partitions: logical }];
  const conversion = median(9, () => {
    const outcome = planConversion(spacedDisk, 'mbr', { random, resolutions });
    if (!outcome.ok) throw new Error(outcome.problems[0]?.sentence);
  });

  /** Crowded: hardly a gap, little to give, so that rooms have to be moved together. Roomy: much of everything. */
  const layoutOf = (count: number, crowded: boolean): PartitionTable => {
    const table = gptOf(count, 400_000 * mib, true);
    return {
      ...table,
      partitions: table.partitions.map((one, index) => ({
        ...one,
        sectorCount: one.sectorCount - (crowded ? (index % 4) * 40 * mib : 0),
        usedBytes: Math.floor(one.sectorCount * 512 * (crowded ? 0.85 : 0.4)),
      })),
    };
  };
  const planning = (table: PartitionTable, sizeBytes: number) =>
    median(9, () => {
      planLayout(table, { kind: 'room', sizeBytes });
    });
  const layouts = [7, 8, 16, 32].flatMap((count) =>
    [true, false].map((crowded) => {
      const table = layoutOf(count, crowded);
      const range = expectOk(sizeRange(table, { kind: 'room' }));
      const max = range.maxBytes;
      const figures = [max / 4, max / 2, max, max * 1.2].map((sizeBytes) =>
        planning(table, Math.floor(sizeBytes)),
      );
      return { count, crowded, figures };
    }),
  );

  console.log(
    `Disk, on ${cpus()[0]?.model ?? 'an unknown processor'}, ${cpus().length} cores, ${Math.round(totalmem() / 1e9)} GB of memory`,
  );
  console.log(
    `  tables of 8 partitions read, contents looked at   ${Math.round((rounds / reading) * 1000)} a second`,
  );
  console.log(
    `  table of a sparse image of 4 TB, 128 partitions  ${sparse.toFixed(1)} ms, ${(once / 1e6).toFixed(1)} MB read (aim 100 ms)`,
  );
  console.log(`  its obstacles on the way to MBR                  ${converting.toFixed(1)} ms`);
  console.log(`  conversion of 127 entries, 124 of them logical   ${conversion.toFixed(1)} ms`);
  console.log(
    '  layouts, ms for a quarter, a half, all of the most room, and a fifth more than it (aim 100 ms):',
  );
  for (const { count, crowded, figures } of layouts)
    console.log(
      `    ${String(count).padStart(2)} partitions, ${crowded ? 'crowded' : 'roomy  '}   ${figures.map((one) => one.toFixed(1).padStart(7)).join('')}`,
    );
} finally {
  rmSync(folder, { recursive: true, force: true });
}
