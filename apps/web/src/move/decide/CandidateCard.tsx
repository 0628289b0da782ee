import { printMinutes } from '@ulvane/core/quantity';
import type { Candidate } from '@ulvane/core/decide';
import { HandsBar } from '../../drawing/HandsBar';
import type { ChangeText } from '../../workers/choice.worker';
import { CandidateDetails } from './CandidateDetails';
import { StatusSign } from '../../drawing/verdicts';

type CandidateCardProps = {
  readonly candidate: Candidate;
  readonly isChosen: boolean;
  /** The smallest change that would allow it: null for none, undefined while it is worked out. */
  readonly change?: ChangeText | null | undefined;
  readonly onChoose: (() => void) | undefined;
};

/** One route to one release that is not allowed as things stand: what stands against it, and what would change that. */
export function CandidateCard({ candidate, isChosen, change, onChoose }: CandidateCardProps) {
  const { handsOnMinutes, waitingMinutes, reasons } = candidate;
  const against = reasons.filter(({ finding }) => finding !== 'allows');
  return (
    <details className={`candidate ${candidate.status}${isChosen ? ' chosen' : ''}`} open={isChosen}>
      <summary>
        <span>
          <span className="candidate-title">{candidate.title}</span>
          {isChosen && <strong> · chosen</strong>}
          {against[0] && <span className="small-print d-block">{against[0].sentence}</span>}
          {change && (
            <span className="d-block change">
              <strong>It would be allowed with this:</strong> {change.sentence}{' '}
              <span className="soft">
                {printMinutes(change.handsOnMinutes)}
                {change.cost > 0 && `, about ${change.cost}`}
              </span>
            </span>
          )}
        </span>
        {candidate.status === 'excluded' ? (
          <span />
        ) : (
          <span>
            <span className="small-print">
              {printMinutes(handsOnMinutes)} + {printMinutes(waitingMinutes)}
            </span>
            <HandsBar handsOnMinutes={handsOnMinutes} waitingMinutes={waitingMinutes} fullMinutes={420} />
          </span>
        )}
        <StatusSign status={candidate.status} />
      </summary>
      <CandidateDetails candidate={candidate} isAdvised={false} onChoose={onChoose} />
    </details>
  );
}
