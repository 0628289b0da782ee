import { fail, succeed, type Outcome } from '../outcome/outcome';
import { gigabyteBytes, mebibyteBytes, printBytes } from '../quantity/bytes';

export type SizeBox = {
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
 * What to type into an installer's size box (MiB, mostly labelled MB) so that the system gets
 * `wantedBytes`, when the installer takes its own small partitions out of the same number.
 * @param wantedBytes wanted system size, positive
 * @param ownPartitionBytes sizes of the partitions that the installer makes by itself
 * @example sizeBox(90 * 1024 ** 3, [100 * 1024 ** 2]).value.typeMebibytes // 90 × 1024 + 100 = 92260
 */
export function sizeBox(wantedBytes: number, ownPartitionBytes: readonly number[]): Outcome<SizeBox> {
  if (!Number.isSafeInteger(wantedBytes) || wantedBytes < mebibyteBytes)
    return fail('size-too-small', '/wantedBytes', 'Give the wanted size as whole bytes, 1 MiB or more.');
  const own =
    ownPartitionBytes.reduce((sum, bytes) => sum + Math.ceil(bytes / mebibyteBytes), 0) * mebibyteBytes;
  const typeMebibytes = Math.ceil((wantedBytes + own) / mebibyteBytes);
  const typedByThousands = Math.round(wantedBytes / gigabyteBytes) * 1000 * mebibyteBytes;
  return succeed({
    typeMebibytes,
    systemBytes: typeMebibytes * mebibyteBytes - own,
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
  return `Type ${box.typeMebibytes} (the box means MiB, though it may say MB): the system gets ${printBytes(box.systemBytes, 'binary')} (${printBytes(box.systemBytes, 'decimal')})${own}.`;
}
