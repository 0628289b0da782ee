import type { Fate } from '@ulvane/core/disk';
import type { RouteDefinition } from '@ulvane/core/route';
import type { Disk, Partition } from '@ulvane/core/survey';

/** What a route does to each partition of a disk, as far as it is known what lies in them. */
export function fatesOn(
  disk: Disk,
  written: Disk | undefined,
  writesOver: RouteDefinition['writesOver'],
): (partition: Partition) => Fate {
  return (partition) => {
    if (disk !== written || writesOver === 'nothing') return 'kept';
    if (writesOver !== 'system-partition') return 'erased';
    return partition.role === 'system' ? 'erased' : partition.role === undefined ? 'unknown' : 'kept';
  };
}
