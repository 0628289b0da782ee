import {
  applyWrites,
  planConversion,
  type ConversionOptions,
  type ConversionPlan,
  type PartitionTable,
  type Resolution,
  type SectorSource,
  type TablePartition,
} from '../src/disk';

/** A source after writes; fails the test when they do not fit it. */
export function applied(source: SectorSource, writes: ConversionPlan['writes']): SectorSource {
  const result = applyWrites(source, writes);
  if (!result.ok) throw new Error(result.problems[0]?.sentence);
  return result.value;
}

/** Takes the first remedy of every obstacle until there are none left, or one has no remedy. */
export function takeRemedies(
  disk: SectorSource | PartitionTable,
  target: 'gpt' | 'mbr',
  options: ConversionOptions,
  start: readonly Resolution[] = [],
) {
  let resolutions = [...start];
  for (let round = 0; round < 10; round += 1) {
    const outcome = planConversion(disk, target, { ...options, resolutions });
    if (outcome.ok) return { plan: outcome.value, resolutions };
    const remedies = outcome.problems.flatMap(({ remedies: [first] }) => (first ? [first.resolution] : []));
    if (remedies.length < outcome.problems.length) return { problems: outcome.problems };
    resolutions = [...resolutions, ...remedies];
  }
  throw new Error('the remedies never end');
}

/** A primary partition of the most common type. */
export const partition = (
  number: number,
  startLba: number,
  sectorCount: number,
  more: Partial<TablePartition> = {},
): TablePartition => ({
  number,
  kind: 'primary',
  startLba,
  sectorCount,
  typeCode: '0x07',
  ...more,
});

/** 2,000,000 sectors of 512 bytes, 1.0 GB. */
export function mbrTable(
  partitions: readonly TablePartition[],
  more: Partial<PartitionTable> = {},
): PartitionTable {
  return {
    scheme: 'mbr',
    sectorSizeBytes: 512,
    sectorCount: 2_000_000,
    diskId: 'CAFE0001',
    partitions,
    firstUsableLba: 1,
    lastUsableLba: 1_999_999,
    findings: [],
    ...more,
  };
}
