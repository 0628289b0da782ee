import { isolationIds, isolationTexts } from '../runbook/isolation';
import type { Step } from '../runbook/step';
import { accountFor } from './handover';
import { whyNotIdentified } from './identitySignature';
import type { Move } from './move';

/** What has to be noted on Prepare before a step can be signed; null when nothing is missing. */
export function missingFor({ kind, id }: Pick<Step, 'kind' | 'id'>, move: Move): string | null {
  const { preparation, failedChecks } = move;
  switch (kind) {
    case 'verify': {
      const failed = failedChecks.filter(({ destinationId }) => id === `verify:${destinationId}`);
      return failed.length === 0
        ? null
        : 'The last comparison found files that differ: copy them again, and compare on Save.';
    }
    case 'identify-disk': {
      const why = whyNotIdentified(move);
      const answered = move.overrules.some(({ gateId }) => gateId === 'disk-identified');
      return why === undefined || answered ? null : `${why} It is signed by itself once both agree.`;
    }
    case 'isolate': {
      const open = isolationIds.filter((id) => !preparation.isolation?.done.includes(id));
      return open.length === 0
        ? null
        : `Not ticked on the isolation list of Prepare: ${open.map((id) => isolationTexts[id]).join('; ')}.`;
    }
    case 'end-date':
      return preparation.holdUntil === null ? 'A hold has a last day: note it on Prepare.' : null;
    case 'pair-device':
      return preparation.replacement === null
        ? 'Note maker, model and serial of the new device on Prepare.'
        : null;
    case 'move-data':
      return preparation.dataMoved === null
        ? 'State on Prepare that the owner’s data is on the new device, and how it was compared.'
        : null;
    case 'wipe-old-disk':
      return preparation.wipe === null ? 'Note on Prepare by which method the old disk is wiped.' : null;
    case 'disposal':
      return preparation.disposal === null
        ? 'Note on Prepare who disposes of the old device, and how.'
        : null;
    case 'reconcile': {
      const open = accountFor(move).filter(({ state }) => state === 'open');
      const [first] = open;
      const name = move.dataSets.find((dataSet) => dataSet.id === first?.dataSetId)?.name ?? '';
      return first
        ? `${open.length === 1 ? '1 data set is' : `${open.length} data sets are`} not accounted for, first ${name}: ${first.openBecause} It is signed by itself when the last one is.`
        : null;
    }
    default:
      return null;
  }
}
