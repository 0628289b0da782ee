import { whyNotTold } from '../disk/marks';
import { isSigned, lineCrossed } from '../runbook/signature';
import { diskOfPlan } from './diskOf';
import { diskFittedSince } from './fittedDisk';
import type { Move } from './move';

/** Why the disk of the plan is not identified by serial number and size; undefined when it is. */
export function whyNotIdentified(move: Move): string | undefined {
  const fitted = diskFittedSince(move);
  if (fitted !== undefined) return fitted;
  const disk = diskOfPlan(move);
  return disk
    ? whyNotTold(disk, move.preparation.diskMarks)
    : 'Which disk is to be written cannot be told from the survey: mark the system partition among the disks.';
}

/**
 * Identifying the disk is signed by its serial number and size having been entered, and by nothing else; it opens again
 * when they are withdrawn above the Line.
 */
export function alignIdentified(move: Move, at: string, by: string): Move {
  const runbook = move.plan?.runbook;
  const step = runbook?.steps.find(({ kind }) => kind === 'identify-disk');
  if (!runbook || !step) return move;
  const told = whyNotIdentified(move) === undefined;
  const signed = isSigned(move.signatures, step.id);
  if (told === signed || (signed && lineCrossed(runbook, move.signatures))) return move;
  const line = { stepId: step.id, title: step.title, at, by, actualMinutes: null };
  return {
    ...move,
    signatures: [
      ...move.signatures,
      told
        ? { ...line, action: 'sign', note: 'signed by itself: serial number and size agree with the survey' }
        : { ...line, action: 'unsign', note: 'serial number and size do not agree any more' },
    ],
  };
}
