import {
  applyWrites,
  parseWrites,
  planConversion,
  planLayout,
  planTableFix,
  sizeRange,
  inStretches,
  encodeCapsule,
  encodeWrites,
  readPartitionTable,
  undoCapsule,
  writesFor,
  rememberedOf,
  type ConversionOutcome,
  type GptCopy,
  type LayoutOptions,
  type LayoutPlan,
  type LayoutPlanGoal,
  type TableFix,
  type PartitionTable,
  type RememberedTable,
  type Resolution,
  type SectorSource,
  type SectorWrite,
  type SizeRange,
  type WritesFile,
} from '@ulvane/core/disk';
import type { Outcome } from '@ulvane/core/outcome';
import {
  guardedDiskWork,
  type DiskWork as Work,
  type DiskWorkPlan,
  type WorkContext,
} from '@ulvane/core/runbook';
import type { Disk } from '@ulvane/core/survey';
import { expose } from 'comlink';

/** Reads at once and not by and by: there is one in every worker, and none in DOM's types. */
declare class FileReaderSync {
  readAsArrayBuffer(blob: Blob): ArrayBuffer;
}

/** A file that holds sectors of a disk from one of them on. */
export type ImagePart = { readonly file: Blob; readonly startLba: number };

export type Result = {
  readonly writes: WritesFile;
  readonly capsule: WritesFile;
  readonly remembered: RememberedTable;
  /** The whole image with the new sectors in it; null where only a part of the disk was given. */
  readonly image: Blob | null;
  /** What stands before the first partition and behind the last; null where sectors between are written, too. */
  readonly head: { readonly startLba: number; readonly bytes: Blob } | null;
  readonly tail: { readonly startLba: number; readonly bytes: Blob } | null;
};

/** Sectors out of files, read by slices: what no file has is not there. */
function sourceOf(parts: readonly ImagePart[], sectorSizeBytes: number, sectorCount: number): SectorSource {
  const reader = new FileReaderSync();
  return {
    sectorSizeBytes,
    sectorCount,
    read: (lba, count) => {
      const part = parts.findLast(
        ({ file, startLba }) => lba >= startLba && (lba - startLba) * sectorSizeBytes < file.size,
      );
      if (!part) return new Uint8Array(0);
      const from = (lba - part.startLba) * sectorSizeBytes;
      try {
        return new Uint8Array(
          reader.readAsArrayBuffer(part.file.slice(from, from + count * sectorSizeBytes)),
        );
      } catch {
        return new Uint8Array(0);
      }
    },
  };
}

/** An image with other sectors in places: slices of the old one between them, so that nothing is copied. */
function patched(image: Blob, writes: readonly SectorWrite[], sectorSizeBytes: number): Blob {
  const pieces: BlobPart[] = [];
  let next = 0;
  for (const { startLba, bytes } of [...writes].sort((a, b) => a.startLba - b.startLba)) {
    const at = startLba * sectorSizeBytes;
    pieces.push(image.slice(next, at), bytes.slice());
    next = at + bytes.length;
  }
  return new Blob([...pieces, image.slice(next)], { type: 'application/octet-stream' });
}

let open:
  | { readonly source: SectorSource; readonly parts: readonly ImagePart[]; readonly table: PartitionTable }
  | undefined;
/** What the last plan writes, and the tables on either side of it. */
type Planned = {
  readonly purpose: 'conversion' | 'mending';
  readonly writes: readonly SectorWrite[];
  readonly before: PartitionTable;
  readonly after: PartitionTable;
};
let plan: Planned | undefined;

const nothingOpen = {
  ok: false as const,
  problems: [
    { code: 'nothing-open' as const, path: '', sentence: 'No image is open: drop it again.', remedies: [] },
  ],
};

const random = (byteCount: number) => crypto.getRandomValues(new Uint8Array(byteCount));

const diskWork = {
  open(parts: readonly ImagePart[], sectorSizeBytes: number, sectorCount: number): Outcome<PartitionTable> {
    const source = sourceOf(parts, sectorSizeBytes, sectorCount);
    const table = readPartitionTable(source);
    open = table.ok ? { source, parts, table: table.value } : undefined;
    plan = undefined;
    return table;
  },

  convert(
    target: 'gpt' | 'mbr',
    resolutions: readonly Resolution[],
    remembered: RememberedTable | null,
  ): ConversionOutcome {
    if (!open) return nothingOpen;
    const outcome = planConversion(open.source, target, {
      random,
      resolutions,
      ...(remembered ? { remembered } : {}),
    });
    plan = outcome.ok ? { ...outcome.value, purpose: 'conversion' } : undefined;
    return outcome;
  },

  /** Plans a copy of the GPT written anew from the other. */
  fix(from: GptCopy): Outcome<TableFix> {
    if (!open) return nothingOpen;
    const outcome = planTableFix(open.source, from);
    plan = outcome.ok ? { ...outcome.value, purpose: 'mending' } : undefined;
    return outcome;
  },

  /** What the last plan comes to, as documents and files. */
  result(serial: string | null): Outcome<Result> {
    if (!open || !plan) return nothingOpen;
    const { source, parts } = open;
    const { sectorSizeBytes, sectorCount } = source;
    const capsule = undoCapsule(source, plan.writes);
    if (!capsule.ok) return capsule;
    const after = applyWrites(source, plan.writes);
    if (!after.ok) return after;
    const [part] = parts;
    const isWhole =
      parts.length === 1 && part?.startLba === 0 && part.file.size >= sectorCount * sectorSizeBytes;
    // A partition that was shrunk ends where it ends afterwards; one that was dropped keeps its sectors.
    const held = [
      ...plan.after.partitions,
      ...plan.before.partitions.filter(
        ({ startLba }) => !plan?.after.partitions.some((one) => one.startLba === startLba),
      ),
    ];
    const firstLba = Math.min(sectorCount, ...held.map(({ startLba }) => startLba));
    const lastEnd = Math.max(0, ...held.map((one) => one.startLba + one.sectorCount));
    const ends = plan.writes.map(({ startLba, bytes }) => ({
      startLba,
      end: startLba + bytes.length / sectorSizeBytes,
    }));
    const apart = ends.every(({ startLba, end }) => end <= firstLba || startLba >= lastEnd);
    const piece = (startLba: number, end: number) =>
      apart && end > startLba
        ? {
            startLba,
            bytes: new Blob([after.value.read(startLba, end - startLba).slice()], {
              type: 'application/octet-stream',
            }),
          }
        : null;
    const front = ends.filter(({ end }) => end <= firstLba);
    const back = ends.filter(({ startLba }) => startLba >= lastEnd);
    return {
      ok: true,
      value: {
        writes: encodeWrites(source, plan.writes, plan.purpose, serial),
        capsule: encodeCapsule(capsule.value, serial),
        remembered: rememberedOf(plan.before),
        image: isWhole && part ? patched(part.file, plan.writes, sectorSizeBytes) : null,
        head: piece(0, Math.max(0, ...front.map(({ end }) => end))),
        tail:
          back.length === 0 ? null : piece(Math.min(...back.map(({ startLba }) => startLba)), sectorCount),
      },
    };
  },

  /** Takes a capsule to the image that is open: the table that comes back, and the image with it. */
  undo(
    document: unknown,
  ): Outcome<{ readonly table: PartitionTable; readonly places: number; readonly image: Blob | null }> {
    if (!open) return nothingOpen;
    const file = parseWrites(document);
    if (!file.ok) return file;
    const writes = writesFor(open.source, file.value);
    if (!writes.ok) return writes;
    const back = applyWrites(open.source, writes.value);
    if (!back.ok) return back;
    const table = readPartitionTable(back.value);
    if (!table.ok) return table;
    const [part] = open.parts;
    return {
      ok: true,
      value: {
        table: table.value,
        places: inStretches(writes.value, open.source.sectorSizeBytes).length,
        image:
          open.parts.length === 1 && part
            ? patched(part.file, writes.value, open.source.sectorSizeBytes)
            : null,
      },
    };
  },

  layout(table: PartitionTable, goal: LayoutPlanGoal, options: LayoutOptions): Outcome<LayoutPlan> {
    return planLayout(table, goal, { ...options, random });
  },

  range(
    table: PartitionTable,
    kind: LayoutPlanGoal['kind'],
    partition: number | null,
    options: LayoutOptions,
  ): Outcome<SizeRange> {
    return sizeRange(table, { kind, ...(partition === null ? {} : { partition }) }, options);
  },

  guarded(disk: Disk, work: Work, context: WorkContext): Outcome<DiskWorkPlan> {
    return guardedDiskWork(disk, work, context);
  },
};

export type DiskWorker = typeof diskWork;

expose(diskWork);
