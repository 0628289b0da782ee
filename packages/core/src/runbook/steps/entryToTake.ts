import { installerModes } from '../machineOf';
import type { StepInput } from '../input';

/** Which of the medium's two entries in the boot menu is the right one. */
export function entryToTake(input: StepInput): string {
  const [mode, other] = installerModes(input);
  if (other !== undefined) return 'It may be listed twice: the firmware’s mode is not known yet.';
  return mode === 'uefi'
    ? 'Where it is listed twice, take the entry with UEFI before its name.'
    : 'Where it is listed twice, take the entry without UEFI before its name.';
}
