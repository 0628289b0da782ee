import type { ThreePoint } from '../../quantity/duration';
import type { Disk } from '../../survey/disk';
import type { Destination } from '../scope/dataSet';

type Speed = { readonly low: number; readonly likely: number; readonly high: number };

const megabyteBytes = 1_000_000;

/** Bytes a second that a link carries, in MB/s: slowest, usual, fastest seen. */
const linkSpeeds: Record<Destination['link'], Speed> = {
  usb2: { low: 22, likely: 30, high: 36 },
  usb3: { low: 100, likely: 220, high: 400 },
  sata: { low: 400, likely: 450, high: 500 },
  gigabit: { low: 60, likely: 100, high: 112 },
  uplink: { low: 1, likely: 2.5, high: 5 },
};

const mediumSpeeds: Record<Destination['medium'], Speed> = {
  spinning: { low: 80, likely: 110, high: 160 },
  'solid-state': { low: 400, likely: 430, high: 500 },
  stick: { low: 8, likely: 25, high: 90 },
  server: { low: 80, likely: 150, high: 300 },
};

/** Milliseconds that each file costs besides its bytes: opening, naming, closing. */
const fileCostMilliseconds: Record<Destination['medium'], Speed> = {
  spinning: { low: 4, likely: 9, high: 18 },
  'solid-state': { low: 0.5, likely: 1, high: 3 },
  stick: { low: 6, likely: 15, high: 40 },
  server: { low: 3, likely: 8, high: 20 },
};

export type CopyTime = {
  readonly minutes: ThreePoint;
  /** What sets the pace. */
  readonly slowest: 'source' | 'link' | 'destination';
};

/** The medium of a source disk; a disk whose kind is unknown counts as the slower one. */
export function sourceMedium(disk: Pick<Disk, 'rotational'> | undefined): 'spinning' | 'solid-state' {
  return disk?.rotational === false ? 'solid-state' : 'spinning';
}

/**
 * Minutes to copy: bytes ÷ the slowest of source, link and destination, plus a cost for each file
 * (the larger of the two media's).
 * @example copyTime({ sizeBytes: 54e9, fileCount: 0 }, 'solid-state', usb2Drive).minutes.likely // 54 000 MB ÷ 30 MB/s = 30 min
 */
export function copyTime(
  amount: { readonly sizeBytes: number; readonly fileCount: number },
  source: 'spinning' | 'solid-state',
  destination: Pick<Destination, 'link' | 'medium'>,
): CopyTime {
  const speeds = {
    source: mediumSpeeds[source],
    link: linkSpeeds[destination.link],
    destination: mediumSpeeds[destination.medium],
  };
  const minutesAt = (rate: keyof Speed, cost: keyof Speed) => {
    const slowest = Math.min(speeds.source[rate], speeds.link[rate], speeds.destination[rate]);
    const fileCost = Math.max(
      fileCostMilliseconds[source][cost],
      fileCostMilliseconds[destination.medium][cost],
    );
    return amount.sizeBytes / (slowest * megabyteBytes) / 60 + (amount.fileCount * fileCost) / 60_000;
  };
  const places = ['source', 'link', 'destination'] as const;
  const slowest = places.reduce((a, b) => (speeds[b].likely < speeds[a].likely ? b : a));
  return {
    minutes: {
      low: minutesAt('high', 'low'),
      likely: minutesAt('likely', 'likely'),
      high: minutesAt('low', 'high'),
    },
    slowest,
  };
}
