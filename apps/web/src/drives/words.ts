import { clusterSizes, type Destination, type Drive } from '@ulvane/core/backup';
import { printBytes } from '@ulvane/core/quantity';

export const kindNames: Readonly<Record<Drive['kind'], string>> = {
  drive: 'backup drive',
  stick: 'stick',
  disc: 'optical disc',
  share: 'network share',
  cloud: 'cloud',
};

/** What a backup can lie on: a closed disc is none. */
export const destinationKinds = Object.entries(kindNames).filter(([kind]) => kind !== 'disc');

export const linkNames: Readonly<Record<Destination['link'], string>> = {
  usb2: 'USB 2',
  usb3: 'USB 3',
  sata: 'SATA',
  gigabit: 'gigabit network',
  uplink: 'home uplink',
};

export const mediumNames: Readonly<Record<Destination['medium'], string>> = {
  spinning: 'spinning disk',
  'solid-state': 'solid-state',
  stick: 'stick',
  server: 'server',
};

/** Cluster sizes to choose from; '' where nobody has looked. */
export const clusterChoices: readonly (readonly [value: string, text: string])[] = [
  ['', 'not known: calculated with the largest that is usual'],
  ...clusterSizes.map((bytes) => [String(bytes), printBytes(bytes, 'binary', 0)] as const),
];

/** @example clusterFrom('4096') // { clusterBytes: 4096 } */
export function clusterFrom(chosen: string): { readonly clusterBytes?: number } {
  return chosen === '' ? {} : { clusterBytes: Number(chosen) };
}
