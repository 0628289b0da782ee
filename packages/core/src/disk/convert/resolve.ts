import type { ProblemCode } from '../../outcome/problemCodes';
import { printBytes } from '../../quantity/bytes';
import { calledBy, type PartitionTable, type TablePartition, inSentence } from '../table/partitionTable';
import { efiByte, efiGuid, printTypeByte, typeOf } from '../table/partitionTypes';
import { spanningVolumes } from '../spanningVolumes';
import type { Obstacle, Resolution } from './conversion';
import { whyNotShrunk } from './shrinkCheck';

type Resolved = {
  readonly partitions: readonly TablePartition[];
  readonly dropped: readonly TablePartition[];
  readonly obstacles: readonly Obstacle[];
  readonly operations: readonly string[];
};

/**
 * The partitions with what was chosen about obstacles done to them: ends brought down, types given,
 * entries dropped. What cannot be done comes back as an obstacle.
 */
export function resolve(table: PartitionTable, resolutions: readonly Resolution[]): Resolved {
  let partitions = table.partitions;
  const dropped: TablePartition[] = [];
  const obstacles: Obstacle[] = [];
  const operations: string[] = [];
  const change = (number: number, how: (partition: TablePartition) => TablePartition) => {
    partitions = partitions.map((partition) => (partition.number === number ? how(partition) : partition));
  };
  const refuse = (code: ProblemCode, number: number, sentence: string) =>
    obstacles.push({ code, path: `/partitions/${number}`, sentence, remedies: [] });

  for (const resolution of resolutions) {
    if (!('partition' in resolution)) continue;
    const partition = partitions.find(({ number }) => number === resolution.partition);
    if (!partition) {
      refuse(
        'no-such-partition',
        resolution.partition,
        `There is no partition ${resolution.partition} on this disk.`,
      );
      continue;
    }
    switch (resolution.kind) {
      case 'shrink': {
        const { bySectors } = resolution;
        const why =
          Number.isSafeInteger(bySectors) && bySectors > 0
            ? whyNotShrunk(partition, bySectors, table)
            : 'Give a whole number of sectors to remove.';
        if (why !== undefined) refuse('cannot-shrink', partition.number, why);
        else {
          change(partition.number, (one) => ({ ...one, sectorCount: one.sectorCount - bySectors }));
          operations.push(
            `${calledBy(partition)} ends ${bySectors} sectors (${printBytes(bySectors * table.sectorSizeBytes, 'binary')}) earlier.`,
          );
        }
        break;
      }
      case 'set-type': {
        const type = typeOf(resolution.typeCode);
        if (!type)
          refuse('unknown-type', partition.number, `${resolution.typeCode} is no type that is known here.`);
        else {
          change(partition.number, (one) => ({
            ...one,
            typeCode: resolution.typeCode.toUpperCase().replace('0X', '0x'),
          }));
          operations.push(`${calledBy(partition)} gets the type ${type.name}.`);
        }
        break;
      }
      case 'reuse-efi':
        change(partition.number, (one) => ({
          ...one,
          typeCode: table.scheme === 'gpt' ? efiGuid : printTypeByte(efiByte),
        }));
        operations.push(`${calledBy(partition)} becomes the EFI system partition.`);
        break;
      case 'drop':
        partitions = partitions.filter(({ number }) => number !== partition.number);
        dropped.push(partition);
        operations.push(`The entry of ${inSentence(partition)} goes; its sectors stay as they are.`);
        break;
    }
  }
  return { partitions, dropped, obstacles, operations };
}

/** What stops any conversion: damage that was found while reading, and dynamic volumes. */
export function refusals(table: PartitionTable): readonly Obstacle[] {
  return [
    ...table.findings
      .filter(({ weight }) => weight === 'damage')
      .map(({ code, path, sentence }) => ({ code, path, sentence, remedies: [] })),
    ...spanningVolumes(table).map((problem) => ({
      ...problem,
      remedies: [],
      otherwise: 'Save the data, and lay the disk out anew.',
    })),
  ];
}
