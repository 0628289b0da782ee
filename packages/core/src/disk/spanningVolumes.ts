import type { Problem } from '../outcome/outcome';
import { calledBy, type PartitionTable } from './table/partitionTable';
import { typeOf } from './table/partitionTypes';

/**
 * Volumes that reach over several partitions or disks and keep a table of their own, by type or by
 * signature: dynamic volumes and pools. Neither a conversion nor a layout would move that table along, so
 * both are refused on such a disk, in either scheme.
 */
export function spanningVolumes({
  partitions,
  findings,
}: Pick<PartitionTable, 'partitions' | 'findings'>): readonly Problem[] {
  const asWhole = findings.filter(({ code }) => code === 'disk-in-set');
  const byPartition = partitions.flatMap((partition): readonly Problem[] => {
    const purpose = typeOf(partition.typeCode)?.purpose;
    const path = `/partitions/${partition.number}`;
    if (purpose === 'dynamic')
      return [
        {
          code: 'dynamic-volumes',
          path,
          sentence: `${calledBy(partition)} is for dynamic volumes: their own table would not move along, so nothing is planned on this disk.`,
        },
      ];
    if (purpose === 'pool' || partition.content?.kind === 'pool')
      return [
        {
          code: 'pool-member',
          path,
          sentence: `${calledBy(partition)} is a member of a storage pool: the pool knows it by its place and length, so nothing is planned on this disk.`,
        },
      ];
    return [];
  });
  return [...asWhole.map(({ code, path, sentence }) => ({ code, path, sentence })), ...byPartition];
}
