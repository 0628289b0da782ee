import { succeed, type Outcome } from '../../outcome/outcome';
import { contentNames } from '../content/content';
import { recogniseContent } from '../content/recognise';
import { whyNotClosed } from '../leftState';
import type { SectorSource } from '../sectors/sectorSource';
import type { Finding, PartitionTable, TablePartition } from './partitionTable';
import { readTable } from './readTable';
import { habitFindings, lookAround } from './surroundings';

/**
 * Reads the partition table of a disk: MBR with its chain of EBRs, or both copies of a GPT, and what each
 * partition holds. Damage is never an error but a finding beside what could be read; nothing is read
 * that a number on the disk asks for without a bound.
 * @param source sectors of 512 or 4096 bytes
 * @returns refused only when the source is none: another sector size, no sector
 */
export function readPartitionTable(source: SectorSource): Outcome<PartitionTable> {
  const read = readTable(source);
  if (!read.ok) return read;
  const table = {
    ...read.value,
    partitions: read.value.partitions.map((partition) => withContent(source, partition)),
  };
  if (table.scheme === 'none') return succeed(asWholeDisk(source, table));
  const around = lookAround(source, table);
  return succeed({
    ...table,
    ...(around.startCode ? { startCode: true } : {}),
    ...(around.outsideUse.length > 0 ? { outsideUse: around.outsideUse } : {}),
    findings: [
      ...table.findings,
      ...otherMbrSectorSize(source, table),
      ...around.findings,
      ...habitFindings(table),
      ...leftFindings(table),
    ],
  });
}

/** File systems that were not closed in order, and systems that are asleep in them. */
function leftFindings({ partitions }: PartitionTable): readonly Finding[] {
  return partitions.flatMap((partition): readonly Finding[] => {
    const why = whyNotClosed(partition);
    return why === undefined
      ? []
      : [
          {
            code: `left-${partition.content?.left ?? 'unclean'}`,
            path: `/partitions/${partition.number}`,
            sentence: why,
            weight: 'warning',
          },
        ];
  });
}

/** An MBR whose partitions are found where they would stand with the other sector size, and not where it says. */
function otherMbrSectorSize(source: SectorSource, table: PartitionTable): readonly Finding[] {
  if (table.scheme !== 'mbr' || table.partitions.some(({ content }) => content !== undefined)) return [];
  const { sectorSizeBytes, sectorCount } = source;
  const other = sectorSizeBytes === 512 ? 4096 : 512;
  const found = table.partitions.some(({ startLba, sectorCount: length }) => {
    const from = (startLba * other) / sectorSizeBytes;
    const sectors = Math.floor((length * other) / sectorSizeBytes);
    return (
      Number.isInteger(from) &&
      from + sectors <= sectorCount &&
      sectors > 0 &&
      recogniseContent(source, from, sectors) !== undefined
    );
  });
  return found
    ? [
        {
          code: 'sector-size-other',
          path: '/lba/0',
          sentence: `The partitions stand where this table names them on a disk with sectors of ${other} bytes: read it again with that size.`,
          weight: 'damage',
        },
      ]
    : [];
}

/** What says that there is no table, and nothing else. */
const noTable: ReadonlySet<string> = new Set(['all-zero', 'no-signature', 'no-table']);

/** A disk without a table may be one volume as a whole: it is named, and never called empty. */
function asWholeDisk(source: SectorSource, table: PartitionTable): PartitionTable {
  if (!table.findings.every(({ code }) => noTable.has(code))) return table;
  const whole = recogniseContent(source, 0, source.sectorCount);
  if (!whole) return table;
  const sentence = `The disk has no partition table: as a whole it is ${contentNames[whole.kind]}${whole.label === undefined ? '' : ` (${whole.label})`}. It is not empty.`;
  return {
    ...table,
    wholeDisk: whole,
    findings: [{ code: 'whole-disk-volume', path: '/lba/0', sentence, weight: 'warning' }],
  };
}

function withContent(source: SectorSource, partition: TablePartition): TablePartition {
  const content = recogniseContent(source, partition.startLba, partition.sectorCount);
  if (!content) return partition;
  return {
    ...partition,
    content,
    ...(content.label === undefined ? {} : { label: content.label }),
    ...(content.usedBytes === undefined ? {} : { usedBytes: content.usedBytes }),
    ...(content.kind === 'luks' || content.kind === 'encrypted' ? { encrypted: true } : {}),
  };
}
