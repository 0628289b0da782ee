/** Installer sticks. */
export { stickPlan } from './stick';
