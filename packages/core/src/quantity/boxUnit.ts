import { gibibyteBytes, gigabyteBytes, mebibyteBytes } from './bytes';

/** The unit that a size box means, whatever stands beside it. */
export const boxUnits = ['MiB', 'MB', 'GiB', 'GB'] as const;
export type BoxUnit = (typeof boxUnits)[number];

export const unitBytes: Readonly<Record<BoxUnit, number>> = {
  MiB: mebibyteBytes,
  MB: 1_000_000,
  GiB: gibibyteBytes,
  GB: gigabyteBytes,
};

/** Boxes in GB or GiB take two places behind the point. */
export const boxPlaces: Readonly<Record<BoxUnit, number>> = { MiB: 1, MB: 1, GiB: 100, GB: 100 };

/**
 * Bytes as they are typed into a box, and the bytes that the typed number means.
 * @example typedIn(1_610_612_736, 'GiB', Math.floor) // { text: '1.5', bytes: 1610612736 }
 */
export function typedIn(
  bytes: number,
  unit: BoxUnit,
  round: (value: number) => number,
): { readonly text: string; readonly bytes: number } {
  const scaled = round((bytes * boxPlaces[unit]) / unitBytes[unit]);
  return {
    text: String(scaled / boxPlaces[unit]),
    bytes: Math.round((scaled * unitBytes[unit]) / boxPlaces[unit]),
  };
}
