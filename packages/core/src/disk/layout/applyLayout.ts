import type { Outcome } from '../../outcome/outcome';
import type { SectorSource } from '../sectors/sectorSource';
import { applyWrites } from '../sectors/sectorWrite';
import { encodeTable } from '../table/encodeTable';
import { newGuid, type Random } from '../table/guid';
import type { LayoutPlan } from './layoutPlan';

/**
 * The disk as it reads after a layout plan: what moves read from its old place, and the new table over it.
 * Whole disks only in effect: file systems are shrunk, grown and made by their own tools.
 */
export function applyLayout(source: SectorSource, plan: LayoutPlan, random: Random): Outcome<SectorSource> {
  const { sectorSizeBytes } = source;
  const moved: SectorSource = plan.operations.reduce((under, operation) => {
    if (operation.kind !== 'move') return under;
    const { fromLba, toLba, sectorCount } = operation;
    return {
      ...under,
      read: (lba, count) => {
        const bytes = under.read(lba, count).slice();
        const first = Math.max(lba, toLba);
        const end = Math.min(lba + count, toLba + sectorCount);
        if (first < end)
          bytes.set(under.read(first - toLba + fromLba, end - first), (first - lba) * sectorSizeBytes);
        return bytes;
      },
    };
  }, source);
  const encoded = encodeTable(
    {
      ...plan.after,
      partitions: plan.after.partitions.map((partition) =>
        partition.kind === 'entry' && partition.guid === undefined
          ? { ...partition, guid: newGuid(random) }
          : partition,
      ),
    },
    moved,
  );
  return encoded.ok ? applyWrites(moved, encoded.value) : encoded;
}
