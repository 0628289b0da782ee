import { termLabels } from '@ulvane/core/rules';
import { weightLimits, type Choice, type DecideInput, type FactThatTurns } from '@ulvane/core/decide';
import type { FactKey } from '@ulvane/core/survey';
import { scaleLinear } from 'd3-scale';
import { Link } from 'react-router';
import { useWhatWouldChange } from '../../workers/useChoiceWork';
import { useOpenMove } from '../MoveContext';

/** How far each weight could move, and which single fact would change the advice. */
export function WhatWouldChange({ input, choice }: { readonly input: DecideInput; readonly choice: Choice }) {
  const { move } = useOpenMove();
  const told = useWhatWouldChange(input);
  return (
    <section className="sheet" aria-labelledby="what-would-change">
      <h2 id="what-would-change">What would change this advice</h2>
      <h3>One fact</h3>
      {!told && (
        <p className="soft" role="status">
          Trying every fact …
        </p>
      )}
      {told && told.facts.length === 0 && (
        <p className="mb-2">No single fact: whatever one of them were, the advice would be the same.</p>
      )}
      {told && <Turns facts={told.facts.filter(canMove)} />}
      {told && told.facts.some((fact) => !canMove(fact)) && (
        <details className="mb-2">
          <summary className="soft">Facts that only a mistake in the survey would change</summary>
          <Turns facts={told.facts.filter((fact) => !canMove(fact))} />
        </details>
      )}
      {told && told.unknowns.some(({ otherAdvices, waiting }) => otherAdvices + waiting > 0) && (
        <>
          <h3>Find out first</h3>
          <ol className="mb-2">
            {told.unknowns
              .filter(({ otherAdvices, waiting }) => otherAdvices + waiting > 0)
              .map(({ key, label, howToFind, waiting }) => (
                <li key={key}>
                  <Link to={`/moves/${move.reference}/survey`}>{label}</Link>
                  {waiting > 0 && <span className="soft"> ({waiting} candidates wait for it)</span>}:{' '}
                  {howToFind}
                </li>
              ))}
          </ol>
        </>
      )}
      <h3>The house’s weights</h3>
      <p className="small-print">
        Each by itself, the others as they are; the solid stretch keeps the advice.
      </p>
      <ul className="weights">
        {weightLimits(choice.candidates, input.houseRules.weights).map((limit) => (
          <li key={limit.id}>
            <span>{termLabels[limit.id]}</span>
            <WeightTrack weight={limit.weight} lower={limit.lower} upper={limit.upper} />
            <span className="small-print">
              {limit.lower === null &&
                limit.upper === null &&
                `now ${limit.weight}; nothing from 0 to 10 changes it`}
              {limit.below && `below ${limit.lower?.toFixed(2) ?? ''}: ${limit.below.title}`}
              {limit.below && limit.above && '; '}
              {limit.above && `above ${limit.upper?.toFixed(2) ?? ''}: ${limit.above.title}`}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** What can be changed on a device, or is often measured wrong. */
const movable: ReadonlySet<FactKey> = new Set([
  'tpm',
  'secureBoot',
  'firmwareMode',
  'memoryBytes',
  'disks',
  'activation',
  'licencesHeld',
  'applications',
  'networkAdapters',
  'presentLanguage',
]);
const canMove = ({ key, isKnown }: FactThatTurns) => !isKnown || movable.has(key);

function Turns({ facts }: { readonly facts: readonly FactThatTurns[] }) {
  return (
    <ul className="check-rows turns">
      {facts.map(({ aspectId, label, isKnown, now, turns }) => (
        <li key={aspectId}>
          <strong>{label}</strong> {!isKnown && <em className="soft">unknown</em>}
          {now !== undefined && <span className="soft">now {now}</span>}
          <ul>
            {turns.map(({ when, advised }) => (
              <li key={when + advised.title}>
                <span className="soft">if</span> {when} <span aria-hidden="true">→</span>{' '}
                <span className="visually-hidden">the advice would be </span>
                {advised.title}
              </li>
            ))}
          </ul>
        </li>
      ))}
    </ul>
  );
}

const at = scaleLinear([0, 10], [4, 96]);

function WeightTrack({
  weight,
  lower,
  upper,
}: {
  readonly weight: number;
  readonly lower: number | null;
  readonly upper: number | null;
}) {
  return (
    <svg
      viewBox="0 0 100 14"
      preserveAspectRatio="none"
      role="img"
      aria-label={`weight ${weight}; the advice stays from ${(lower ?? 0).toFixed(2)} to ${(upper ?? 10).toFixed(2)}`}
    >
      <line x1={at(0)} x2={at(10)} y1="7" y2="7" stroke="#b9b39f" strokeWidth="1" strokeDasharray="1.2 1.2" />
      <line x1={at(lower ?? 0)} x2={at(upper ?? 10)} y1="7" y2="7" stroke="var(--ink)" strokeWidth="4" />
      <line x1={at(weight)} x2={at(weight)} y1="1" y2="13" stroke="var(--go)" strokeWidth="1.6" />
    </svg>
  );
}
