import type { StepKind } from '../../rules/stepTimes';

/** Runs of steps that several routes share, in the order in which they are done. */
export const saving: readonly StepKind[] = ['forgotten-things', 'full-image', 'copy', 'verify'];
export const paperwork: readonly StepKind[] = ['record-licence', 'record-recovery-key'];
export const startingFromStick: readonly StepKind[] = [
  'charger',
  'other-disks',
  'identify-disk',
  'firmware',
  'start-from-stick',
];
export const firstDays: readonly StepKind[] = ['first-start', 'updates', 'optional-updates', 'drivers'];
export const movingIn: readonly StepKind[] = [
  'firewall',
  'restore',
  'applications',
  'encrypt',
  'habits',
  'boot-order-back',
];
export const handingOver: readonly StepKind[] = ['reconcile', 'sign-off'];

/** A clean install that empties the disk. */
export const cleanSteps: readonly StepKind[] = [
  ...saving,
  ...paperwork,
  'write-stick',
  'carry-drivers',
  'suspend-encryption',
  ...startingFromStick,
  'erase-disk',
  'install',
  'stick-out',
  'make-data-partition',
  ...firstDays,
  'activate',
  ...movingIn,
  ...handingOver,
];

/** An upgrade from inside the running system. */
export const upgradeSteps: readonly StepKind[] = [
  ...saving,
  ...paperwork,
  'write-stick',
  'suspend-encryption',
  'charger',
  'firmware',
  'start-upgrade',
  ...firstDays,
  'activate',
  'firewall',
  'encrypt',
  'habits',
  ...handingOver,
];
