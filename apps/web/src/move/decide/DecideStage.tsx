import type { Candidate } from '@ulvane/core';
import { useState } from 'react';
import { Link } from 'react-router';
import { useMay } from '../../api/useSession';
import { useOpenMove } from '../MoveContext';
import { useChoice } from '../readings';
import { AssessmentTable } from './AssessmentTable';
import { CandidateCard } from './CandidateCard';
import { ChooseDialog } from './ChooseDialog';

/** Every route with its reasons; the technician chooses. */
export function DecideStage() {
  const { move } = useOpenMove();
  const choice = useChoice();
  const may = useMay();
  const [choosing, setChoosing] = useState<Candidate>();
  const { candidates, advised } = choice;
  const { decision } = move;
  const isChosen = ({ routeId, releaseId }: Candidate) =>
    decision?.routeId === routeId && decision.releaseId === releaseId;
  const chosen = candidates.find(isChosen);
  const undecided = candidates.filter(({ status }) => status === 'undecided');
  const groups = [
    { title: 'Allowed', list: candidates.filter(({ status }) => status === 'allowed') },
    { title: 'Something unknown stands in the way', list: undecided },
    { title: 'Excluded', list: candidates.filter(({ status }) => status === 'excluded') },
  ];
  const open = may.write && move.handover.signedOff === null;

  return (
    <>
      {choice.problems.map((sentence) => (
        <p key={sentence} className="notice">
          {sentence}
        </p>
      ))}
      <div className="columns wide-left">
        <div>
          <section className="sheet advice" aria-labelledby="advice">
            <h2 id="advice">Advice: {advised.title}</h2>
            {advised.routeId === 'hold' && undecided.length > 0 ? (
              <p className="mb-0">
                Nothing else is allowed yet: {undecided.length} routes wait for facts that are unknown.{' '}
                <Link to={`/moves/${move.reference}/survey`}>Find them out on Survey</Link> before choosing.
              </p>
            ) : (
              <p className="mb-0">
                The best of {groups[0]?.list.length ?? 0} allowed by house practice’s weights:{' '}
                {advised.points.toFixed(0)} of 100 points, {advised.handsOnMinutes} min hands-on,{' '}
                {advised.waitingMinutes} min waiting.
              </p>
            )}
            {decision && chosen && (
              <p className="mt-2 mb-0">
                <strong>Chosen: {chosen.title}</strong>, by {decision.by}, {decision.at.slice(0, 10)}.{' '}
                {decision.reason !== null &&
                  `Against the advice (${decision.advisedTitle}): ${decision.reason}`}
              </p>
            )}
          </section>
          {groups.map(
            ({ title, list }) =>
              list.length > 0 && (
                <section key={title} aria-label={title}>
                  <h2 className="mt-3">
                    {title} <span className="soft">({list.length})</span>
                  </h2>
                  <div className="candidates">
                    {list.map((candidate) => (
                      <CandidateCard
                        key={`${candidate.routeId} ${candidate.releaseId ?? ''}`}
                        candidate={candidate}
                        isAdvised={candidate === advised}
                        isChosen={isChosen(candidate)}
                        onChoose={
                          open && !isChosen(candidate) && (candidate.status !== 'excluded' || may.lead)
                            ? () => setChoosing(candidate)
                            : undefined
                        }
                      />
                    ))}
                  </div>
                </section>
              ),
          )}
        </div>
        <AssessmentTable assessments={choice.assessments} />
      </div>
      {choosing && (
        <ChooseDialog candidate={choosing} advised={advised} onClose={() => setChoosing(undefined)} />
      )}
    </>
  );
}
