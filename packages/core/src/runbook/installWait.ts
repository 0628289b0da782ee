import { sourceMedium } from '../backup/copies/copyTime';
import type { Release } from '../catalogue/catalogue';
import { installMinutes } from '../media/installTime';
import type { ThreePoint } from '../quantity/duration';
import { ownDisk } from '../survey/emptyDevice';
import { diskToWrite } from './diskToWrite';
import type { StepInput } from './input';

/** Minutes in which the installer works alone, by the medium that it comes from and the disk that it goes to. */
export function installWait(input: StepInput, release: Release): ThreePoint {
  const disk = diskToWrite(input) ?? ownDisk(input.facts);
  return installMinutes(release, input.installerMedium, sourceMedium(disk));
}
