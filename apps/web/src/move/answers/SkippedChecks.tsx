import { skipLine, type SkippedCheck } from '@ulvane/core/runbook';
import { Link } from 'react-router';
import { useTarget } from '../readings';
import { TickBox } from './TickBox';
import type { AnswerTicks } from './useAnswerSheet';

/** Waived checks, a line each to tick, with how this installer is told to skip them. */
export function SkippedChecks({
  skips,
  ticks,
}: {
  readonly skips: readonly SkippedCheck[];
  readonly ticks: AnswerTicks;
}) {
  const target = useTarget();
  if (skips.length === 0) return null;
  return (
    <section className="skipped-checks" aria-labelledby="skipped-checks">
      <h3 id="skipped-checks">Checks to skip, before the first page</h3>
      <ul className="hand-checks">
        {skips.map((skip) => (
          <li key={skip.check}>
            <span>
              <b>{skip.check.replaceAll('-', ' ')}</b>:{' '}
              {skip.recipe ?? (
                <>
                  how this installer is told to skip it is not known.{' '}
                  <Link to={`/catalogue?kind=releases&id=${target?.id ?? ''}`}>Add it to the catalogue</Link>
                </>
              )}
            </span>
            <TickBox line={skipLine(skip)} ticks={ticks} />
          </li>
        ))}
      </ul>
      <p className="soft answer-note">Proof: the installer goes on past its first page without a refusal.</p>
    </section>
  );
}
