import { findRelease, releaseTitle, supportDaysLeft, supportedUntil } from '../catalogue/find';
import { printMinutes } from '../quantity/duration';
import { printCount } from '../quantity/count';
import { daysBetween } from '../quantity/day';
import { termIds, termLabels } from '../rules/weights';
import type { Weights } from '../rules/houseRules';
import { contextFor, type Candidate, type Choice } from './candidates';
import { weightLimits } from './compare';
import type { DecideInput } from './input';

/** At most three reasons for the advice, the weightiest first: what stays, until when it gets updates, how the hardware fits. */
export function whyAdvised(input: DecideInput, candidate: Candidate): readonly string[] {
  const context = contextFor(input, candidate);
  const { catalogue, today } = input;
  if (candidate.status !== 'allowed' || !context || candidate.releaseId === null)
    return candidate.reasons.map(({ sentence }) => sentence).slice(0, 3);
  const release = findRelease(catalogue, candidate.releaseId);
  const assessment = context.target?.assessment;
  const fixes = assessment?.judgements.flatMap(({ fix }) => (fix ? [fix] : [])) ?? [];
  const minutes = fixes.reduce((sum, { handsOnMinutes }) => sum + handsOnMinutes, 0);
  const { present } = context;
  const ended = present && supportDaysLeft(present, today) < 0 ? supportedUntil(present) : undefined;
  const until = release && supportedUntil(release);
  return [
    candidate.keeps.length > 0
      ? `Stays: ${candidate.keeps.join(', ')}.`
      : context.isEmpty
        ? 'No system is on the device that could be lost.'
        : 'What was saved comes back; nothing else stays.',
    `Updates ${until == null ? 'without an end' : `until ${until}`}${
      present && ended
        ? `; those of ${releaseTitle(present)} ended ${printCount(daysBetween(ended, today), 'day')} ago`
        : ''
    }.`,
    candidate.waivers.length > 0
      ? `The hardware is below what is asked: ${printCount(candidate.waivers.length, 'check')} would be waived.`
      : fixes.length > 0
        ? `The hardware fits after ${printCount(fixes.length, 'change')}, in ${printMinutes(minutes)}.`
        : 'The hardware meets every requirement.',
  ];
}

/** What makes the other one dearer, a clause a term. */
const dearer: Readonly<Record<keyof Weights, (advised: Candidate, other: Candidate) => string>> = {
  dataRisk: () => 'more can go wrong with the data',
  handsOn: (a, b) => `it takes ${printMinutes(b.handsOnMinutes - a.handsOnMinutes)} more hands-on`,
  elapsed: (a, b) =>
    `it is done ${printMinutes(b.handsOnMinutes + b.waitingMinutes - a.handsOnMinutes - a.waitingMinutes)} later`,
  ownerEffort: () => 'the owner has more to set up anew',
  money: (a, b) => `it costs ${b.cost - a.cost} more`,
  support: () => 'its updates end earlier, or cover less of the work',
  reversible: () => 'it is harder to undo',
  house: () => 'it suits the house rules less',
  upkeep: () => 'it takes more to keep up',
};

/**
 * Why another option stands behind the advice: the two terms that cost it most points, in words, and the weight at
 * which it would be first.
 */
export function whyBehind(input: DecideInput, choice: Choice, other: Candidate): readonly string[] {
  const { weights } = input.houseRules;
  const { advised } = choice;
  const lost = termIds
    .map((id) => ({ id, by: (advised.values[id] - other.values[id]) * weights[id] }))
    .filter(({ by }) => by > 1e-9)
    .toSorted((a, b) => b.by - a.by)
    .slice(0, 2)
    .map(({ id }) => dearer[id](advised, other));
  const turn = weightLimits(choice.candidates, weights).find(
    ({ below, above }) => below === other || above === other,
  );
  return [
    lost.length > 0 ? `Behind because ${lost.join(' and ')}.` : 'As many points as the advice.',
    ...(turn
      ? [
          turn.below === other
            ? `First where “${termLabels[turn.id]}” weighs below ${turn.lower?.toFixed(1) ?? ''}, now ${turn.weight}.`
            : `First where “${termLabels[turn.id]}” weighs above ${turn.upper?.toFixed(1) ?? ''}, now ${turn.weight}.`,
        ]
      : []),
  ];
}
