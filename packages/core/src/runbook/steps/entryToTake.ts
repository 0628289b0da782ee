import { installerModes } from '../machineOf';
import type { StepInput } from '../input';

/** Which of the medium's two entries in the boot menu is the right one. */
export function entryToTake(input: StepInput): string {
  const [mode, other] = installerModes(input);
  const name = input.release?.volumeName ?? '';
  // An external disk may hold several installers, a volume each.
  const called =
    name === '' ? '' : ` The volume to take is called “${name}”, whatever else the medium holds.`;
  if (other !== undefined) return `It may be listed twice: the firmware’s mode is not known yet.${called}`;
  return mode === 'uefi'
    ? `Where it is listed twice, take the entry with UEFI before its name.${called}`
    : `Where it is listed twice, take the entry without UEFI before its name.${called}`;
}
