import { describeOperation, type Operation, type PlannedOperation } from '../layout/operation';
import type { PartitionTable } from '../table/partitionTable';
import type { Resolution } from './conversion';

type Converted = {
  readonly before: PartitionTable;
  readonly after: PartitionTable;
  readonly target: 'gpt' | 'mbr';
};

/**
 * A conversion as operations: what is shrunk is shrunk first, inside its own system; the table is written once; what is
 * made is formatted at last.
 */
function conversionOperations(
  { before, after, target }: Converted,
  resolutions: readonly Resolution[],
): readonly Operation[] {
  const operations: readonly Operation[] = [
    ...resolutions.flatMap((resolution) => operationsOf(resolution, before, after)),
    { kind: 'convert', target },
  ];
  return [
    ...operations.filter(({ kind }) => kind === 'shrink'),
    ...operations.filter(({ kind }) => kind !== 'shrink' && kind !== 'format'),
    ...operations.filter(({ kind }) => kind === 'format'),
  ];
}

/** The same, each with what a person has to know before it. */
export function describedConversion(
  plan: Converted,
  resolutions: readonly Resolution[],
  bytesPerSecond?: number,
): readonly PlannedOperation[] {
  const { partitions, sectorSizeBytes } = plan.before;
  return conversionOperations(plan, resolutions).map((operation) =>
    describeOperation(
      operation,
      'partition' in operation && operation.kind !== 'create' && operation.kind !== 'format'
        ? partitions.find(({ number }) => number === operation.partition)
        : undefined,
      { sectorSizeBytes, bytesPerSecond },
    ),
  );
}

function operationsOf(
  resolution: Resolution,
  table: PartitionTable,
  after: PartitionTable,
): readonly Operation[] {
  switch (resolution.kind) {
    case 'shrink': {
      const partition = table.partitions.find(({ number }) => number === resolution.partition);
      return partition
        ? [
            {
              kind: 'shrink',
              partition: partition.number,
              fromSectors: partition.sectorCount,
              toSectors: partition.sectorCount - resolution.bySectors,
            },
          ]
        : [];
    }
    case 'set-type':
      return [{ kind: 'set-type', partition: resolution.partition, typeCode: resolution.typeCode }];
    case 'make-boot':
    case 'make-efi': {
      const made = after.partitions.find(({ startLba }) => startLba === resolution.startLba);
      const partition = made?.number ?? 1;
      return [
        {
          kind: 'create',
          partition,
          startLba: resolution.startLba,
          sectorCount: resolution.sectorCount,
          purpose: resolution.kind === 'make-efi' ? 'efi' : 'loader',
        },
        ...(resolution.kind === 'make-efi'
          ? [
              {
                kind: 'format' as const,
                partition,
                startLba: resolution.startLba,
                sectorCount: resolution.sectorCount,
                purpose: 'efi' as const,
                fileSystem: 'FAT32',
              },
            ]
          : []),
      ];
    }
    case 'drop':
      return [{ kind: 'delete', partition: resolution.partition }];
    case 'reuse-efi':
    case 'logical-to-entry':
    case 'entry-to-logical':
    case 'no-efi':
    case 'write-over':
    case 'closed':
    case 'suspended':
      return [];
  }
}
