import type { ProblemCode } from '../../outcome/problemCodes';
import { succeed, type Outcome } from '../../outcome/outcome';
import { checkSource, readPadded, type SectorSource } from '../sectors/sectorSource';
import { checkEntries } from './checkEntries';
import { readEbrChain } from './ebrChain';
import { parseGptHeader } from './gptHeader';
import { isBootRecord, parseMbrSector, type MbrSector } from './mbrSector';
import {
  inDiskOrder,
  mbrLimitLba,
  type Finding,
  type PartitionTable,
  type TablePartition,
} from './partitionTable';
import { extendedBytes, printTypeByte, protectiveByte } from './partitionTypes';
import { readGpt, type GptReading } from './readGpt';

/** As `readPartitionTable`, but only the table’s own sectors are looked at: nothing in or around the partitions. */
export function readTable(source: SectorSource): Outcome<PartitionTable> {
  const usable = checkSource(source);
  if (!usable.ok) return usable;
  const { bytes: first, missingBytes } = readPadded(source, 0, 1);
  const findings: Finding[] = [];
  if (missingBytes > 0)
    findings.push({
      code: 'source-short',
      path: '/lba/0',
      sentence: 'The first sector cannot be read whole: the image is cut short, or the disk is failing.',
      weight: 'damage',
    });
  const mbr = parseMbrSector(first);
  const gpt = readGpt(source);
  return succeed(tableOf(source, first, mbr, gpt, findings));
}

function tableOf(
  source: SectorSource,
  first: Uint8Array,
  mbr: MbrSector,
  gpt: GptReading,
  findings: Finding[],
): PartitionTable {
  const { sectorSizeBytes, sectorCount } = source;
  const add = (code: ProblemCode, path: string, sentence: string, weight: Finding['weight']) =>
    findings.push({ code, path, sentence, weight });
  const wide = { firstUsableLba: 1, lastUsableLba: sectorCount - 1 };
  const none = (): PartitionTable => ({
    scheme: 'none',
    sectorSizeBytes,
    sectorCount,
    partitions: [],
    ...wide,
    findings,
  });
  const used = mbr.entries.filter(({ type }) => type !== 0);
  const protective = used.some(({ type }) => type === protectiveByte);
  const ordinary = used.filter(({ type }) => type !== protectiveByte);

  if (mbr.signed && isBootRecord(first) && !protective && !gpt.trusted) {
    add(
      'no-table',
      '/lba/0',
      'The disk begins with a file system and has no partition table: the whole disk is one volume.',
      'note',
    );
    return none();
  }
  if (gpt.present && (protective || (gpt.trusted && ordinary.length === 0))) {
    if (!protective)
      add(
        'protective-missing',
        '/lba/0',
        'The GPT is whole and the protective entry in the first sector is missing: older tools would take the disk for empty.',
        'warning',
      );
    else checkProtective(mbr, sectorCount, add);
    const hybrid = protective && ordinary.length > 0;
    if (hybrid)
      add(
        'hybrid',
        '/lba/0',
        `The first sector names ${ordinary.length === 1 ? 'a partition' : `${ordinary.length} partitions`} beside the protective entry: a hybrid of both schemes, in which two tables can come to differ. Nothing is converted from it.`,
        'warning',
      );
    const { table } = gpt;
    const bounds = { ...wide, ...table, sectorCount };
    const checked = checkEntries(table?.partitions ?? [], bounds);
    return {
      ...none(),
      ...table,
      scheme: 'gpt',
      ...(table?.gpt ? { gpt: { ...table.gpt, hybrid } } : {}),
      partitions: checked.partitions,
      findings: [...findings, ...gpt.findings, ...checked.findings],
    };
  }
  if (protective && !gpt.present) {
    add(
      'gpt-gone',
      '/lba/1',
      'The first sector says GPT, and neither copy of it is there: the table is lost, or the sectors have another size than was said.',
      'damage',
    );
    otherSectorSize(source, findings);
    return { ...none(), scheme: 'gpt', findings };
  }
  if (!mbr.signed) {
    if (otherSectorSize(source, findings)) return none();
    const empty = first.every((byte) => byte === 0);
    add(
      empty ? 'all-zero' : 'no-signature',
      '/lba/0',
      empty
        ? 'The first sector is all zero: the disk was never partitioned, or it was wiped.'
        : 'The first sector has no 0x55AA at its end: there is no partition table, or the disk is encrypted as a whole.',
      'note',
    );
    if (gpt.present) add('stale-gpt', '/lba/1', 'Remains of a GPT are there all the same.', 'warning');
    return none();
  }
  return mbrTable(source, mbr, gpt, findings);
}

function checkProtective(
  mbr: MbrSector,
  sectorCount: number,
  add: (code: ProblemCode, path: string, sentence: string, weight: Finding['weight']) => void,
): void {
  const entry = mbr.entries.find(({ type }) => type === protectiveByte);
  const expected = Math.min(sectorCount - 1, 0xffffffff);
  if (entry && (entry.startLba !== 1 || (entry.sectorCount !== expected && entry.sectorCount !== 0xffffffff)))
    add(
      'protective-length',
      '/lba/0',
      `The protective entry covers sectors ${entry.startLba} to ${entry.startLba + entry.sectorCount - 1} and should cover 1 to ${expected}: the disk was copied from one of another size, or written by an older tool.`,
      'note',
    );
}

/** A GPT that stands where it would with the other sector size; says so, and whether it does. */
function otherSectorSize(source: SectorSource, findings: Finding[]): boolean {
  const other = source.sectorSizeBytes === 512 ? 4096 : 512;
  const perSector = other / source.sectorSizeBytes;
  const { bytes } =
    perSector > 1
      ? readPadded(source, perSector, perSector)
      : { bytes: readPadded(source, 0, 1).bytes.slice(512, 1024) };
  if (parseGptHeader(bytes) === undefined) return false;
  findings.push({
    code: 'sector-size-other',
    path: `/lba/${perSector > 1 ? perSector : 0}`,
    sentence: `A GPT is where it would be on a disk with sectors of ${other} bytes: read it again with that size.`,
    weight: 'warning',
  });
  return true;
}

function mbrTable(
  source: SectorSource,
  mbr: MbrSector,
  gpt: GptReading,
  findings: Finding[],
): PartitionTable {
  const { sectorSizeBytes, sectorCount } = source;
  const add = (code: ProblemCode, path: string, sentence: string, weight: Finding['weight']) =>
    findings.push({ code, path, sentence, weight });
  if (gpt.present)
    add(
      'stale-gpt',
      '/lba/1',
      `The disk is MBR and ${gpt.trusted ? 'a whole GPT' : 'remains of a GPT'} from earlier use ${gpt.trusted ? 'stands' : 'stand'} beside it: some tools will take the wrong one.`,
      'warning',
    );
  const partitions: TablePartition[] = [];
  const containers: NonNullable<PartitionTable['extended']>[] = [];
  mbr.entries.forEach(({ status, type, startLba, sectorCount: length }, index) => {
    if (type === 0) return;
    const path = `/partitions/${index + 1}`;
    if (status !== 0 && status !== 0x80)
      add(
        'entry-status',
        path,
        `The entry of partition ${index + 1} begins with ${printTypeByte(status)}, where only 0x00 and 0x80 can stand: it is damaged.`,
        'damage',
      );
    if (extendedBytes.includes(type)) {
      if (startLba < 1 || length < 1 || startLba >= sectorCount)
        add('extended-outside', path, 'The extended partition has no place on this disk.', 'damage');
      else {
        if (startLba + length > sectorCount)
          add(
            'extended-beyond',
            path,
            `The extended partition reaches to sector ${startLba + length - 1} and the disk ends at ${sectorCount - 1}.`,
            'damage',
          );
        containers.push({ startLba, sectorCount: length, entry: index + 1 });
      }
      return;
    }
    partitions.push({
      number: index + 1,
      kind: 'primary',
      startLba,
      sectorCount: length,
      typeCode: printTypeByte(type),
      ...(status === 0x80 ? { active: true } : {}),
    });
  });
  const [extended, second] = containers;
  if (second)
    add(
      'extended-twice',
      `/partitions/${second.entry}`,
      'There are two extended partitions; one is allowed.',
      'damage',
    );
  const chain = extended ? readEbrChain(source, extended) : { partitions: [], findings: [] };
  const bounds = {
    firstUsableLba: 1,
    lastUsableLba: Math.min(sectorCount, mbrLimitLba) - 1,
  };
  const checked = checkEntries([...partitions, ...chain.partitions], { ...bounds, sectorCount });
  const strays = checked.partitions.flatMap((partition): readonly Finding[] => {
    if (!extended) return [];
    const end = extended.startLba + extended.sectorCount;
    const inside =
      partition.startLba >= extended.startLba && partition.startLba + partition.sectorCount <= end;
    const apart =
      partition.startLba + partition.sectorCount <= extended.startLba || partition.startLba >= end;
    if (partition.kind === 'logical' ? inside : apart) return [];
    return [
      {
        code: partition.kind === 'logical' ? 'logical-outside' : 'entries-overlap',
        path: `/partitions/${partition.number}`,
        sentence:
          partition.kind === 'logical'
            ? `Logical partition ${partition.number} reaches out of the extended partition.`
            : `Partition ${partition.number} and the extended partition overlap.`,
        weight: 'damage',
      },
    ];
  });
  return {
    scheme: 'mbr',
    sectorSizeBytes,
    sectorCount,
    diskId: mbr.diskSignature.toString(16).padStart(8, '0').toUpperCase(),
    partitions: inDiskOrder(checked.partitions),
    ...(extended ? { extended } : {}),
    ...bounds,
    findings: [...findings, ...chain.findings, ...checked.findings, ...strays],
  };
}
