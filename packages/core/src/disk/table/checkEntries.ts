import type { ProblemCode } from '../../outcome/problemCodes';
import { calledBy, endLba, inDiskOrder, type Finding, type TablePartition } from './partitionTable';
import { typeOf } from './partitionTypes';

type Bounds = {
  readonly sectorCount: number;
  readonly firstUsableLba: number;
  readonly lastUsableLba: number;
};

/**
 * Splits entries into those that name a place on this disk and those that do not, and finds what
 * cannot be: no start, no length, beyond the disk, overlapping, two with one GUID.
 */
export function checkEntries(
  partitions: readonly TablePartition[],
  { sectorCount, firstUsableLba, lastUsableLba }: Bounds,
): { readonly partitions: readonly TablePartition[]; readonly findings: readonly Finding[] } {
  const findings: Finding[] = [];
  const add = (
    code: ProblemCode,
    partition: TablePartition,
    sentence: string,
    weight: Finding['weight'] = 'damage',
  ) => findings.push({ code, path: `/partitions/${partition.number}`, sentence, weight });

  const placed = inDiskOrder(partitions).filter((partition) => {
    const name = calledBy(partition);
    if (partition.startLba < 1) {
      add(
        'entry-start',
        partition,
        `${name} begins at sector ${partition.startLba}, where the table itself is.`,
      );
      return false;
    }
    if (partition.sectorCount < 1) {
      add('entry-empty', partition, `${name} has no length: the entry is damaged.`);
      return false;
    }
    if (partition.startLba >= sectorCount) {
      add(
        'entry-outside',
        partition,
        `${name} begins at sector ${partition.startLba} and the disk ends at ${sectorCount - 1}.`,
      );
      return false;
    }
    if (endLba(partition) > sectorCount)
      add(
        'entry-beyond',
        partition,
        `${name} reaches to sector ${endLba(partition) - 1} and the disk ends at ${sectorCount - 1}: the disk was copied from a larger one, or the image is cut short.`,
      );
    else if (partition.startLba < firstUsableLba || endLba(partition) - 1 > lastUsableLba)
      add(
        'entry-on-table',
        partition,
        `${name} reaches into the sectors ${firstUsableLba > partition.startLba ? `before ${firstUsableLba}` : `behind ${lastUsableLba}`} that belong to the table.`,
      );
    return true;
  });

  let before: TablePartition | undefined;
  for (const partition of placed) {
    if (before && partition.startLba < endLba(before))
      add(
        'entries-overlap',
        partition,
        `${calledBy(partition)} begins at sector ${partition.startLba}, inside ${calledBy(before)}, which reaches to ${endLba(before) - 1}.`,
      );
    if (!before || endLba(partition) > endLba(before)) before = partition;
  }
  const owners = new Map<string, TablePartition>();
  for (const partition of placed) {
    if (partition.guid === undefined) continue;
    const other = owners.get(partition.guid);
    if (other)
      add(
        'guid-twice',
        partition,
        `${calledBy(partition)} and ${calledBy(other)} have one GUID: a copy is on the same disk as its original.`,
        'warning',
      );
    else owners.set(partition.guid, partition);
  }
  for (const partition of placed) {
    if (typeOf(partition.typeCode)?.purpose === 'dynamic')
      add(
        'dynamic-volumes',
        partition,
        `${calledBy(partition)} is for dynamic volumes, whose own table is elsewhere: it is not read.`,
        'warning',
      );
  }
  return { partitions: placed, findings };
}
