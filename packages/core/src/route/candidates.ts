import { assess, type Assessment } from '../assess/assess';
import type { Catalogue, Release } from '../catalogue/catalogue';
import { findModel, findRelease, releaseTitle, supportDaysLeft, supportedUntil } from '../catalogue/find';
import type { Practice } from '../practice/practice';
import { valueOf, type Facts } from '../survey/facts';
import { routes } from './catalogueOfRoutes';
import {
  routeIds,
  type Reason,
  type RouteContext,
  type RouteDefinition,
  type RouteId,
  type RouteRule,
} from './definition';
import { estimateCandidate, estimateRoute, type Minutes } from './estimate';
import { onScale, pointsOf, scales, type TermValues } from './score';

export type Candidate = {
  readonly routeId: RouteId;
  readonly releaseId: string | null;
  readonly title: string;
  /** `undecided`: nothing excludes it and something unknown stands in its way. */
  readonly status: 'allowed' | 'undecided' | 'excluded';
  readonly reasons: readonly Reason[];
  readonly keeps: readonly string[];
  readonly loses: readonly string[];
  readonly cautions: readonly string[];
  readonly handsOnMinutes: number;
  readonly waitingMinutes: number;
  readonly cost: number;
  /** ISO date; null: no end. */
  readonly supportedUntil: string | null;
  /** 0 to 100; `scoreTerms(values, weights)` shows how they come about. */
  readonly points: number;
  readonly values: TermValues;
};

export type Choice = {
  readonly assessments: readonly Assessment[];
  /** Allowed ones first by points, then undecided, then excluded; hold stands last among the allowed. */
  readonly candidates: readonly Candidate[];
  /** The advised candidate: the best allowed one; hold only where nothing else is allowed. */
  readonly advised: Candidate;
  readonly problems: readonly string[];
};

export type DecideInput = {
  readonly facts: Facts;
  readonly catalogue: Catalogue;
  readonly practice: Practice;
  /** ISO date. */
  readonly today: string;
};

/**
 * Assesses a device against the whole catalogue and lists every route with its reasons.
 * Pure; the same input gives the same order.
 */
export function decide({ facts, catalogue, practice, today }: DecideInput): Choice {
  const found = findModel(
    catalogue,
    valueOf(facts, 'maker'),
    valueOf(facts, 'model'),
    valueOf(facts, 'year'),
  );
  const present = findRelease(catalogue, valueOf(facts, 'presentRelease'));
  const base = { facts, model: found.model, practice, today, present, applications: catalogue.applications };
  const assessments = catalogue.releases.map((release) => assess(release, base));
  const candidates: Candidate[] = [];
  const targets = catalogue.releases.map((release, index) => targetOf(base, release, assessments[index]));
  for (const id of routeIds) {
    const route = routes[id];
    const minutes = estimateRoute(route, facts);
    if (!route.hasTarget)
      candidates.push(
        candidateOf(route, minutes, {
          context: { ...base, target: undefined },
          asked: [],
          ...supportOf(present, today),
        }),
      );
    else
      for (const target of targets)
        if (route.concerns(target.release, present)) candidates.push(candidateOf(route, minutes, target));
  }
  candidates.sort(byAdvice);
  const [advised] = candidates;
  if (!advised) throw new RangeError('hold is always a candidate');
  return { assessments, candidates, advised, problems: ambiguityOf(found.ambiguous) };
}

/** A target with the answers of the rules that have been asked about it: routes share most rules. */
type Target = {
  readonly context: RouteContext;
  readonly asked: { readonly rule: RouteRule; readonly reason: Reason }[];
  /** What support is counted by: the target's release, or the present one where nothing is installed. */
  readonly supportDays: number;
  readonly supportedUntil: string | null;
};

function supportOf(
  release: Release | undefined,
  today: string,
): Pick<Target, 'supportDays' | 'supportedUntil'> {
  return release
    ? { supportDays: supportDaysLeft(release, today), supportedUntil: supportedUntil(release) }
    : { supportDays: 0, supportedUntil: null };
}

function targetOf(
  base: Omit<RouteContext, 'target'>,
  release: Release,
  assessment: Assessment | undefined,
): Target & { readonly release: Release } {
  if (!assessment) throw new RangeError('every release is assessed');
  return {
    release,
    // Field by field: this runs for every release of every device.
    context: {
      facts: base.facts,
      model: base.model,
      practice: base.practice,
      today: base.today,
      present: base.present,
      applications: base.applications,
      target: { release, assessment },
    },
    asked: [],
    ...supportOf(release, base.today),
  };
}

function ask(rule: RouteRule, { context, asked }: Target): Reason {
  // A dozen entries at most: looking along them is quicker than a map.
  for (const known of asked) if (known.rule === rule) return known.reason;
  const { finding, sentence, howToFind } = rule.judge(context);
  const reason: Reason =
    howToFind === undefined
      ? { rule: rule.id, facts: rule.reads, finding, sentence }
      : { rule: rule.id, facts: rule.reads, finding, sentence, howToFind };
  asked.push({ rule, reason });
  return reason;
}

function ambiguityOf(models: readonly { readonly id: string }[]): readonly string[] {
  return models.length === 0
    ? []
    : [
        `The maker, model and year fit ${models.length} entries of the model table (${models.map(({ id }) => id).join(', ')}): type the year, or mend the table.`,
      ];
}

function candidateOf(route: RouteDefinition, base: Minutes, target: Target): Candidate {
  const { context } = target;
  const release = context.target?.release;
  const reasons = route.rules.map((rule) => ask(rule, target));
  const { handsOnMinutes, waitingMinutes } = estimateCandidate(
    base,
    route,
    release,
    context.target?.assessment.fixMinutes ?? 0,
  );
  const cost = context.target?.assessment.fixCost ?? 0;
  const values: TermValues = {
    dataRisk: route.terms.dataRisk,
    ownerEffort: route.terms.ownerEffort,
    reversible: route.terms.reversible,
    handsOn: onScale(handsOnMinutes, scales.handsOnMinutes),
    elapsed: onScale(handsOnMinutes + waitingMinutes, scales.elapsedMinutes),
    money: onScale(cost, scales.money),
    support: 1 - onScale(target.supportDays, scales.supportDays),
  };
  return {
    routeId: route.id,
    releaseId: release?.id ?? null,
    title: release ? `${route.title} to ${releaseTitle(release)}` : route.title,
    status: statusOf(reasons),
    reasons,
    keeps: route.keeps,
    loses: route.loses,
    cautions: route.cautions,
    handsOnMinutes,
    waitingMinutes,
    cost,
    supportedUntil: target.supportedUntil,
    points: pointsOf(values, context.practice.weights),
    values,
  };
}

function statusOf(reasons: readonly Reason[]): Candidate['status'] {
  if (reasons.some(({ finding }) => finding === 'excludes')) return 'excluded';
  return reasons.some(({ finding }) => finding === 'unknown') ? 'undecided' : 'allowed';
}

const statusOrder = { allowed: 0, undecided: 1, excluded: 2 } as const;

function byAdvice(a: Candidate, b: Candidate): number {
  return (
    statusOrder[a.status] - statusOrder[b.status] ||
    Number(a.routeId === 'hold') - Number(b.routeId === 'hold') ||
    b.points - a.points ||
    (a.title < b.title ? -1 : a.title > b.title ? 1 : 0)
  );
}
