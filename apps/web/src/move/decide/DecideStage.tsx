import { printCount } from '@ulvane/core/quantity';
import type { Candidate } from '@ulvane/core/decide';
import { isClosed } from '@ulvane/core/record';
import { blockingUnknowns } from '@ulvane/core/decide';
import { isApart } from '@ulvane/core/route';
import type { FactKey } from '@ulvane/core/survey';
import { BlockingUnknowns } from '../survey/BlockingUnknowns';
import { EnterFact } from '../survey/EnterFact';
import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import { useMay } from '../../api/useSession';
import { useSmallestChanges } from '../../workers/useChoiceWork';
import { useOpenMove } from '../MoveContext';
import { useChoice, useDecideInput } from '../readings';
import { AssessmentTable } from './AssessmentTable';
import { CandidateCard } from './CandidateCard';
import { ChooseDialog } from './ChooseDialog';
import { CompareTable } from './CompareTable';
import { ExceptionCard } from './ExceptionCard';
import { FixesCard } from './FixesCard';
import { LicenceCard } from './LicenceCard';
import { WhatWouldChange } from './WhatWouldChange';
import { Day } from '../../shell/Instant';

/** Every route with its reasons, what would change the advice, and the choice. */
export function DecideStage() {
  const { move } = useOpenMove();
  const input = useDecideInput();
  const choice = useChoice();
  const may = useMay();
  const [choosing, setChoosing] = useState<Candidate>();
  const { candidates, advised } = choice;
  const { decision } = move;
  const isChosen = ({ routeId, releaseId }: Candidate) =>
    decision?.routeId === routeId && decision.releaseId === releaseId;
  const chosen = candidates.find(isChosen);
  const allowed = useMemo(
    () => candidates.filter((one) => one.status === 'allowed' && !isApart(one)),
    [candidates],
  );
  const beside = candidates.filter((one) => one.status === 'allowed' && isApart(one));
  const blocking = blockingUnknowns(choice, move.facts);
  const [asking, setAsking] = useState<FactKey>();
  const undecided = candidates.filter(({ status }) => status === 'undecided');
  const excluded = useMemo(() => candidates.filter(({ status }) => status === 'excluded'), [candidates]);
  const changes = useSmallestChanges(input, excluded);
  const open = may.write && !isClosed(move);
  const better = undecided.filter(({ points }) => isApart(advised) || points > advised.points);

  return (
    <>
      {choice.problems.map((sentence) => (
        <p key={sentence} className="notice" role="alert">
          {sentence}
        </p>
      ))}
      <section className="sheet advice" aria-labelledby="advice">
        <h2 id="advice">Advice: {advised.title}</h2>
        <p className="mb-0">
          {isApart(advised) && undecided.length > 0
            ? `Nothing else is allowed yet: ${printCount(undecided.length, 'option')} ${undecided.length === 1 ? 'waits' : 'wait'} for facts that are unknown.`
            : `The best of ${allowed.length} allowed by the weights of the house rules: ${advised.points.toFixed(0)} of 100 points, ${advised.handsOnMinutes} min hands-on, ${advised.waitingMinutes} min waiting.`}{' '}
          {better[0] && (
            <>
              <Link to={`/moves/${move.reference}/survey`}>Find out the unknown facts first</Link>: if they
              turn out well, “{better[0].title}” is better.
            </>
          )}
        </p>
        {decision && (
          <p className="mt-2 mb-0">
            <strong>Chosen: {chosen?.title ?? decision.advisedTitle}</strong>, by {decision.by},{' '}
            <Day at={decision.at} />.{' '}
            {decision.reason !== null && `Against the advice (${decision.advisedTitle}): ${decision.reason}`}
            {decision.waivers.length > 0 &&
              ` Waived: ${decision.waivers.map((rule) => rule.replaceAll('-', ' ')).join(', ')}.`}
          </p>
        )}
      </section>
      {allowed.length > 0 && (
        <CompareTable
          candidates={allowed}
          advised={advised}
          isChosen={isChosen}
          onChoose={open ? setChoosing : undefined}
        />
      )}
      {beside.length > 0 && (
        <CompareTable
          apart
          candidates={beside}
          advised={advised}
          isChosen={isChosen}
          onChoose={open ? setChoosing : undefined}
        />
      )}
      <div className="columns">
        <div>
          <WhatWouldChange input={input} choice={choice} />
          <FixesCard assessments={choice.assessments} />
        </div>
        <div>
          <LicenceCard />
          <ExceptionCard />
          <AssessmentTable assessments={choice.assessments} />
        </div>
      </div>
      {undecided.length > 0 && (
        <section aria-label="Something unknown is in the way">
          <h2 className="mt-3">
            Something unknown is in the way <span className="soft">({undecided.length})</span>
          </h2>
          <BlockingUnknowns unknowns={blocking} onEnter={open ? setAsking : undefined} />
          {undecided.map((candidate) => (
            <CandidateCard
              key={`${candidate.routeId} ${candidate.releaseId ?? ''}`}
              candidate={candidate}
              isChosen={isChosen(candidate)}
              onChoose={open && !isChosen(candidate) ? () => setChoosing(candidate) : undefined}
            />
          ))}
        </section>
      )}
      {excluded.length > 0 && (
        <section aria-label="Excluded">
          <h2 className="mt-3">
            Excluded <span className="soft">({excluded.length})</span>
          </h2>
          {excluded.map((candidate, index) => (
            <CandidateCard
              key={`${candidate.routeId} ${candidate.releaseId ?? ''}`}
              candidate={candidate}
              isChosen={isChosen(candidate)}
              change={changes?.[index]}
              onChoose={open && may.lead && !isChosen(candidate) ? () => setChoosing(candidate) : undefined}
            />
          ))}
        </section>
      )}
      {asking !== undefined && <EnterFact factKey={asking} onClose={() => setAsking(undefined)} />}
      {choosing && (
        <ChooseDialog candidate={choosing} advised={advised} onClose={() => setChoosing(undefined)} />
      )}
    </>
  );
}
