import type { Problem } from '../../outcome/outcome';
import { readPadded, type SectorSource } from '../sectors/sectorSource';
import { inSectors, type SectorWrite } from '../sectors/sectorWrite';
import { encodeTable } from '../table/encodeTable';
import { endLba, standardEntrySectors, type PartitionTable } from '../table/partitionTable';
import { readPartitionTable } from '../table/readPartitionTable';
import type { ConversionOptions, ConversionOutcome, Obstacle } from './conversion';
import { layOutAnew } from './leadingOn';
import { planTableConversion } from './planTableConversion';

/**
 * Plans the change of a disk's scheme without loss. With a source the exact sectors to write come along;
 * with a table alone only the table afterwards and what is done. Contents stay where they are, to the byte.
 * @param options random bytes for GUIDs, what was chosen about obstacles, what is remembered from before
 * @returns the plan, or every obstacle at once, each with what would change it
 */
export function planConversion(
  disk: SectorSource | PartitionTable,
  target: 'gpt' | 'mbr',
  options: ConversionOptions,
): ConversionOutcome {
  if (!('read' in disk)) return planTableConversion(disk, target, options);
  const read = readPartitionTable(disk);
  if (!read.ok) return refusedWith(read.problems);
  const planned = planTableConversion(read.value, target, options);
  if (!planned.ok) return planned;
  const { before, after } = planned.value;
  const writes = writesOf(before, after, disk);
  if (!writes.ok) return refusedWith(writes.problems);
  const touched = contentsTouched(before, writes.value);
  if (touched) return { ok: false, problems: [touched] };
  return { ok: true, value: { ...planned.value, writes: writes.value } };
}

function refusedWith(problems: readonly Problem[]): ConversionOutcome {
  return {
    ok: false,
    problems: problems.map((problem) => ({ ...problem, remedies: [], otherwise: layOutAnew })),
  };
}

function writesOf(before: PartitionTable, after: PartitionTable, source: SectorSource) {
  const encoded = encodeTable(after, source);
  if (!encoded.ok) return encoded;
  // The new table is whole and switched to before anything of the old one goes.
  const writes = after.scheme === 'gpt' ? encoded.value : [...encoded.value, ...cleared(before, source)];
  return { ok: true as const, value: inSectors(writes, source.sectorSizeBytes) };
}

/** Both copies of the GPT all zero: a table that is left standing would be taken for the true one. */
function cleared(before: PartitionTable, source: SectorSource): readonly SectorWrite[] {
  const { gpt } = before;
  if (!gpt) return [];
  const { sectorSizeBytes, sectorCount } = source;
  const entrySectors = Math.max(
    standardEntrySectors(sectorSizeBytes),
    Math.ceil((gpt.entryCount * gpt.entrySizeBytes) / sectorSizeBytes),
  );
  const zero = (startLba: number, sectors: number, about: string): SectorWrite => ({
    startLba,
    bytes: new Uint8Array(sectors * sectorSizeBytes),
    about,
  });
  const last = sectorCount - 1;
  return [
    zero(1, 1, 'primary GPT header, cleared'),
    zero(gpt.entriesLba, entrySectors, 'primary GPT entries, cleared'),
    ...[...new Set([gpt.backupLba, last])].flatMap((lba) => [
      zero(lba - entrySectors, entrySectors, 'backup GPT entries, cleared'),
      zero(lba, 1, 'backup GPT header, cleared'),
    ]),
  ].filter(
    ({ startLba, bytes }) =>
      startLba > 0 &&
      before.partitions.every(
        (partition) =>
          startLba + bytes.length / sectorSizeBytes <= partition.startLba || startLba >= endLba(partition),
      ) &&
      readPadded(source, startLba, 1).missingBytes === 0,
  );
}

/** A last look, whatever the planner thought: no write may meet a partition that is there now. */
function contentsTouched(before: PartitionTable, writes: readonly SectorWrite[]): Obstacle | undefined {
  for (const { startLba, bytes, about } of writes) {
    const end = startLba + bytes.length / before.sectorSizeBytes;
    // A partition that was shrunk or dropped counts with its old length: even its free end is not written.
    const hit = before.partitions.find(
      (partition) => startLba < endLba(partition) && end > partition.startLba,
    );
    if (hit && !isFreed(hit, startLba, before))
      return {
        code: 'would-touch-contents',
        path: `/partitions/${hit.number}`,
        sentence: `Writing ${about} at sector ${startLba} would touch partition ${hit.number}: the plan is not made.`,
        remedies: [],
      };
  }
  return undefined;
}

/** The end that a shrink gave up is no content: its file system ends before it. */
function isFreed(
  partition: PartitionTable['partitions'][number],
  writeLba: number,
  { sectorSizeBytes }: PartitionTable,
): boolean {
  const spans = partition.content?.spansBytes;
  return spans !== undefined && writeLba >= partition.startLba + Math.ceil(spans / sectorSizeBytes);
}
