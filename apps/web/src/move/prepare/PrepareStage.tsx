import { Instant } from '../../shell/Instant';
import { api } from '@ulvane/contract';
import { firmwareSwitches, switchTitle } from '@ulvane/core/firmware';
import { stickPlan } from '@ulvane/core/media';
import { releaseTitle } from '@ulvane/core/catalogue';
import { printBothUnits, printCount } from '@ulvane/core/quantity';
import { isClosed, runbookInput } from '@ulvane/core/record';
import { installerMedia, routes } from '@ulvane/core/route';
import { startOn } from '@ulvane/core/runbook';
import Button from 'react-bootstrap/Button';
import { Link, useNavigate } from 'react-router';
import { useChange } from '../../api/useMove';
import { useMay } from '../../api/useSession';
import { Problem } from '../../shell/Problem';
import { DiskDrawing } from '../DiskDrawing';
import { useOpenMove } from '../MoveContext';
import { useBootKeys, usePlanReading, useTarget } from '../readings';
import { VaultCard } from '../vault/VaultCard';
import { StickFromShelf } from './FromShelf';
import { Notes } from './Notes';
import { DataPartsCard } from './DataPartsCard';
import { SizeBoxCard } from './SizeBoxCard';

/** Stick, firmware, licence, disk, power: what must be ready, and the runbook that follows from it. */
export function PrepareStage() {
  const { view, move, house, houseRules } = useOpenMove();
  const { change, error, busy, forgetError } = useChange(view);
  const may = useMay();
  const navigate = useNavigate();
  const target = useTarget();
  const keys = useBootKeys();
  const reading = usePlanReading();
  const open = may.write && !isClosed(move);
  if (!move.decision)
    return (
      <p className="notice">
        What has to be ready depends on the route.{' '}
        <Link to={`/moves/${move.reference}/decide`}>Choose one on Decide.</Link>
      </p>
    );
  const route = routes[move.decision.routeId];
  const installerMedium = installerMedia[move.decision.bringing];
  const brought = target !== undefined && route.steps.includes('write-stick');
  const input = runbookInput(move, house);
  const on = input && startOn(input);
  const stick = on && brought && installerMedium.id === 'stick' ? stickPlan(on, houseRules) : undefined;
  const switches = on ? firmwareSwitches(on) : [];
  const makePlan = async () => {
    if (await change(api.plan, {})) await navigate(`/moves/${move.reference}/cross`);
  };
  const stale = (reading?.differences.length ?? 0) > 0;

  return (
    <div className="columns">
      <div>
        <section className="sheet">
          <h2>Runbook</h2>
          <Problem error={error} onClose={forgetError} />
          {move.plan ? (
            <p>
              {move.plan.runbook.title}: {move.plan.runbook.steps.length} steps, made by {move.plan.by},{' '}
              <Instant at={move.plan.at} />.{' '}
              {stale ? 'It is stale: something has changed since.' : 'It is current.'}{' '}
              <Link to={`/moves/${move.reference}/cross`}>Open it</Link>
            </p>
          ) : (
            <p>
              Not made yet. It follows from the route, the survey, what is saved and house rules; it can be
              made again at any time without losing a signature.
            </p>
          )}
          {open && (
            <Button
              onClick={() => void makePlan()}
              disabled={busy}
              variant={move.plan && !stale ? 'quiet' : 'primary'}
            >
              {move.plan ? 'Make it again' : 'Make the runbook'}
            </Button>
          )}
        </section>
        {input && target && target.pages.length > 0 && route.hasTarget && (
          <section className="sheet">
            <h2>Installer’s pages</h2>
            <p className="mb-0">
              {printCount(target.pages.length, 'page')} of {releaseTitle(target)}, each with its answer:{' '}
              <Link to={`/moves/${move.reference}/answers`}>Open the answer sheet</Link>
            </p>
          </section>
        )}
        <Notes />
        <VaultCard />
      </div>
      <div>
        <DiskDrawing />
        {target && route.writesOver !== 'nothing' && <SizeBoxCard release={target} input={input} />}
        {input && target && route.steps.includes('make-data-partition') && <DataPartsCard input={input} />}
        {brought && installerMedium.id !== 'stick' && (
          <section className="sheet">
            <h2>{installerMedium.title}</h2>
            <p className="mb-1">
              {installerMedium.about} {target.mediaRecipe}
            </p>
            <p className="mb-1">
              The image has {printBothUnits(target.imageBytes)}; its SHA-256 begins with{' '}
              <span className="mono">{target.imageSha256.slice(0, 16)}</span>.
            </p>
            {installerMedium.cautions.map((caution) => (
              <p key={caution} className="caution mb-0">
                {caution}
              </p>
            ))}
          </section>
        )}
        {stick && (
          <section className="sheet">
            <h2>Installer stick</h2>
            {open && !move.preparation.stick?.holds && (
              <StickFromShelf
                disabled={busy}
                onTake={(taken) => void change(api.prepare, { preparation: { stick: taken } })}
              />
            )}
            <ul className="mb-0">
              {stick.sentences().map((sentence) => (
                <li key={sentence}>{sentence}</li>
              ))}
              <li>
                The image’s SHA-256 begins with{' '}
                <span className="mono">{target?.imageSha256.slice(0, 16)}</span>.
              </li>
            </ul>
            <p className="caution mt-1 mb-0">
              everything on the stick is erased, and it is never the backup.
            </p>
          </section>
        )}
        {target && (
          <section className="sheet">
            <h2>Firmware, in this order</h2>
            <p>
              Boot menu: <strong>{keys.bootMenu}</strong>{' '}
              <span className="small-print">({keys.bootMenuSource})</span>, set-up:{' '}
              <strong>{keys.setup}</strong> <span className="small-print">({keys.setupSource})</span>
            </p>
            {switches.length === 0 ? (
              <p className="mb-0">No switch has to be turned.</p>
            ) : (
              <ol className="mb-0">
                {switches.map((entry) => (
                  <li key={entry.id}>
                    <strong>{switchTitle(entry)}</strong>. {entry.why}
                    {entry.caution && <div className="caution">{entry.caution}</div>}
                  </li>
                ))}
              </ol>
            )}
          </section>
        )}
      </div>
    </div>
  );
}
