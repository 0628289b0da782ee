import { factsOfSomeWays } from '../survey/completeness';
import { factTexts } from '../survey/describe';
import { factKeys, type FactKey } from '../survey/facts';
import { withFacts } from '../survey/patch';
import { rangeText, type Aspect, type AspectClass } from './aspectClasses';
import { aspectsOf } from './aspects';
import { decide, type Candidate, type Choice } from './candidates';
import type { DecideInput } from './input';

type FactTurn = {
  /** What would have to be the case: “Memory: 4.0 GiB or more”. */
  readonly when: string;
  readonly advised: Pick<Candidate, 'routeId' | 'releaseId' | 'title'>;
};

export type FactThatTurns = {
  readonly aspectId: string;
  readonly key: FactKey;
  readonly label: string;
  readonly isKnown: boolean;
  /** The present value of a size, so that no limit beside it reads the same. */
  readonly now?: string;
  readonly turns: readonly FactTurn[];
};

type UnknownThatMatters = {
  readonly key: FactKey;
  readonly label: string;
  readonly howToFind: string;
  /** How many other advices could come of it. */
  readonly otherAdvices: number;
  /** Candidates that wait for it. */
  readonly waiting: number;
};

export type WhatWouldChange = {
  /** Facts that by themselves would change the advice, unknown ones first. */
  readonly facts: readonly FactThatTurns[];
  /** Every unknown fact, the one that matters most to the choice first. */
  readonly unknowns: readonly UnknownThatMatters[];
  /** How many times the device was decided anew. */
  readonly tries: number;
};

const nameOf = ({ routeId, releaseId }: Pick<Candidate, 'routeId' | 'releaseId'>) =>
  `${routeId} ${releaseId ?? ''}`;

type ClassAdvice = Omit<AspectClass, 'patch'> & { readonly advised: Candidate };

/** The advice for every class of values of one aspect. */
export function advicesOf(input: DecideInput, aspect: Aspect): readonly ClassAdvice[] {
  return aspect.classes.map(({ patch, ...rest }) => ({
    ...rest,
    advised: decide({ ...input, facts: withFacts(input.facts, patch) }).advised,
  }));
}

/**
 * Which single fact, if it were different or known, would change the advice. Every class of values
 * is tried, so nothing is missed between samples; see `aspectsOf` for what a class is.
 */
export function whatWouldChange(input: DecideInput, choice: Choice): WhatWouldChange {
  const advised = nameOf(choice.advised);
  const facts: FactThatTurns[] = [];
  const advices = new Map<FactKey, Set<string>>();
  let tries = 0;
  for (const aspect of aspectsOf(input)) {
    const told = advicesOf(input, aspect);
    tries += told.length;
    const others = told.filter((one) => !one.isPresent && nameOf(one.advised) !== advised);
    const known = advices.get(aspect.key) ?? new Set<string>();
    advices.set(aspect.key, known);
    for (const one of others) known.add(nameOf(one.advised));
    if (others.length > 0)
      facts.push({
        aspectId: aspect.id,
        key: aspect.key,
        label: aspect.label,
        isKnown: aspect.isKnown,
        ...(aspect.now === undefined ? {} : { now: aspect.now }),
        turns: joined(told, advised),
      });
  }
  return {
    facts: facts.sort((a, b) => Number(a.isKnown) - Number(b.isKnown)),
    unknowns: rankUnknowns(input, choice, advices),
    tries,
  };
}

/** Classes with the same advice become one line, and neighbouring numbers one range. */
function joined(told: readonly ClassAdvice[], advised: string): readonly FactTurn[] {
  const byAdvice = new Map<string, { when: string[]; advised: FactTurn['advised'] }>();
  for (let at = 0; at < told.length; at += 1) {
    const one = told[at];
    const name = one && !one.isPresent ? nameOf(one.advised) : advised;
    if (!one || name === advised) continue;
    const entry = byAdvice.get(name) ?? { when: [], advised: one.advised };
    byAdvice.set(name, entry);
    if (!one.range) {
      entry.when.push(one.when);
      continue;
    }
    let last = one.range;
    for (
      let next = told[at + 1];
      next?.range && !next.isPresent && nameOf(next.advised) === name;
      next = told[at + 1]
    ) {
      last = next.range;
      at += 1;
    }
    entry.when.push(rangeText({ from: one.range.from, to: last.to }));
  }
  return [...byAdvice.values()].map(({ when, advised: { routeId, releaseId, title } }) => ({
    when: when.length > 4 ? `${when.slice(0, 3).join('; ')}; and ${when.length - 3} more` : when.join('; '),
    advised: { routeId, releaseId, title },
  }));
}

function rankUnknowns(
  { facts }: DecideInput,
  { candidates }: Choice,
  advices: ReadonlyMap<FactKey, ReadonlySet<string>>,
): readonly UnknownThatMatters[] {
  return factKeys
    .filter((key) => facts[key] === undefined && !factsOfSomeWays.includes(key))
    .map((key) => ({
      key,
      label: factTexts[key].label,
      howToFind: factTexts[key].howToFind,
      otherAdvices: advices.get(key)?.size ?? 0,
      waiting: candidates.filter(
        ({ status, reasons }) =>
          status === 'undecided' &&
          reasons.some((reason) => reason.finding === 'unknown' && reason.facts.includes(key)),
      ).length,
    }))
    .sort(
      (a, b) =>
        b.otherAdvices - a.otherAdvices || b.waiting - a.waiting || a.label.localeCompare(b.label, 'en'),
    );
}
