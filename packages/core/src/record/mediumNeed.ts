import { releaseTitle } from '../catalogue/find';
import { stickPlan } from '../media/stick';
import type { MediumNeed } from '../media/shelf';
import { isSigned } from '../runbook/signature';
import { startOn } from '../runbook/startOn';
import { runbookInput, type House } from './reading';
import { isClosed, type Move } from './move';

/** Steps after which the medium is not needed from the shelf any more. */
const mediumSteps = { stick: 'write-stick', 'optical-disc': 'burn-disc' } as const;

/**
 * What a move needs of the media shelf: null where its installer comes in another way, has been got ready, or nothing is
 * decided.
 */
export function mediumNeed(move: Move, house: House): MediumNeed | null {
  if (isClosed(move) || !move.decision) return null;
  const { bringing } = move.decision;
  if (bringing !== 'stick' && bringing !== 'optical-disc') return null;
  if (isSigned(move.signatures, mediumSteps[bringing])) return null;
  const input = runbookInput(move, house);
  const on = input && startOn(input);
  if (!input || !on || !input.route.steps.includes('write-stick')) return null;
  const { mode, bytesNeeded } = stickPlan(on, input.houseRules);
  const { stick } = move.preparation;
  return {
    reference: move.reference,
    kind: bringing === 'stick' ? 'stick' : 'disc',
    releaseId: on.release.id,
    title: releaseTitle(on.release),
    mode,
    skips: [...input.waivers],
    bytesNeeded,
    imageBytes: on.release.imageBytes,
    dueOn: move.dueOn,
    named: stick && { name: stick.name, serial: stick.serial },
  };
}
