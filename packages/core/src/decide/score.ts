import type { HouseRules, Weights } from '../rules/houseRules';
import { termIds, termLabels } from '../rules/weights';
import type { RouteDefinition } from '../route/definition';

type ScoreTerm = {
  readonly id: keyof Weights;
  readonly label: string;
  /** 0 (worst) to 1 (best). */
  readonly value: number;
  readonly weight: number;
  /** value × weight ÷ sum of weights × 100: the points this term gives. */
  readonly points: number;
};

export type TermValues = Readonly<Record<keyof Weights, number>>;

/** Times, money and support on a scale of 0 to 1; beyond the scale's end nothing gets worse or better. */
export const scales = { handsOnMinutes: 240, elapsedMinutes: 600, money: 200, supportDays: 1825 } as const;

/** @example onScale(60, 240) // 0.75: the less the better */
export function onScale(amount: number, end: number): number {
  return 1 - Math.min(1, Math.max(0, amount / end));
}

/**
 * The weighted sum of the terms, 0 to 100. All weights 0 gives 0.
 * @example pointsOf({ dataRisk: 1, … }, weights) // 100 when every term is 1
 */
export function pointsOf(values: TermValues, weights: Weights): number {
  const total = totalOf(weights);
  let sum = 0;
  for (const id of termIds) sum += values[id] * weights[id];
  return total === 0 ? 0 : (sum / total) * 100;
}

/** House rules never change, and every option is counted with the same. */
const totals = new WeakMap<Weights, number>();

function totalOf(weights: Weights): number {
  const known = totals.get(weights);
  if (known !== undefined) return known;
  const total = termIds.reduce((sum, id) => sum + weights[id], 0);
  totals.set(weights, total);
  return total;
}

/** Each term with its weight and the points that it gives; they add up to `pointsOf`. */
export function scoreTerms(values: TermValues, weights: Weights): readonly ScoreTerm[] {
  const total = termIds.reduce((sum, id) => sum + weights[id], 0);
  return termIds.map((id) => ({
    id,
    label: termLabels[id],
    value: values[id],
    weight: weights[id],
    points: total === 0 ? 0 : ((values[id] * weights[id]) / total) * 100,
  }));
}

/**
 * How far a route is what the house would do: the share of its house-rule profile that house rules follow,
 * 0 to 1. What to do with a device below the minimum counts only where the device is below it.
 */
export function agreement(
  houseRuleProfile: RouteDefinition['houseRuleProfile'],
  houseRules: HouseRules,
  isBelowMinimum: boolean,
): number {
  let asked = 0;
  let agreed = 0;
  if (houseRuleProfile.manner !== undefined) {
    asked += 1;
    if (houseRuleProfile.manner === houseRules.manner) agreed += 1;
  }
  if (houseRuleProfile.erase !== undefined) {
    asked += 1;
    if (houseRuleProfile.erase === houseRules.erase) agreed += 1;
  }
  if (houseRuleProfile.belowMinimum !== undefined && isBelowMinimum) {
    asked += 1;
    if (houseRuleProfile.belowMinimum === houseRules.belowMinimum) agreed += 1;
  }
  return asked === 0 ? 0 : agreed / asked;
}

/**
 * Points of terms as they are shown, with one digit: rounded so that they add up to the sum that is shown beside them.
 * What is cut off is given to those that lose most by it.
 * @example shownPoints([33.33, 33.33, 33.34]) // { parts: [33.3, 33.3, 33.4], sum: 100 }
 */
export function shownPoints(points: readonly number[]): {
  readonly parts: readonly number[];
  readonly sum: number;
} {
  const tenths = Math.round(points.reduce((sum, one) => sum + one, 0) * 10);
  const cut = points.map((one) => Math.floor(one * 10 + 1e-9));
  const missing = tenths - cut.reduce((sum, one) => sum + one, 0);
  const byLoss = points
    .map((one, index) => ({ index, loss: one * 10 - (cut[index] ?? 0) }))
    .sort((a, b) => b.loss - a.loss || a.index - b.index);
  const given = new Set(byLoss.slice(0, Math.max(0, missing)).map(({ index }) => index));
  return {
    parts: cut.map((one, index) => (one + (given.has(index) ? 1 : 0)) / 10),
    sum: tenths / 10,
  };
}
