import { api } from '@ulvane/contract';
import { printClockIn, printMinutes } from '@ulvane/core/quantity';
import { isClosed } from '@ulvane/core/record';
import { troubleSigns } from '@ulvane/core/runbook';
import { Printer } from 'lucide-react';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { Link, useParams } from 'react-router';
import { useChange } from '../../api/useMove';
import { useNow } from '../../api/useNow';
import { useMay } from '../../api/useSession';
import { useZone } from '../../shell/Instant';
import { Problem } from '../../shell/Problem';
import { ReasonDialog } from '../../shell/ReasonDialog';
import { useOpenMove } from '../MoveContext';
import { usePlanReading } from '../readings';
import { CauseTable } from './CauseTable';
import { DetourPart } from './DetourPart';
import { SignBand } from './SignBand';
import { runbookPath } from './troublePath';
import { useDetour, useTrouble, type TroubleReading } from './useTrouble';

/** If it goes wrong: the causes of a sign on this device, and the detour that leads back to the runbook. */
export function TroubleView() {
  const { stepId = '', sign = '' } = useParams();
  const { move } = useOpenMove();
  const reading = useTrouble(stepId, sign);
  if (!reading?.place)
    return (
      <p className="notice">
        {reading
          ? 'The plan as it would be made now has no such step. Plan again on the runbook, and look the sign up there.'
          : 'There is no such sign.'}{' '}
        <Link to={`/moves/${move.reference}/cross`}>To the runbook.</Link>
      </p>
    );
  return <Trouble key={`${stepId} ${sign}`} reading={reading} stepId={stepId} />;
}

function Trouble({ reading, stepId }: { readonly reading: TroubleReading; readonly stepId: string }) {
  const { view, move } = useOpenMove();
  const { change, error, busy, forgetError } = useChange(view);
  const may = useMay();
  const zone = useZone();
  const now = useNow(15_000);
  const [openedAt] = useState(now);
  const [chosen, setChosen] = useState<string>();
  const [asking, setAsking] = useState(false);
  const standing = usePlanReading()?.standings.find((one) => one.stepId === stepId);
  const { sign, trouble, over, danger, rows } = reading;
  const planned = useDetour(reading, chosen);
  const seenAt = trouble?.seenAt ?? openedAt;
  const seen = { stepId, sign, seenAt };
  const canWrite =
    may.write &&
    !isClosed(move) &&
    (trouble !== undefined || standing?.state === 'open' || standing?.state === 'waiting');
  const left = rows.filter(({ isExcluded }) => !isExcluded);
  const checked = trouble?.answers.reduce((sum, { minutes }) => sum + minutes, 0) ?? 0;
  return (
    <article className="trouble">
      <title>{`${troubleSigns[sign]} · ${move.reference} · Ulvane`}</title>
      <Problem error={error} onClose={forgetError} />
      <SignBand reading={reading} seenAt={seenAt} />
      {over?.closed && (
        <div className="held-up over" role="status">
          <p className="mb-0">
            <strong>Over since {printClockIn(zone, over.closed.at)}.</strong>{' '}
            {over.closed.how === 'remedied'
              ? `It was: ${rows.find(({ cause }) => cause.id === over.closed?.causeId)?.cause.title ?? 'a cause that is known'}. ${over.detour?.title ?? 'The detour'} helped.`
              : over.closed.note}{' '}
            Is the sign back? Answer the checks anew.
          </p>
          <Link
            className="btn btn-primary btn-sm"
            to={runbookPath(move.reference, reading.place?.step.stage)}
          >
            On with the runbook
          </Link>
        </div>
      )}
      {danger !== null && (
        <section className="danger-stop" role="alert">
          <p>{danger}</p>
          {!trouble && canWrite && (
            <Button disabled={busy} onClick={() => void change(api.openTrouble, seen)}>
              Note it, and hold the runbook up
            </Button>
          )}
        </section>
      )}
      {rows.length > 0 && (
        <CauseTable
          reading={reading}
          chosenId={planned?.cause.id}
          canAnswer={canWrite && !busy && !trouble?.detour}
          onAnswer={(causeId, answer) => {
            setChosen(undefined);
            void change(api.answerCause, { ...seen, causeId, answer });
          }}
          onChoose={trouble?.detour ? undefined : setChosen}
        />
      )}
      {rows.length > 0 && left.length === 0 && (
        <p className="notice">
          No known cause fits. Describe what you see, and end this with that note; the maker’s manual and a
          colleague who has seen it may know more.
        </p>
      )}
      {planned && left.length > 0 && (
        <DetourPart
          reading={reading}
          planned={planned}
          seenAt={seenAt}
          checkedMinutes={checked}
          now={now}
          canWrite={canWrite}
          busy={busy}
          change={change}
          error={error}
          onStart={() => void change(api.startDetour, { ...seen, causeId: planned.cause.id })}
        />
      )}
      <div className="trouble-foot">
        {trouble && !trouble.detour && canWrite && (
          <Button variant="quiet" size="sm" className="no-print" onClick={() => setAsking(true)}>
            End it with a note
          </Button>
        )}
        <Button variant="quiet" size="sm" className="no-print" onClick={() => window.print()}>
          <Printer size={15} aria-hidden="true" /> Print
        </Button>
        {trouble && trouble.tried.length > 0 && (
          <ul className="small-print" aria-label="Detours that did not help">
            {trouble.tried.map((one) => (
              <li key={one.number}>
                Tried: {one.title}. {one.by}, {printClockIn(zone, one.at)}: {one.reason}
              </li>
            ))}
          </ul>
        )}
        {checked > 0 && <span className="soft">Checks took {printMinutes(checked)} so far.</span>}
      </div>
      {asking && trouble && (
        <ReasonDialog
          title={`End: ${troubleSigns[sign]}`}
          label="What was it, or what helped?"
          hint="The runbook goes on after it. The note stays in the log, and the next one who sees this sign can read it."
          action="End it"
          error={error}
          onClose={() => setAsking(false)}
          onGive={(note) => change(api.closeTrouble, { note }, { number: String(trouble.number) })}
        />
      )}
    </article>
  );
}
