import { stageTitles } from '@ulvane/core/record';
import { standingOf, type Runbook } from '@ulvane/core/runbook';
import { Fragment } from 'react';
import { Instant } from '../../shell/Instant';
import { useOpenMove } from '../MoveContext';

/** Every step on paper, with room to sign: what is folded on screen is whole here. */
export function PrintedRunbook({ runbook }: { readonly runbook: Runbook }) {
  const { move } = useOpenMove();
  return (
    <ol className="print-only printed-runbook">
      {runbook.steps.map((step, index) => {
        const { state, last } = standingOf(move.signatures, step.id);
        return (
          <Fragment key={step.id}>
            {runbook.lineIndex === index && (
              <li className="printed-line">{runbook.lineSentence ?? 'The Line.'}</li>
            )}
            {runbook.steps[index - 1]?.stage !== step.stage && (
              <li className="printed-stage">{stageTitles[step.stage]}</li>
            )}
            <li className="printed-step">
              <span>{index + 1}.</span>
              <div>
                <strong>{step.title}</strong>{' '}
                <span className="soft">
                  {step.handsOn.likely} + {step.waiting.likely} min
                </span>
                <div>{step.why}</div>
                <div>Done when: {step.success}</div>
                {step.caution !== null && <div>{step.caution}</div>}
              </div>
              <span className="printed-side">
                {state === 'signed' && last ? (
                  <>
                    ✓ {last.by}, <Instant at={last.at} />
                  </>
                ) : (
                  '________________'
                )}
              </span>
            </li>
          </Fragment>
        );
      })}
    </ol>
  );
}
