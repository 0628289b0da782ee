import type { Choice, DecideInput, FactThatTurns } from '@ulvane/core/decide';
import type { FactKey } from '@ulvane/core/survey';
import { useWhatWouldChange } from '../../workers/useChoiceWork';
import { Fold } from '../../shell/Fold';
import { WeightDials } from './WeightDials';

const factsShown = 3;

/** Which single fact, and which weight of the house, would change the advice. */
export function WhatWouldChange({ input, choice }: { readonly input: DecideInput; readonly choice: Choice }) {
  const told = useWhatWouldChange(input);
  const facts = told?.facts.filter(canMove) ?? [];
  const fixed = told?.facts.filter((fact) => !canMove(fact)) ?? [];
  return (
    <section aria-labelledby="what-would-change">
      <h2 id="what-would-change">
        What would change the advice <span className="soft">solid: it holds</span>
      </h2>
      {!told && (
        <p className="soft" role="status">
          Trying every fact …
        </p>
      )}
      {told && told.facts.length === 0 && (
        <p className="mb-2">No single fact: whatever one of them were, the advice would be the same.</p>
      )}
      <Turns facts={facts.slice(0, factsShown)} />
      {facts.length > factsShown && (
        <Fold title={`${facts.length - factsShown} more facts`}>
          {() => <Turns facts={facts.slice(factsShown)} />}
        </Fold>
      )}
      {fixed.length > 0 && (
        <Fold title="Facts that only a mistake in the survey would change">
          {() => <Turns facts={fixed} />}
        </Fold>
      )}
      <WeightDials choice={choice} weights={input.houseRules.weights} />
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
  if (facts.length === 0) return null;
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
