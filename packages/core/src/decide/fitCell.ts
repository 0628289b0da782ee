import { z } from 'zod';
import type { Release } from '../catalogue/catalogue';
import { findApplication, findRelease, supportDaysLeft, supportedUntil } from '../catalogue/find';
import { byText } from '../quantity/order';
import type { HouseRules } from '../rules/houseRules';
import { routeIds } from '../route/definition';
import { factTexts } from '../survey/describe';
import { factKeys, valueOf, type Facts } from '../survey/facts';
import type { Candidate, Choice } from './candidates';
import type { DecideInput } from './input';
import { ruleInWords } from './ruleWords';

/** What it takes: hands of a technician, money in whole units of the house's currency, and what is given up. */
const PriceSchema = z.strictObject({
  routeId: z.enum(routeIds),
  handsOnMinutes: z.number().min(0),
  cost: z.number().min(0),
  /** An application without an equivalent, a check that is waived, another move soon: a few words each. */
  givenUp: z.array(z.string()),
});
export type FitPrice = z.infer<typeof PriceSchema>;

/** What a release means for a device: what it takes, the one thing that is in the way, or the question that would settle it. */
export const FitCellSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('price'), ...PriceSchema.shape }),
  z.strictObject({ kind: z.literal('obstacle'), words: z.string() }),
  z.strictObject({
    kind: z.literal('question'),
    /** The fact that is asked for. */
    fact: z.enum(factKeys),
    words: z.string(),
    /** What it takes when the answer is a good one. */
    then: PriceSchema,
  }),
]);
export type FitCell = z.infer<typeof FitCellSchema>;

/** A device against every release that still gets updates. */
export const FitSchema = z.strictObject({
  /** The release that the advice leads to; null where it leads to none. */
  advice: z.string().nullable(),
  cells: z.record(z.string(), FitCellSchema),
});
export type Fit = z.infer<typeof FitSchema>;

/**
 * Minutes of a technician that a price comes to, everything on one scale: hands-on, money at the house's rate an hour,
 * and a flat time for each thing that is given up.
 * @example fitMinutes({ handsOnMinutes: 60, cost: 12, givenUp: [] }, { hourCost: 60, givenUpMinutes: 60 }) // 72
 */
export function fitMinutes(
  { handsOnMinutes, cost, givenUp }: Pick<FitPrice, 'handsOnMinutes' | 'cost' | 'givenUp'>,
  { hourCost, givenUpMinutes }: Pick<HouseRules['rates'], 'hourCost' | 'givenUpMinutes'>,
): number {
  return handsOnMinutes + (cost / hourCost) * 60 + givenUp.length * givenUpMinutes;
}

/** The releases that are a way ahead on a day, in the order of the catalogue. */
export function releasesAhead(releases: readonly Release[], today: string): readonly Release[] {
  return releases.filter((release) => supportDaysLeft(release, today) >= 0);
}

/** What every release that still gets updates means for a device. */
export function fitOf(input: DecideInput, choice: Choice): Fit {
  const { catalogue, today } = input;
  const byRelease = new Map<string, Candidate[]>();
  for (const candidate of choice.candidates) {
    if (candidate.releaseId === null) continue;
    const ways = byRelease.get(candidate.releaseId);
    if (ways) ways.push(candidate);
    else byRelease.set(candidate.releaseId, [candidate]);
  }
  return {
    advice: choice.advised.releaseId,
    cells: Object.fromEntries(
      releasesAhead(catalogue.releases, today).map((release) => [
        release.id,
        cellOf(input, choice, release, byRelease.get(release.id) ?? []),
      ]),
    ),
  };
}

/** The rule whose unknown is known by now: applications without an equivalent are given up, with the owner's consent. */
const consented = 'applications-have-equivalents';

const unknownReasons = ({ reasons }: Candidate, facts: Facts) =>
  reasons.filter(
    ({ finding, rule }) =>
      finding === 'unknown' && !(rule === consented && valueOf(facts, 'applications') !== undefined),
  );

function cellOf(input: DecideInput, choice: Choice, release: Release, ways: readonly Candidate[]): FitCell {
  const { facts, houseRules } = input;
  const open = ways
    .filter(({ status }) => status !== 'excluded')
    .map((candidate) => ({
      price: priceOf(input, candidate, release),
      unknown: unknownReasons(candidate, facts),
      title: candidate.title,
    }))
    .toSorted(
      (a, b) =>
        Math.min(a.unknown.length, 1) - Math.min(b.unknown.length, 1) ||
        fitMinutes(a.price, houseRules.rates) - fitMinutes(b.price, houseRules.rates) ||
        byText(a.title, b.title),
    );
  const [best] = open;
  if (!best) return { kind: 'obstacle', words: obstacleOf(choice, release, ways) };
  const [first] = best.unknown;
  if (!first) return { kind: 'price', ...best.price };
  const fact = first.facts.find((key) => facts[key] === undefined) ?? first.facts[0] ?? 'disks';
  return { kind: 'question', fact, words: `${factTexts[fact].label}?`, then: best.price };
}

function priceOf(input: DecideInput, candidate: Candidate, release: Release): FitPrice {
  const { handsOnMinutes, cost, routeId, waivers, supportedUntil: until } = candidate;
  const { catalogue, facts, today, houseRules } = input;
  const present = findRelease(catalogue, valueOf(facts, 'presentRelease'));
  const lost =
    present === undefined || present.family === release.family
      ? []
      : (valueOf(facts, 'applications') ?? []).flatMap((name) => {
          const entry = findApplication(catalogue.applications, name);
          return entry?.equivalents[release.family] === undefined && entry?.lockedToFamily !== release.family
            ? [`${entry?.name ?? name} lost`]
            : [];
        });
  const daysLeft = supportDaysLeft(release, today);
  const ends = until ?? supportedUntil(release);
  return {
    routeId,
    handsOnMinutes,
    cost,
    givenUp: [
      ...lost,
      ...(waivers.length > 0
        ? [waivers.length === 1 ? '1 check waived' : `${waivers.length} checks waived`]
        : []),
      ...(ends !== null && daysLeft <= houseRules.rates.movesAgainWithinDays
        ? [`moved again in ${ends.slice(0, 4)}`]
        : []),
    ],
  };
}

/** The one thing that is in the way, of the option with the fewest rules against it: what of the hardware falls short, or the rule. */
function obstacleOf(choice: Choice, release: Release, ways: readonly Candidate[]): string {
  const against = (candidate: Candidate) => candidate.reasons.filter(({ finding }) => finding === 'excludes');
  const [nearest] = ways.toSorted((a, b) => against(a).length - against(b).length);
  const reasons = nearest ? against(nearest) : [];
  const reason = reasons.find(({ rule }) => rule !== 'serves-the-wish') ?? reasons[0];
  if (!reason) return 'No route leads there';
  if (reason.rule.startsWith('requirements-')) {
    const failing = choice.assessments
      .find(({ releaseId }) => releaseId === release.id)
      ?.judgements.find(({ verdict }) => verdict === 'fails' || verdict === 'waivable');
    if (failing) return failing.sentence.replace(/\.$/, '');
  }
  const words = ruleInWords(reason.rule);
  return words.charAt(0).toUpperCase() + words.slice(1);
}
