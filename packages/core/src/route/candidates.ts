import { assess, type Assessment } from '../assess/assess';
import type { Catalogue, Release } from '../catalogue/catalogue';
import { findModel, findRelease, releaseTitle, supportDaysLeft, supportedUntil } from '../catalogue/find';
import type { Practice } from '../practice/practice';
import { valueOf, type Facts } from '../survey/facts';
import { routes } from './catalogueOfRoutes';
import { routeIds, type Reason, type RouteContext, type RouteDefinition, type RouteId } from './definition';
import { estimateMinutes } from './estimate';
import { onScale, scales, scoreOf, type ScoreTerm } from './score';

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
  readonly points: number;
  readonly terms: readonly ScoreTerm[];
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
  for (const id of routeIds) {
    const route = routes[id];
    if (!route.hasTarget) candidates.push(candidateOf(route, { ...base, target: undefined }));
    for (const [index, release] of catalogue.releases.entries()) {
      const assessment = assessments[index];
      if (assessment && route.hasTarget && route.concerns(release, present))
        candidates.push(candidateOf(route, { ...base, target: { release, assessment } }));
    }
  }
  candidates.sort(byAdvice);
  const [advised] = candidates;
  if (!advised) throw new RangeError('hold is always a candidate');
  return { assessments, candidates, advised, problems: ambiguityOf(found.ambiguous) };
}

function ambiguityOf(models: readonly { readonly id: string }[]): readonly string[] {
  return models.length === 0
    ? []
    : [
        `The maker, model and year fit ${models.length} entries of the model table (${models.map(({ id }) => id).join(', ')}): type the year, or mend the table.`,
      ];
}

function candidateOf(route: RouteDefinition, context: RouteContext): Candidate {
  const { target, present, facts } = context;
  const reasons = route.rules.map((rule): Reason => ({
    rule: rule.id,
    facts: rule.reads,
    ...rule.judge(context),
  }));
  const release = target?.release;
  const minutes = estimateMinutes(route, facts, release, target?.assessment.fixMinutes ?? 0);
  const cost = target?.assessment.fixCost ?? 0;
  const supportFrom: Release | undefined = release ?? present;
  const { points, terms } = scoreOf(
    {
      ...route.terms,
      handsOn: onScale(minutes.handsOnMinutes, scales.handsOnMinutes),
      elapsed: onScale(minutes.handsOnMinutes + minutes.waitingMinutes, scales.elapsedMinutes),
      money: onScale(cost, scales.money),
      support: supportFrom ? 1 - onScale(supportDaysLeft(supportFrom, context.today), scales.supportDays) : 0,
    },
    context.practice.weights,
  );
  return {
    routeId: route.id,
    releaseId: release?.id ?? null,
    title: release ? `${route.title} to ${releaseTitle(release)}` : route.title,
    status: statusOf(reasons),
    reasons,
    keeps: route.keeps,
    loses: route.loses,
    cautions: route.cautions,
    ...minutes,
    cost,
    supportedUntil: supportFrom ? supportedUntil(supportFrom) : null,
    points,
    terms,
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
    a.title.localeCompare(b.title, 'en')
  );
}
