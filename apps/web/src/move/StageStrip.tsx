import { dayIn, printCount, printMinutes } from '@ulvane/core/quantity';
import {
  accountFor,
  openTroubleOf,
  readCopies,
  stageOf,
  stages,
  stagesDone,
  stageTitles,
  type Stage,
  asksForCopies,
} from '@ulvane/core/record';
import { isSigned, totalMinutes } from '@ulvane/core/runbook';
import { completeness } from '@ulvane/core/survey';
import { Fragment } from 'react';
import { NavLink } from 'react-router';
import { useOpenMove } from './MoveContext';
import { usePlanReading } from './readings';
import { stagePlaces } from './stagePlaces';

/** The seven stages with one line about each; the double bar is the Line. */
export function StageStrip() {
  const { move, houseRules } = useOpenMove();
  const present = stageOf(move);
  const finished = stagesDone(move, houseRules);
  const about = useStageLines();
  return (
    <nav className="stages" aria-label="Stages">
      {stagePlaces.map(({ stage, path }, index) => {
        const done = finished.has(stage);
        const passed = stages.indexOf(stage) < stages.indexOf(present);
        const state = done ? 'done' : stage === present || passed ? 'now' : '';
        return (
          <Fragment key={stage}>
            {stage === 'cross' && <span className="the-line" role="img" aria-label="The Line" />}
            <NavLink
              to={`/moves/${move.reference}/${path}`}
              className={({ isActive }) => `${state}${isActive ? ' active' : ''}`}
              aria-keyshortcuts={String(index + 1)}
            >
              {done && <span aria-hidden="true">✓ </span>}
              {done && <span className="visually-hidden">Done: </span>}
              {stageTitles[stage]}
              <small>
                {stage === present && 'now: '}
                {about[stage]}
              </small>
            </NavLink>
          </Fragment>
        );
      })}
    </nav>
  );
}

function useStageLines(): Readonly<Record<Exclude<Stage, 'done'>, string>> {
  const { move, houseRules } = useOpenMove();
  const reading = usePlanReading();
  const facts = completeness(move.facts);
  const steps = move.plan?.runbook.steps ?? [];
  const signed = (stage: string) => {
    const own = steps.filter((step) => step.stage === stage);
    return own.length === 0
      ? ''
      : `${own.filter(({ id }) => isSigned(move.signatures, id)).length} of ${own.length} steps`;
  };
  const { status, counting } = readCopies(move, houseRules);
  const short = status.filter((line) => line.short !== null).length;
  const trouble = openTroubleOf(move);
  const troubled = steps.findIndex(({ id }) => id === trouble?.stepId);
  const stopped = (stage: string, line: string) =>
    steps[troubled]?.stage === stage ? `stopped in step ${troubled + 1}` : line;
  const closed = reading?.gates.filter(({ state }) => state === 'closed').length ?? 0;
  const settle = totalMinutes(steps.filter(({ stage }) => stage === 'settle'));
  const open = accountFor(move).filter(({ state }) => state === 'open').length;
  return {
    survey: `${facts.knownCount} facts, ${facts.unknowns.length} unknown`,
    decide: move.decision ? `by ${move.decision.by}` : 'no route yet',
    save:
      move.dataSets.length === 0
        ? asksForCopies(move)
          ? 'no data set yet'
          : 'nothing to save'
        : short === 0
          ? `${counting.length} of ${move.copies.length} copies count`
          : `${printCount(move.dataSets.length, 'set')}, ${short} short`,
    prepare: stopped('prepare', move.plan ? signed('prepare') || 'ready' : 'no runbook yet'),
    cross: stopped(
      'cross',
      !move.plan
        ? ''
        : closed > 0
          ? `${printCount(closed, 'gate')} closed`
          : signed('cross') || 'nothing to cross',
    ),
    settle: stopped(
      'settle',
      steps.length === 0
        ? ''
        : settle.handsOn.likely + settle.waiting.likely === 0
          ? 'nothing to settle'
          : `about ${printMinutes(settle.handsOn.likely + settle.waiting.likely)}`,
    ),
    'hand-over': move.handover.signedOff
      ? `signed ${dayIn(houseRules.timeZone, move.handover.signedOff.at)}`
      : move.dataSets.length > 0 && open === 0
        ? 'files accounted'
        : move.dueOn
          ? `by ${move.dueOn}`
          : '',
  };
}
