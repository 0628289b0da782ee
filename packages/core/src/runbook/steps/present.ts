import { releaseTitle } from '../../catalogue/find';
import { writingMinutes } from '../../media/writing';
import { printBothUnits, printBytes } from '../../quantity/bytes';
import { isInPlace, makesRecovery, presentDiskId, updatesFirst } from '../machineOf';
import type { StepInput, StepMaker } from '../input';
import { roomToMake } from '../roomToMake';
import { shrinkPartitions } from './disk';

/** Whether a partition of the present system's disk is made smaller. */
function shrinksPresent(input: StepInput): boolean {
  const { diskWork } = input;
  const byPlan = diskWork?.disk.name === presentDiskId(input) && shrinkPartitions(input).length > 0;
  const isRoomPlanned = diskWork?.work.kind === 'layout' && diskWork.work.goal.kind === 'room';
  return byPlan || (!isRoomPlanned && roomToMake(input) !== undefined);
}

/** Before an upgrade and before a shrink: either can leave a present system that does not start. */
export const recoveryMedium: StepMaker = (input) => {
  const { present, houseRules, route } = input;
  const inPlace = isInPlace(route);
  if (!present || !makesRecovery(input) || !(inPlace || shrinksPresent(input))) return [];
  const bytes = present.recoveryMediumBytes;
  return [
    {
      words: () => ({
        title: `Make the recovery medium of ${releaseTitle(present)} on a stick of its own, ${printBytes(bytes, 'decimal')} or more`,
        why: `${inPlace ? 'An upgrade' : 'A shrink'} that breaks off can leave a system that does not start; from this stick it is repaired. ${printBothUnits(bytes, houseRules.spokenGigabyte)} are written from inside the running system.`,
        success:
          'The device, or another one, has been started from it once, up to its first page; the label says whose it is and of which day.',
        caution:
          'Everything on the stick is erased. It is neither the installer nor the backup. It brings the system back, and no file of the owner’s.',
      }),
      extraWaiting: writingMinutes(bytes),
      operators: () => [{ op: 'make-recovery-medium' }],
    },
  ];
};

/** Where the maker of what comes asks for it. */
export const updatePresent: StepMaker = (input) => {
  const { present, release } = input;
  if (!release || !updatesFirst(input)) return [];
  const named = present ? releaseTitle(present) : 'the present system';
  return [
    {
      words: () => ({
        title: `Bring ${named} up to date first`,
        why: `The maker of ${releaseTitle(release)} asks for it: an upgrade from an older state may be refused half-way, or not be offered.`,
        success: 'Its update page finds nothing more, after a restart.',
        caution: 'With the copies made: an update can fail like anything else that writes to the system.',
      }),
      operators: () => [{ op: 'update', of: 'present' }],
      troubles: ['update-never-ends', 'signatures-refused'],
    },
  ];
};
