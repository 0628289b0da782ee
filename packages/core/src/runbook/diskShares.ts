import { apportion } from '../quantity/apportion';
import type { PlanDisk } from './planDisks';

/** A part of a disk at one moment, in tenths of a gigabyte (1000³). */
type DiskShare = {
  readonly label: string;
  readonly tenths: number;
  /** Whether the step just before made it what it is. */
  readonly isChanged: boolean;
};

const tenthBytes = 1e8;
/** What is smaller is counted together. */
const minBytes = 1e9;

/**
 * What a disk holds after so many steps, as figures that add up to the disk: partitions in their order, free space,
 * and all that is under 1 GB together.
 * @param cut 0 as surveyed, n after the n-th step
 */
export function diskShares(
  { bands, sectorCount, sectorSizeBytes }: PlanDisk,
  cut: number,
): { readonly shares: readonly DiskShare[]; readonly totalTenths: number } {
  const bytesAt = (band: PlanDisk['bands'][number], at: number) =>
    (band.cuts[at]?.sectorCount ?? 0) * sectorSizeBytes;
  const before = Math.max(0, cut - 1);
  const there = bands
    .filter((band) => band.cuts[cut] !== undefined)
    .toSorted((a, b) => (a.cuts[cut]?.startLba ?? 0) - (b.cuts[cut]?.startLba ?? 0));
  const all = sectorCount * sectorSizeBytes;
  const freeAt = (at: number) => all - bands.reduce((sum, band) => sum + bytesAt(band, at), 0);
  const large = there.filter((band) => bytesAt(band, cut) >= minBytes);
  const parts = [
    ...large.map((band) => ({
      label: band.label,
      bytes: bytesAt(band, cut),
      isChanged: bytesAt(band, cut) !== bytesAt(band, before),
    })),
    ...(freeAt(cut) >= minBytes
      ? [{ label: 'free', bytes: freeAt(cut), isChanged: freeAt(cut) !== freeAt(before) }]
      : []),
  ];
  const rest = all - parts.reduce((sum, { bytes }) => sum + bytes, 0);
  const shown = rest > 0 ? [...parts, { label: 'others', bytes: rest, isChanged: false }] : parts;
  const totalTenths = Math.round(all / tenthBytes);
  const tenths = apportion(
    shown.map(({ bytes }) => bytes),
    totalTenths,
  );
  return {
    totalTenths,
    shares: shown.map(({ label, isChanged }, index) => ({ label, isChanged, tenths: tenths[index] ?? 0 })),
  };
}
