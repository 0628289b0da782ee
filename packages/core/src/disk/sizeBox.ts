import { fail, succeed, type Outcome } from '../outcome/outcome';
import { boxPlaces, typedIn, unitBytes, type BoxUnit } from '../quantity/boxUnit';
import { gibibyteBytes, gigabyteBytes, mebibyteBytes, printBytes } from '../quantity/bytes';

type SizeBox = {
  readonly unit: BoxUnit;
  /** What to type, as it is typed. */
  readonly type: string;
  /** The number to type into a box that means MiB, whatever it says. */
  readonly typeMebibytes: number;
  /** What the system partition then has. */
  readonly systemBytes: number;
  readonly ownPartitionBytes: number;
  /** What comes out for someone who types GB × 1000, and how much is missing then. */
  readonly typedByThousandsBytes: number;
  readonly missingBytes: number;
};

/**
 * What to type into an installer's size box so that the system gets `wantedBytes`, when the installer takes
 * its own small partitions out of the same number; whole MiB, as partitions are aligned.
 * @param wantedBytes wanted system size, positive
 * @param ownPartitionBytes sizes of the partitions that the installer makes by itself
 * @param unit what the box means; most mean MiB and say MB
 * @example sizeBox(90 * 1024 ** 3, [100 * 1024 ** 2]).value.typeMebibytes // 90 × 1024 + 100 = 92260
 */
export function sizeBox(
  wantedBytes: number,
  ownPartitionBytes: readonly number[],
  unit: BoxUnit = 'MiB',
): Outcome<SizeBox> {
  if (!Number.isSafeInteger(wantedBytes) || wantedBytes < mebibyteBytes)
    return fail('size-too-small', '/wantedBytes', 'Give the wanted size as whole bytes, 1 MiB or more.');
  const own =
    ownPartitionBytes.reduce((sum, bytes) => sum + Math.ceil(bytes / mebibyteBytes), 0) * mebibyteBytes;
  const typeMebibytes = Math.ceil((wantedBytes + own) / mebibyteBytes);
  const typed = typedIn(typeMebibytes * mebibyteBytes, unit, Math.ceil);
  const typedByThousands = Math.round(wantedBytes / gigabyteBytes) * 1000 * mebibyteBytes;
  return succeed({
    unit,
    type: typed.text,
    typeMebibytes,
    // An installer that is told more than whole MiB cuts the rest off.
    systemBytes: Math.floor(typed.bytes / mebibyteBytes) * mebibyteBytes - own,
    ownPartitionBytes: own,
    typedByThousandsBytes: typedByThousands,
    missingBytes: typeMebibytes * mebibyteBytes - typedByThousands,
  });
}

/** The sentence beside the box. */
export function explainSizeBox(box: SizeBox): string {
  const own =
    box.ownPartitionBytes === 0
      ? ''
      : `, ${printBytes(box.ownPartitionBytes, 'binary')} of it for the installer’s own partitions`;
  const means = box.unit === 'MiB' ? 'the box means MiB, though it may say MB' : `the box means ${box.unit}`;
  return `Type ${box.type} (${means}): the system gets ${printBytes(box.systemBytes, 'binary')} (${printBytes(box.systemBytes, 'decimal')})${own}.`;
}

type ShrinkBox = {
  readonly unit: BoxUnit;
  /** The amount to remove, as it is typed. */
  readonly type: string;
  readonly takenBytes: number;
  readonly leftBytes: number;
};

/**
 * What to type into a shrink dialog, which asks for the amount to remove and not for what is left.
 * Rounded down, so that never less is left than was asked for; what is taken is whole MiB.
 * @param presentBytes what the partition has
 * @param leftBytes what it is to keep
 * @example shrinkBox(100 * 1024 ** 3, 60 * 1024 ** 3).value.type // 40 × 1024 = '40960'
 */
export function shrinkBox(
  presentBytes: number,
  leftBytes: number,
  unit: BoxUnit = 'MiB',
): Outcome<ShrinkBox> {
  if (!Number.isSafeInteger(leftBytes) || leftBytes < mebibyteBytes)
    return fail('size-too-small', '/leftBytes', 'Give what is to be left as whole bytes, 1 MiB or more.');
  if (!Number.isSafeInteger(presentBytes) || presentBytes - leftBytes < mebibyteBytes)
    return fail(
      'nothing-to-take',
      '/leftBytes',
      `The partition has ${printBytes(presentBytes, 'binary')}: less than 1 MiB would be taken away.`,
    );
  const taken = Math.floor((presentBytes - leftBytes) / mebibyteBytes) * mebibyteBytes;
  const typed = typedIn(taken, unit, Math.floor);
  const takenBytes = Math.floor(typed.bytes / mebibyteBytes) * mebibyteBytes;
  if (takenBytes === 0)
    return fail(
      'less-than-the-box',
      '/leftBytes',
      `${printBytes(taken, 'binary')} would be taken away, and a box in ${unit} accepts no less than ${printBytes(Math.ceil(unitBytes[unit] / boxPlaces[unit]), 'binary')}: use one in MiB, or take more.`,
    );
  return succeed({ unit, type: typed.text, takenBytes, leftBytes: presentBytes - takenBytes });
}

/** A number said as GB in both meanings, and what lies between them. */
type BothMeanings = {
  readonly number: number;
  readonly decimalBytes: number;
  readonly binaryBytes: number;
  readonly differenceBytes: number;
};

/**
 * What “90 GB” may mean: 90 × 1000³ or 90 × 1024³ bytes.
 * @example bothMeanings(90).differenceBytes // 90 × (1024³ − 1000³) = 6636764160
 */
export function bothMeanings(number: number): BothMeanings {
  const decimalBytes = Math.round(number * gigabyteBytes);
  const binaryBytes = Math.round(number * gibibyteBytes);
  return { number, decimalBytes, binaryBytes, differenceBytes: binaryBytes - decimalBytes };
}
