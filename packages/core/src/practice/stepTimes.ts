import { exactly, type ThreePoint } from '../quantity/duration';

/** Every kind of step that a runbook can hold, in the order in which they are done. */
export const stepKinds = [
  'forgotten-things',
  'copy',
  'verify',
  'isolate',
  'end-date',
  'record-licence',
  'record-recovery-key',
  'write-stick',
  'try-live',
  'carry-drivers',
  'fast-start-off',
  'suspend-encryption',
  'charger',
  'other-disks',
  'identify-disk',
  'firmware',
  'start-upgrade',
  'start-from-stick',
  'erase-disk',
  'format-system',
  'install',
  'stick-out',
  'first-start',
  'updates',
  'optional-updates',
  'drivers',
  'activate',
  'firewall',
  'restore',
  'applications',
  'encrypt',
  'habits',
  'boot-order-back',
  'reconcile',
  'sign-off',
] as const;

export type StepKind = (typeof stepKinds)[number];

export type StepTime = { readonly handsOn: ThreePoint; readonly waiting: ThreePoint };

const none = exactly(0);
const range = (low: number, likely: number, high: number): ThreePoint => ({ low, likely, high });

/**
 * Starting values, minutes. Copying, verifying, restoring and installing wait as long as the data
 * and the release make them; that is added where it is known.
 */
export const stepTimes: Record<StepKind, StepTime> = {
  'forgotten-things': { handsOn: range(6, 10, 20), waiting: none },
  copy: { handsOn: range(3, 4, 8), waiting: none },
  verify: { handsOn: range(2, 3, 6), waiting: none },
  'try-live': { handsOn: range(8, 12, 25), waiting: range(3, 5, 10) },
  isolate: { handsOn: range(8, 12, 25), waiting: none },
  'end-date': { handsOn: range(2, 3, 5), waiting: none },
  'record-licence': { handsOn: range(2, 4, 15), waiting: none },
  'record-recovery-key': { handsOn: range(2, 4, 15), waiting: none },
  'write-stick': { handsOn: range(3, 4, 8), waiting: range(4, 11, 25) },
  'carry-drivers': { handsOn: range(4, 8, 30), waiting: none },
  'fast-start-off': { handsOn: range(2, 3, 5), waiting: none },
  'suspend-encryption': { handsOn: range(2, 3, 5), waiting: none },
  charger: { handsOn: exactly(1), waiting: none },
  'other-disks': { handsOn: range(2, 4, 15), waiting: none },
  'identify-disk': { handsOn: range(1, 2, 5), waiting: none },
  firmware: { handsOn: range(3, 4, 10), waiting: none },
  'start-upgrade': { handsOn: range(4, 6, 10), waiting: range(45, 75, 150) },
  'start-from-stick': { handsOn: range(2, 4, 12), waiting: none },
  'erase-disk': { handsOn: range(3, 6, 12), waiting: none },
  'format-system': { handsOn: range(3, 6, 12), waiting: none },
  install: { handsOn: range(1, 2, 5), waiting: none },
  'stick-out': { handsOn: exactly(1), waiting: none },
  'first-start': { handsOn: range(5, 8, 15), waiting: range(2, 4, 10) },
  updates: { handsOn: range(3, 5, 12), waiting: range(15, 45, 120) },
  'optional-updates': { handsOn: range(2, 3, 6), waiting: range(5, 12, 40) },
  drivers: { handsOn: range(4, 8, 60), waiting: none },
  activate: { handsOn: range(2, 3, 15), waiting: none },
  firewall: { handsOn: range(1, 2, 4), waiting: none },
  restore: { handsOn: range(4, 6, 12), waiting: none },
  applications: { handsOn: range(10, 18, 50), waiting: range(5, 10, 30) },
  encrypt: { handsOn: range(2, 4, 8), waiting: range(10, 30, 120) },
  habits: { handsOn: range(5, 10, 25), waiting: none },
  'boot-order-back': { handsOn: range(2, 3, 6), waiting: none },
  reconcile: { handsOn: range(4, 8, 30), waiting: none },
  'sign-off': { handsOn: range(5, 8, 15), waiting: none },
};
