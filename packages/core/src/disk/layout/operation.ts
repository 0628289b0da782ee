import { mebibyteBytes, printBothUnits, printBytes } from '../../quantity/bytes';
import { toolOfShrink } from '../neverShrunk';
import { inSentence, nameOf, type TablePartition } from '../table/partitionTable';
import type { NewPurpose } from './goal';

/** One thing done to a disk. Sectors count from the disk's start. */
export type Operation =
  | {
      readonly kind: 'shrink' | 'grow';
      readonly partition: number;
      readonly fromSectors: number;
      readonly toSectors: number;
    }
  | {
      readonly kind: 'move';
      readonly partition: number;
      readonly fromLba: number;
      readonly toLba: number;
      readonly sectorCount: number;
    }
  | { readonly kind: 'delete'; readonly partition: number }
  | {
      readonly kind: 'create';
      readonly partition: number;
      readonly startLba: number;
      readonly sectorCount: number;
      readonly purpose: NewPurpose;
    }
  | {
      /** Of a partition that was created just before. */
      readonly kind: 'format';
      readonly partition: number;
      readonly startLba: number;
      readonly sectorCount: number;
      readonly purpose: NewPurpose;
      readonly fileSystem: string;
    }
  | { readonly kind: 'set-type'; readonly partition: number; readonly typeCode: string }
  | { readonly kind: 'convert'; readonly target: 'gpt' | 'mbr' };

/** An operation with what a person has to know before it. */
export type PlannedOperation = Operation & {
  /** “Shrink DATA”. */
  readonly title: string;
  readonly sentence: string;
  /** Bytes that it gives, takes, moves or is made of; absent for types and conversions. */
  readonly amountBytes?: number;
  /** What to type into the box that asks for it, in MiB. */
  readonly typeMebibytes?: number;
  /** In all, and those of them at which somebody is busy with it. */
  readonly minutes: number;
  readonly handsMinutes: number;
  /** Points; plans are compared by their sum. */
  readonly risk: number;
  readonly ifPowerFails: string;
  readonly undo: string;
  /** What taking it back costs, while nothing has been written since. */
  readonly undoMinutes: number;
};

/** What may go wrong, in points: a move is ten shrinks, and twenty where the system starts from it. */
const riskPoints = {
  create: 0,
  format: 0,
  'set-type': 0,
  convert: 1,
  shrink: 1,
  grow: 1,
  delete: 2,
  move: 10,
  moveOfSystem: 20,
} as const;

/** Points for moving a partition. */
export function moveRisk({ role }: Pick<TablePartition, 'role'>): number {
  return role === 'system' || role === 'boot' || role === 'efi' ? riskPoints.moveOfSystem : riskPoints.move;
}

const purposeNames: Readonly<Record<NewPurpose, string>> = {
  efi: 'EFI system partition',
  reserved: 'reserved partition',
  recovery: 'recovery partition',
  boot: 'boot partition',
  loader: 'boot-loader partition',
  system: 'system partition',
  data: 'data partition',
  installer: 'installer partition',
};

export function purposeName(purpose: NewPurpose): string {
  return purposeNames[purpose];
}

type Speed = {
  readonly sectorSizeBytes: number;
  /** What the disk reads and writes in one go; a spinning disk where it is not known. */
  readonly bytesPerSecond?: number | undefined;
};

/** A spinning disk that reads and writes at once, where nothing better is known. */
const slowBytesPerSecond = 60_000_000;

const tableComesBack = 'The old table comes back from the undo capsule; contents were not touched.';

/** Says of an operation what it does, how long it takes, and what happens when the power fails. */
export function describeOperation(
  operation: Operation,
  partition: TablePartition | undefined,
  { sectorSizeBytes, bytesPerSecond = slowBytesPerSecond }: Speed,
): PlannedOperation {
  const name = partition ? inSentence(partition) : '';
  const short = partition ? shortName(partition) : '';
  const size = (sectors: number) => printBothUnits(sectors * sectorSizeBytes);
  const moved = (bytes: number) => Math.ceil((bytes * 2) / bytesPerSecond / 60);
  const mebibytes = (sectors: number) => Math.floor((sectors * sectorSizeBytes) / mebibyteBytes);
  switch (operation.kind) {
    case 'shrink': {
      const taken = operation.fromSectors - operation.toSectors;
      // Never more than the plan takes away: what is left is no less than planned.
      const type = mebibytes(taken);
      return {
        ...operation,
        title: `Shrink ${short}`,
        sentence: `Shrink ${name} by ${size(taken)}, to ${size(operation.toSectors)}: in a shrink dialog type ${type} (MiB to remove).${tool(partition)}`,
        amountBytes: taken * sectorSizeBytes,
        typeMebibytes: type,
        minutes: 5 + moved(Math.min(taken * sectorSizeBytes, (partition?.usedBytes ?? 0) / 4)),
        handsMinutes: 3,
        risk: riskPoints.shrink,
        ifPowerFails:
          'The file system may need a check before it opens again; start the shrink once more after it.',
        undo: 'Grow it again to its old end.',
        undoMinutes: 3,
      };
    }
    case 'grow':
      return {
        ...operation,
        title: `Grow ${short}`,
        sentence: `Grow ${name} by ${size(operation.toSectors - operation.fromSectors)}, to ${size(operation.toSectors)}.`,
        amountBytes: (operation.toSectors - operation.fromSectors) * sectorSizeBytes,
        minutes: 3,
        handsMinutes: 2,
        risk: riskPoints.grow,
        ifPowerFails:
          'The partition is longer and its file system is not yet: grow the file system once more.',
        undo: 'Shrink it again.',
        undoMinutes: 5,
      };
    case 'move': {
      const minutes = 5 + moved(operation.sectorCount * sectorSizeBytes);
      return {
        ...operation,
        title: `Move ${short}`,
        sentence: `Move ${name}, ${printBytes(operation.sectorCount * sectorSizeBytes, 'decimal')}, from sector ${operation.fromLba} to ${operation.toLba}.`,
        amountBytes: Math.abs(operation.toLba - operation.fromLba) * sectorSizeBytes,
        minutes,
        handsMinutes: 2,
        risk: partition ? moveRisk(partition) : riskPoints.move,
        ifPowerFails:
          'The partition is half here and half there: it is lost, and only its verified copies count. Keep the mains on.',
        undo: 'Move it back, with the same risk.',
        undoMinutes: minutes,
      };
    }
    case 'delete':
      return {
        ...operation,
        title: `Delete ${short}`,
        sentence: partition
          ? `Delete ${name}, ${size(partition.sectorCount)} from sector ${partition.startLba}.`
          : 'Delete a partition.',
        ...(partition ? { amountBytes: partition.sectorCount * sectorSizeBytes } : {}),
        minutes: 1,
        handsMinutes: 1,
        risk: riskPoints.delete,
        ifPowerFails: 'The entry is gone or still there; nothing in between.',
        undo: `${tableComesBack} Only while nothing has been written there.`,
        undoMinutes: 1,
      };
    case 'create':
      return {
        ...operation,
        title: `Create ${purposeName(operation.purpose)}`,
        sentence: `Create ${operation.purpose === 'efi' || operation.purpose === 'installer' ? 'an' : 'a'} ${purposeName(operation.purpose)} of ${size(operation.sectorCount)} at sector ${operation.startLba}.`,
        amountBytes: operation.sectorCount * sectorSizeBytes,
        typeMebibytes: mebibytes(operation.sectorCount),
        minutes: 1,
        handsMinutes: 1,
        risk: riskPoints.create,
        ifPowerFails: 'The entry is there or not; nothing in between.',
        undo: tableComesBack,
        undoMinutes: 1,
      };
    case 'format':
      return {
        ...operation,
        title: `Format ${purposeName(operation.purpose)}`,
        sentence: `Format the new ${purposeName(operation.purpose)} of ${size(operation.sectorCount)} at sector ${operation.startLba} as ${operation.fileSystem}: the one that was just created, whatever number it has got.`,
        amountBytes: operation.sectorCount * sectorSizeBytes,
        minutes: 2,
        handsMinutes: 1,
        risk: riskPoints.format,
        ifPowerFails: 'Format it again: it is new and holds nothing.',
        undo: 'Nothing is lost: it was free space before.',
        undoMinutes: 0,
      };
    case 'set-type':
      return {
        ...operation,
        title: `New type for ${short}`,
        sentence: `Give ${name} the type ${operation.typeCode}.`,
        minutes: 1,
        handsMinutes: 1,
        risk: riskPoints['set-type'],
        ifPowerFails: 'The type is the old one or the new one.',
        undo: tableComesBack,
        undoMinutes: 1,
      };
    case 'convert':
      return {
        ...operation,
        title: `Convert to ${operation.target.toUpperCase()}`,
        sentence: `Convert the table to ${operation.target.toUpperCase()}.`,
        minutes: 10,
        handsMinutes: 5,
        risk: riskPoints.convert,
        ifPowerFails:
          'The disk has the old table or the new one, whole: go on with the conversion, or write the undo capsule back.',
        undo: tableComesBack,
        undoMinutes: 10,
      };
  }
}

/** By what a shrink is done, where it is known what is in the partition. */
function tool(partition: TablePartition | undefined): string {
  const by = partition && toolOfShrink(partition);
  return by === undefined ? '' : ` It is done by ${by}.`;
}

function shortName(partition: TablePartition): string {
  const name = nameOf(partition);
  return name === '' ? `partition ${partition.number}` : name;
}
