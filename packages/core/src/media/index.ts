/** Installer sticks, and the mode in which they start. */
export { stickPlan } from './stick';
export { type StartOn, startingMode } from './startingMode';
