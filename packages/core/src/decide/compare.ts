import type { HouseRules, Weights } from '../rules/houseRules';
import { isApart } from '../route/definition';
import { byAdvice, type Candidate } from './candidates';
import { termIds } from '../rules/weights';
import type { TermValues } from './score';

/** The terms by which candidates are compared on what they are; house rules are a taste and not among them. */
const counts = termIds.filter((id) => id !== 'house');

/** Whether one candidate is at least as good on every count, and better on one. */
export function beats(a: TermValues, b: TermValues): boolean {
  return counts.every((id) => a[id] >= b[id]) && counts.some((id) => a[id] > b[id]);
}

/** The allowed candidates that no other allowed one beats on every count; those that stand apart are compared with none. */
export function unbeaten(candidates: readonly Candidate[]): readonly Candidate[] {
  const allowed = candidates.filter((one) => one.status === 'allowed' && !isApart(one));
  return allowed.filter((one) => !allowed.some((other) => beats(other.values, one.values)));
}

type WeightLimit = {
  readonly id: keyof Weights;
  readonly weight: number;
  /** The advice stays the same while the weight lies strictly between these; null: it never changes that way. */
  readonly lower: number | null;
  readonly upper: number | null;
  readonly below: Candidate | null;
  readonly above: Candidate | null;
};

/**
 * How far each weight could move, the others staying, before the advice changes.
 *
 * With weight w on term k, a candidate's points are (S + v·w) ÷ (T + w), where S and T are the sums
 * over the other terms. Two candidates share the divisor, so their order turns exactly where
 * (Sa − Sb) + (va − vb)·w = 0: one place at most for each pair. Weights run from 0 to 10; what lies
 * outside is not told.
 */
export function weightLimits(
  candidates: readonly Candidate[],
  weights: HouseRules['weights'],
): readonly WeightLimit[] {
  // What stands apart is advised, or not, whatever its points: then no weight matters.
  if (candidates.some(({ leads }) => leads))
    return termIds.map((id) => ({
      id,
      weight: weights[id],
      lower: null,
      upper: null,
      below: null,
      above: null,
    }));
  const allowed = candidates.filter((one) => one.status === 'allowed' && !isApart(one));
  const [advised] = [...allowed].sort(byAdvice);
  return termIds.map((id): WeightLimit => {
    const weight = weights[id];
    let lower: number | null = null;
    let upper: number | null = null;
    let below: Candidate | null = null;
    let above: Candidate | null = null;
    for (const other of allowed) {
      if (!advised || other === advised) continue;
      const slope = advised.values[id] - other.values[id];
      if (slope === 0) continue;
      const rest = termIds.reduce(
        (sum, term) =>
          term === id ? sum : sum + (advised.values[term] - other.values[term]) * weights[term],
        0,
      );
      // Sums of tenths are not quite what they are on paper: what is within a billionth of an end is the end.
      const turn = settled(-rest / slope, weight);
      if (slope < 0 && turn >= weight && turn <= 10 && (upper === null || turn < upper))
        [upper, above] = [turn, other];
      if (slope > 0 && turn <= weight && turn >= 0 && (lower === null || turn > lower))
        [lower, below] = [turn, other];
    }
    return { id, weight, lower, upper, below, above };
  });
}

/** A turn that is nearly zero, ten or the present weight is that. */
function settled(turn: number, weight: number): number {
  return [0, 10, weight].find((end) => Math.abs(turn - end) < 1e-9) ?? turn;
}
