/** Switches and keys of the firmware. */
export { bootKeys } from './bootKey';
export { firmwareSwitches, switchTitle } from './switches';
