import { printCount } from '@ulvane/core/quantity';
import { blockingUnknowns, type Candidate } from '@ulvane/core/decide';
import { isClosed } from '@ulvane/core/record';
import { isApart } from '@ulvane/core/route';
import type { FactKey } from '@ulvane/core/survey';
import { useMemo, useState } from 'react';
import { useMay } from '../../api/useSession';
import { Fold } from '../../shell/Fold';
import { Day } from '../../shell/Instant';
import { useOpenMove } from '../MoveContext';
import { useChoice, useDecideInput } from '../readings';
import { BlockingUnknowns } from '../survey/BlockingUnknowns';
import { EnterFact } from '../survey/EnterFact';
import { AssessmentTable } from './AssessmentTable';
import { ChooseDialog } from './ChooseDialog';
import { ExceptionCard } from './ExceptionCard';
import { FixesCard } from './FixesCard';
import { LicenceCard } from './LicenceCard';
import { OptionsByRoute } from './OptionsByRoute';
import { RateSheet } from './RateSheet';
import { WhatWouldChange } from './WhatWouldChange';
import { WishField } from './WishField';

const unknownsShown = 4;

/** The advice and what stands behind it on one sheet, every other option a line a route, and what would change it. */
export function DecideStage() {
  const { move } = useOpenMove();
  const input = useDecideInput();
  const choice = useChoice();
  const may = useMay();
  const [choosing, setChoosing] = useState<Candidate>();
  const [asking, setAsking] = useState<FactKey>();
  const { candidates, advised } = choice;
  const { decision } = move;
  const isChosen = ({ routeId, releaseId }: Candidate) =>
    decision?.routeId === routeId && decision.releaseId === releaseId;
  const shown = useMemo(() => {
    // The best of each other route.
    const behind = candidates.filter(
      (one, index) =>
        one.status === 'allowed' &&
        !isApart(one) &&
        one.routeId !== advised.routeId &&
        candidates.findIndex(({ routeId }) => routeId === one.routeId) === index,
    );
    return [advised, ...behind.slice(0, 2)];
  }, [candidates, advised]);
  const blocking = blockingUnknowns(choice, move.facts);
  const open = may.write && !isClosed(move);
  const onChoose = open ? setChoosing : undefined;
  const enter = open ? setAsking : undefined;
  return (
    <>
      {choice.problems.map((sentence) => (
        <p key={sentence} className="notice" role="alert">
          {sentence}
        </p>
      ))}
      <div className="decide-head">
        <Chosen candidates={candidates} isChosen={isChosen} />
        <WishField />
      </div>
      <RateSheet input={input} choice={choice} shown={shown} isChosen={isChosen} onChoose={onChoose} />
      <div className="columns wide-left">
        <OptionsByRoute
          input={input}
          candidates={candidates}
          shownAbove={shown.length}
          isChosen={isChosen}
          onChoose={onChoose}
          mayChooseExcluded={may.lead}
        />
        <div className="decide-side">
          <WhatWouldChange input={input} choice={choice} />
          {blocking.length > 0 && (
            <section aria-labelledby="missing-facts">
              <h2 id="missing-facts">{printCount(blocking.length, 'missing fact')}</h2>
              <BlockingUnknowns unknowns={blocking.slice(0, unknownsShown)} onEnter={enter} />
              {blocking.length > unknownsShown && (
                <Fold title={`${blocking.length - unknownsShown} more`}>
                  {() => <BlockingUnknowns unknowns={blocking.slice(unknownsShown)} onEnter={enter} />}
                </Fold>
              )}
            </section>
          )}
        </div>
      </div>
      <div className="folds">
        <Fold title="Against every release">
          {() => <AssessmentTable assessments={choice.assessments} />}
        </Fold>
        <Fold title="Fixes">{() => <FixesCard assessments={choice.assessments} />}</Fold>
        <Fold title="Licence">{() => <LicenceCard />}</Fold>
        <Fold
          title={
            move.departures.length === 0
              ? 'Exceptions from house rules: none'
              : `Exceptions from house rules: ${move.departures.length}`
          }
          startsOpen={move.departures.length > 0}
        >
          {() => <ExceptionCard />}
        </Fold>
      </div>
      {asking !== undefined && <EnterFact factKey={asking} onClose={() => setAsking(undefined)} />}
      {choosing && (
        <ChooseDialog candidate={choosing} advised={advised} onClose={() => setChoosing(undefined)} />
      )}
    </>
  );
}

/** What was chosen, by whom and why; or that nothing is yet. */
function Chosen({
  candidates,
  isChosen,
}: {
  readonly candidates: readonly Candidate[];
  readonly isChosen: (candidate: Candidate) => boolean;
}) {
  const { move } = useOpenMove();
  const { decision } = move;
  if (!decision) return <p className="chosen-line soft">Nothing is chosen yet.</p>;
  const { by, at, reason, advisedTitle, waivers, disk, room } = decision;
  return (
    <p className="chosen-line">
      <strong>Chosen: {candidates.find(isChosen)?.title ?? advisedTitle}</strong>, by {by}, <Day at={at} />.{' '}
      {reason !== null && `Against the advice (${advisedTitle}): ${reason} `}
      {disk && `Written to ${disk.serial ?? disk.name}. `}
      {room &&
        `Room from ${room.fromPartition === null ? 'a free run' : `partition ${room.fromPartition}`}. `}
      {waivers.length > 0 && `Waived: ${waivers.map((rule) => rule.replaceAll('-', ' ')).join(', ')}.`}
    </p>
  );
}
