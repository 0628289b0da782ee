import { scoreTerms, shownPoints, type Candidate } from '@ulvane/core/decide';
import Button from 'react-bootstrap/Button';
import { conflictText } from '@ulvane/core/route';
import { useOpenMove } from '../MoveContext';
import { useDecideInput } from '../readings';
import { conflictsOf } from './conflicts';
import { FindingSign } from '../../drawing/verdicts';

type CandidateDetailsProps = {
  readonly candidate: Candidate;
  readonly isAdvised: boolean;
  readonly onChoose: (() => void) | undefined;
};

/** The reasons of a candidate, what is kept and lost, and how its points come about. */
export function CandidateDetails({ candidate, isAdvised, onChoose }: CandidateDetailsProps) {
  const { houseRules } = useOpenMove();
  const input = useDecideInput();
  const { cost, supportedUntil, points, reasons } = candidate;
  const terms = scoreTerms(candidate.values, houseRules.weights);
  const shown = shownPoints(terms.map((term) => term.points));
  return (
    <div className="inside">
      <ul className="reasons">
        {reasons.map(({ rule, finding, sentence, howToFind }) => (
          <li key={rule}>
            <FindingSign finding={finding} />
            <span>
              {sentence} {howToFind && <span className="soft">To find out: {howToFind}</span>}
            </span>
          </li>
        ))}
      </ul>
      <div className="row">
        <div className="col-md-5">
          <p className="mb-1">
            <strong>Kept:</strong> {candidate.keeps.join(', ') || 'nothing on that disk'}
            <br />
            <strong>Lost:</strong> {candidate.loses.join(', ')}
          </p>
          {candidate.waivers.length > 0 && (
            <div className="mb-1">
              <strong>To be waived, one by one:</strong>
              <ul className="mb-0">
                {candidate.waivers.map(({ rule, sentence, consequence }) => (
                  <li key={rule}>
                    {sentence} <span className="soft">Skipping it: {consequence}</span>
                  </li>
                ))}
              </ul>
            </div>
          )}
          <p className="mb-1">
            Supported until {supportedUntil ?? 'further notice'}. {cost > 0 && `About ${cost} in parts.`}
          </p>
          {[...candidate.cautions, ...conflictsOf(input, candidate).map(conflictText)].map((caution) => (
            <p key={caution} className="caution mb-1">
              {caution}
            </p>
          ))}
          {onChoose && (
            <Button size="sm" onClick={onChoose} variant={isAdvised ? 'primary' : 'quiet'}>
              Choose this route
            </Button>
          )}
        </div>
        <div className="col-md-7">
          <div className="terms" role="table" aria-label={`How ${points.toFixed(0)} points come about`}>
            {terms.map((term, index) => (
              <TermRow
                key={term.id}
                label={term.label}
                weight={term.weight}
                value={term.value}
                points={shown.parts[index] ?? 0}
              />
            ))}
            <div role="row" className="d-contents">
              <span role="cell">
                <strong>Together</strong>
              </span>
              <span role="cell" className="soft">
                of 100
              </span>
              <span role="cell" className="number">
                <strong>{shown.sum.toFixed(1)}</strong>
              </span>
            </div>
          </div>
        </div>
      </div>
    </div>
  );
}

function TermRow({
  label,
  weight,
  value,
  points,
}: {
  readonly label: string;
  readonly weight: number;
  readonly value: number;
  readonly points: number;
}) {
  return (
    <div role="row" className="d-contents">
      <span role="cell">
        {label} <span className="soft">× {weight}</span>
      </span>
      <span role="cell" className="track" aria-label={`${Math.round(value * 100)} of 100`}>
        <span className="fill d-block" style={{ width: `${value * 100}%` }} />
      </span>
      <span role="cell" className="number">
        {points.toFixed(1)}
      </span>
    </div>
  );
}
