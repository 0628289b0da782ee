import { allows, excludes, undecided, type RouteDefinition, type RouteRule } from '../definition';
import { saving } from './steps';

const worthReplacing: RouteRule = {
  id: 'worth-replacing',
  reads: ['presentRelease'],
  judge: ({ outlook, present, isEmpty }) => {
    if (isEmpty) return excludes('No system is on the device: nothing would move to another one.');
    // A device is not given up for want of a look.
    if (!present || outlook.any === 'unknown' || outlook.family === 'unknown')
      return undecided(
        'Whether a supported release accepts the device is not known yet.',
        'Find out the unknown facts on Survey first.',
      );
    if (outlook.any === 'fails') return allows('No supported release accepts the device.');
    return outlook.any === 'waivable'
      ? allows('Supported releases accept the device only with waived checks.')
      : allows('A supported release accepts the device: replacing it is a choice, not a need.');
  },
};

export const replace: RouteDefinition = {
  id: 'replace',
  title: 'Replace the device',
  about: 'The data moves to another device; the old disk is wiped and the device leaves by local rules.',
  hasTarget: false,
  concerns: () => false,
  rules: [worthReplacing],
  keeps: ['data'],
  loses: ['the device', 'applications whose licence does not move along'],
  cautions: [
    'The old disk is wiped only when the owner has worked on the new device and misses nothing.',
    'Batteries and devices leave by local rules for disposal; a swollen battery goes to qualified people.',
  ],
  steps: [
    ...saving,
    'record-recovery-key',
    'pair-device',
    'move-data',
    'charger',
    'other-disks',
    'identify-disk',
    'wipe-old-disk',
    'applications',
    'habits',
    'disposal',
    'reconcile',
    'sign-off',
  ],
  serves: new Set(['support-ends']),
  terms: { dataRisk: 0.7, ownerEffort: 0.4, reversible: 0.2 },
  houseRuleProfile: { belowMinimum: 'replace' },
  writesOver: 'whole-disk',
  consent: [],
  supportShare: 1,
  cost: 650,
};
