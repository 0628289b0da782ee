import type { StepKind } from '../../rules/stepTimes';

/** Runs of steps that several routes share, in the order in which they are done. */
export const saving: readonly StepKind[] = ['forgotten-things', 'full-image', 'copy', 'verify'];
export const paperwork: readonly StepKind[] = ['record-licence', 'record-recovery-key', 'fit-part'];
export const startingFromStick: readonly StepKind[] = [
  'charger',
  'other-disks',
  'identify-disk',
  'firmware',
  'start-from-stick',
];
const firstStart: readonly StepKind[] = ['first-start', 'other-disks-back'];
const firstUpdates: readonly StepKind[] = ['updates', 'optional-updates', 'drivers'];
export const firstDays: readonly StepKind[] = [...firstStart, ...firstUpdates];
/** Where the disk is laid out anew, and the house keeps data apart. */
export const firstDaysAnew: readonly StepKind[] = [...firstStart, 'make-data-partition', ...firstUpdates];
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
  'fetch-image',
  'write-stick',
  'carry-drivers',
  'suspend-encryption',
  ...startingFromStick,
  'erase-disk',
  'install',
  'stick-out',
  ...firstDaysAnew,
  'activate',
  ...movingIn,
  ...handingOver,
];

/** An upgrade from inside the running system. */
export const upgradeSteps: readonly StepKind[] = [
  ...saving,
  ...paperwork,
  'fetch-image',
  'write-stick',
  'carry-drivers',
  'update-present',
  'recovery-medium',
  'suspend-encryption',
  'charger',
  'firmware',
  'start-upgrade',
  'stick-out',
  ...firstDays,
  'activate',
  'firewall',
  'resume-encryption',
  'encrypt',
  'habits',
  ...handingOver,
];
