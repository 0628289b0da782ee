/** Switches and keys of the firmware. */
export { type BootKeys, bootKeys } from './bootKey';
export { firmwareSwitches, switchTitle } from './switches';
