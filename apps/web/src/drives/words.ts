import type { Destination } from '@ulvane/core';

export const kindNames: Readonly<Record<Destination['kind'], string>> = {
  drive: 'backup drive',
  stick: 'stick',
  share: 'network share',
  cloud: 'cloud',
};

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
