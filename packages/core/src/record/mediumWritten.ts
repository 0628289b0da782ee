import type { MediumContent } from '../backup/destinations/mediumContent';
import { releaseTitle } from '../catalogue/find';
import { stickPlan } from '../media/stick';
import { startOn } from '../runbook/startOn';
import { stickAtHand } from '../runbook/mediumOf';
import { runbookInput, type House } from './reading';
import type { Move } from './move';

/**
 * What is on the stick of a move after the step that writes it was signed; null where the step is another one, the stick
 * was taken as it was, or nobody has said which stick it is. Nobody has read it back: the signature is somebody’s word.
 * @param at the day of the signature, ISO date
 */
export function mediumWritten(
  move: Move,
  stepId: string,
  house: House,
  { at, by }: { readonly at: string; readonly by: string },
): { readonly name: string; readonly serial: string; readonly content: MediumContent } | null {
  const { stick } = move.preparation;
  const input = runbookInput(move, house);
  const on = input && startOn(input);
  if (stepId !== 'write-stick' || !stick || !input || !on || stickAtHand(input)) return null;
  const { mode, scheme } = stickPlan(on, input.houseRules);
  return {
    name: stick.name,
    serial: stick.serial,
    content: {
      releaseId: on.release.id,
      title: releaseTitle(on.release),
      mode: mode === 'unknown' ? 'both' : mode,
      scheme: scheme === 'unknown' ? 'mbr' : scheme,
      bytes: on.release.imageBytes,
      skips: [...input.waivers],
      writtenOn: at,
      by,
      check: null,
    },
  };
}
