import { printClockIn, printCount, printMinutes } from '@ulvane/core/quantity';
import { isSigned, type forecast, type Runbook } from '@ulvane/core/runbook';
import { Printer } from 'lucide-react';
import Button from 'react-bootstrap/Button';
import { Link } from 'react-router';
import { useZone } from '../../shell/Instant';
import { useOpenMove } from '../MoveContext';
import { useTarget } from '../readings';

type RunbookHeadProps = {
  readonly runbook: Runbook;
  readonly times: ReturnType<typeof forecast>;
};

/** What the runbook does, how far it is, what is still to do and when it is done. */
export function RunbookHead({ runbook, times }: RunbookHeadProps) {
  const { move } = useOpenMove();
  const zone = useZone();
  const target = useTarget();
  const signed = runbook.steps.filter(({ id }) => isSigned(move.signatures, id)).length;
  return (
    <div className="page-head runbook-head">
      <h2 id="runbook">Runbook</h2>
      <span className="soft runbook-about">
        {runbook.title}. {signed} of {printCount(runbook.steps.length, 'step')} signed.
      </span>
      {signed < runbook.steps.length && (
        <span className="ms-auto text-nowrap">
          Still to do: <strong>{printMinutes(times.handsOnMinutes)}</strong> hands-on,{' '}
          <strong>{printMinutes(times.waitingMinutes)}</strong> waiting. Done at{' '}
          <strong>{printClockIn(zone, times.doneAt)}</strong>.
        </span>
      )}
      {target && target.pages.length > 0 && (
        <Link
          className={`btn btn-sm btn-quiet text-nowrap no-print${signed < runbook.steps.length ? '' : ' ms-auto'}`}
          to={`/moves/${move.reference}/answers`}
        >
          Answer sheet
        </Link>
      )}
      <Button
        size="sm"
        variant="quiet"
        className={signed < runbook.steps.length || (target && target.pages.length > 0) ? '' : 'ms-auto'}
        onClick={() => window.print()}
      >
        <Printer size={15} aria-hidden="true" /> Print
      </Button>
    </div>
  );
}
