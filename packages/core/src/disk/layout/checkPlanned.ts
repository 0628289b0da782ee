import { fail, succeed, type Outcome } from '../../outcome/outcome';
import { applyWrites } from '../sectors/sectorWrite';
import type { SectorSource } from '../sectors/sectorSource';
import { encodeTable } from '../table/encodeTable';
import { calledBy, inDiskOrder, type PartitionTable } from '../table/partitionTable';
import { readTable } from '../table/readTable';

/** A disk of zeros: what a table says does not hang on what stands in the partitions. */
function blankDisk({ sectorSizeBytes, sectorCount }: PartitionTable): SectorSource {
  return { sectorSizeBytes, sectorCount, read: (_lba, count) => new Uint8Array(count * sectorSizeBytes) };
}

/**
 * A planned table as the disk would say it: written, and read again. Logical partitions are numbered along their
 * chain, as systems count them, not as the plan did. Refused when what is read is damaged, or not what
 * was planned: such a plan is never offered.
 */
export function checkPlanned(planned: PartitionTable): Outcome<PartitionTable> {
  const blank = blankDisk(planned);
  const encoded = encodeTable(planned, blank);
  if (!encoded.ok) return encoded;
  const written = applyWrites(blank, encoded.value);
  if (!written.ok) return written;
  const read = readTable(written.value);
  if (!read.ok) return read;
  const damage = read.value.findings.find(({ weight }) => weight === 'damage');
  if (damage) return fail('planned-table-damaged', damage.path, `The plan is not made: ${damage.sentence}`);
  const asRead = new Map(read.value.partitions.map((partition) => [partition.startLba, partition]));
  const differs = planned.partitions.find((partition) => {
    const other = asRead.get(partition.startLba);
    return other?.sectorCount !== partition.sectorCount || other.kind !== partition.kind;
  });
  if (differs || asRead.size !== planned.partitions.length)
    return fail(
      'planned-table-differs',
      differs ? `/partitions/${differs.number}` : '',
      `The plan is not made: ${differs ? calledBy(differs) : 'a partition'} would not be read again as it was planned.`,
    );
  return succeed({
    ...planned,
    partitions: inDiskOrder(
      planned.partitions.map((partition) => ({
        ...partition,
        number: asRead.get(partition.startLba)?.number ?? partition.number,
      })),
    ),
  });
}
