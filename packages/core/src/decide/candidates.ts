import { upkeepValue } from '../rules/upkeep';
import { byText } from '../quantity/order';
import type { Assessment } from '../assess/assess';
import { assessed } from '../assess/assessed';
import { bestVerdict } from '../assess/judgement';
import type { Verdict } from '../assess/judgement';
import type { RequirementKind } from '../catalogue/requirement';
import type { Release } from '../catalogue/catalogue';
import { findModel, findRelease, releaseTitle, supportDaysLeft, supportedUntil } from '../catalogue/find';
import { contradictionsOf, undisputedFacts } from '../survey/contradictions';
import { withImplied } from '../survey/emptyDevice';
import { isEmptyDevice, valueOf, type Facts } from '../survey/facts';
import { routes } from '../route/catalogueOfRoutes';
import {
  excludes,
  isApart,
  routeIds,
  type Reason,
  type RouteContext,
  type RouteDefinition,
  type RouteId,
  type RouteRule,
} from '../route/definition';
import { purposeTexts } from '../route/wish';
import { withAssumed } from './assumed';
import { nothing, planCounter, type PlanCount } from './count';
import { convertingOf, deviceGiven, soFarOf, wayInput, type DecideInput } from './input';
import { agreement, onScale, pointsOf, scales, type TermValues } from './score';

/** A check that the installer would be told to skip, and what that costs. */
export type Waiver = {
  readonly rule: RequirementKind;
  readonly sentence: string;
  readonly consequence: string;
};

export type Candidate = {
  readonly routeId: RouteId;
  readonly releaseId: string | null;
  readonly title: string;
  /** `undecided`: nothing excludes it and something unknown is in its way. */
  readonly status: 'allowed' | 'undecided' | 'excluded';
  readonly reasons: readonly Reason[];
  /** Each has to be waived by itself before the route is taken. */
  readonly waivers: readonly Waiver[];
  /** Each may be waived instead of being fixed. */
  readonly mayWaive: readonly Waiver[];
  readonly keeps: readonly string[];
  readonly loses: readonly string[];
  readonly cautions: readonly string[];
  /** Likely minutes and money of the steps that its plan holds. One that is excluded has no plan, and counts nothing. */
  readonly handsOnMinutes: number;
  readonly waitingMinutes: number;
  readonly cost: number;
  /** ISO date; null: no end. */
  readonly supportedUntil: string | null;
  /** 0 to 100; `scoreTerms(values, weights)` shows how they come about. */
  readonly points: number;
  /** Advised whatever the points: nothing has to be done, and nothing else is wanted. */
  readonly leads: boolean;
  readonly values: TermValues;
};

export type Choice = {
  readonly assessments: readonly Assessment[];
  /** Allowed ones first by points, then undecided, then excluded; staying and holding stand last among the allowed, unless nothing else is wanted. */
  readonly candidates: readonly Candidate[];
  /** The first of them: to stay where nothing else is wanted, else the best that is allowed. One that is not allowed only where nothing is. */
  readonly advised: Candidate;
  readonly outlook: RouteContext['outlook'];
  readonly problems: readonly string[];
};

/**
 * Assesses a device against the whole catalogue and lists every route with its reasons. Facts that
 * contradict each other count as unknown, and are named among the problems.
 * Pure; the same input gives the same order.
 */
export function decide(input: DecideInput): Choice {
  const { targets, base, problems, count } = standOf(input);
  const candidates: Candidate[] = [];
  for (const id of routeIds) {
    const route = routes[id];
    if (!route.hasTarget) candidates.push(candidateOf(route, count, withoutTarget(base, route)));
    else
      for (const target of targets)
        if (route.concerns(target.context)) candidates.push(candidateOf(route, count, target));
  }
  candidates.sort(byAdvice);
  const [advised] = candidates;
  if (!advised) throw new RangeError('hold is always a candidate');
  return {
    assessments: targets.map(({ assessment }) => assessment),
    candidates,
    advised,
    outlook: base.outlook,
    problems,
  };
}

/** One candidate by itself; undefined where the route does not lead to the release. */
export function candidateFor(
  input: DecideInput,
  { routeId, releaseId }: Pick<Candidate, 'routeId' | 'releaseId'>,
): Candidate | undefined {
  const { targets, base, count } = standOf(input);
  const route = routes[routeId];
  const target = route.hasTarget
    ? targets.find(({ release }) => release.id === releaseId)
    : withoutTarget(base, route);
  if (!target || (route.hasTarget && !route.concerns(target.context))) return undefined;
  return candidateOf(route, count, target);
}

/** What the rules of a candidate are asked with; undefined where there is no such candidate. */
export function contextFor(
  input: DecideInput,
  { routeId, releaseId }: Pick<Candidate, 'routeId' | 'releaseId'>,
): RouteContext | undefined {
  const { targets, base } = standOf(input);
  return routes[routeId].hasTarget
    ? targets.find(({ release }) => release.id === releaseId)?.context
    : { ...base, target: undefined };
}

type Base = Omit<RouteContext, 'target'>;

/** A target with the answers of the rules that have been asked about it: routes share most rules. */
type Target = {
  readonly context: RouteContext;
  /** Checks that an installer can be told to skip, once a route asks for them. */
  skipped?: Skipped;
  /** By the rule's number. */
  readonly asked: (Reason | undefined)[];
  /** What support is counted by: the target's release, or the present one where nothing is installed. */
  readonly supportDays: number;
  readonly supportedUntil: string | null;
};

type ReleaseTarget = Target & { readonly release: Release; readonly assessment: Assessment };

/** What a way comes to, by the steps of its plan. */
type CountWay = (
  route: RouteDefinition,
  release: Release | undefined,
  waivers: readonly Waiver[],
) => PlanCount;

/** Counts ways of a device; one that was chosen counts with the medium that was chosen for it. */
function wayCounter(input: DecideInput, facts: Facts): CountWay {
  const device = withAssumed(deviceGiven(input, facts));
  const count = planCounter();
  const { decision } = soFarOf(input);
  return (route, release, waivers) => {
    const isChosen = decision?.routeId === route.id && decision.releaseId === (release?.id ?? null);
    return (isChosen ? planCounter() : count)(
      wayInput(device, {
        route,
        release,
        bringing: isChosen ? decision.bringing : 'stick',
        waivers: isChosen ? decision.waivers : waivers.map(({ rule }) => rule),
        ...(isChosen && { disk: decision.disk ?? null, room: decision.room ?? null }),
      }),
    );
  };
}

function standOf(input: DecideInput): {
  readonly base: Base;
  readonly targets: readonly ReleaseTarget[];
  readonly problems: readonly string[];
  readonly count: CountWay;
} {
  const { facts: given, catalogue, houseRules, today } = input;
  const contradictions = contradictionsOf(given, catalogue);
  const facts = withImplied(undisputedFacts(given, contradictions));
  const found = findModel(
    catalogue,
    valueOf(facts, 'maker'),
    valueOf(facts, 'model'),
    valueOf(facts, 'year'),
  );
  const present = findRelease(catalogue, valueOf(facts, 'presentRelease'));
  const device = { facts, model: found.model };
  const assessments = catalogue.releases.map((release) => assessed(release, device));
  const { applications, releases } = catalogue;
  const outlook = outlookOf(releases, assessments, present, today);
  const base: Base = {
    ...device,
    houseRules,
    today,
    present,
    isEmpty: isEmptyDevice(facts),
    wish: input.wish ?? undefined,
    applications,
    releases,
    outlook,
    converting: convertingOf(input),
  };
  return {
    base,
    count: wayCounter(input, facts),
    targets: releases.map((release, index) => targetOf(base, release, assessments[index])),
    problems: [
      ...contradictions.map(({ sentence }) => `${sentence} Until then both count as unknown.`),
      ...ambiguityOf(found.ambiguous),
    ],
  };
}

function outlookOf(
  releases: readonly Release[],
  assessments: readonly Assessment[],
  present: Release | undefined,
  today: string,
): Base['outlook'] {
  const any: Verdict[] = [];
  const newer: Verdict[] = [];
  const own: Verdict[] = [];
  for (const [index, release] of releases.entries()) {
    const verdict = assessments[index]?.verdict;
    if (verdict === undefined || supportDaysLeft(release, today) < 0) continue;
    any.push(verdict);
    if (present && release.family !== present.family) continue;
    own.push(verdict);
    if (!present || release.version > present.version) newer.push(verdict);
  }
  // What the device runs already says nothing of what it could become.
  return { family: bestVerdict(newer.length > 0 ? newer : own), any: bestVerdict(any) };
}

function withoutTarget(base: Base, route: RouteDefinition): Target {
  return {
    context: { ...base, target: undefined },
    asked: [],
    // A new device comes with a system of its own, at the full length of support.
    ...(route.id === 'replace'
      ? { supportDays: scales.supportDays, supportedUntil: null }
      : supportOf(base.present, base.today)),
  };
}

function supportOf(
  release: Release | undefined,
  today: string,
): Pick<Target, 'supportDays' | 'supportedUntil'> {
  return release
    ? { supportDays: supportDaysLeft(release, today), supportedUntil: supportedUntil(release) }
    : { supportDays: 0, supportedUntil: null };
}

function targetOf(base: Base, release: Release, assessment: Assessment | undefined): ReleaseTarget {
  if (!assessment) throw new RangeError('every release is assessed');
  return {
    release,
    assessment,
    // Field by field: this runs for every release of every device.
    context: {
      facts: base.facts,
      model: base.model,
      houseRules: base.houseRules,
      today: base.today,
      present: base.present,
      isEmpty: base.isEmpty,
      wish: base.wish,
      applications: base.applications,
      releases: base.releases,
      outlook: base.outlook,
      converting: base.converting,
      target: { release, assessment },
    },
    asked: [],
    ...supportOf(release, base.today),
  };
}

/** Every rule once: routes share most of them, and each is asked once about a target. */
const rulesOfRoutes = [...new Set(routeIds.flatMap((id) => routes[id].rules))];

/** The rules of each route, with their numbers. */
const numbered = new Map(
  routeIds.map((id) => [id, routes[id].rules.map((rule) => ({ rule, at: rulesOfRoutes.indexOf(rule) }))]),
);

/** What each rule of a route says about a target, behind what the wish says. */
function reasonsOf(route: RouteDefinition, target: Target): readonly Reason[] {
  const reasons = wishReason(route, target.context);
  for (const { rule, at } of numbered.get(route.id) ?? [])
    reasons.push((target.asked[at] ??= reasonOf(rule, target.context)));
  return reasons;
}

function reasonOf(rule: RouteRule, context: RouteContext): Reason {
  const { finding, sentence, howToFind, facts = rule.reads } = rule.judge(context);
  return howToFind === undefined
    ? { rule: rule.id, facts, finding, sentence }
    : { rule: rule.id, facts, finding, sentence, howToFind };
}

function ambiguityOf(models: readonly { readonly id: string }[]): readonly string[] {
  return models.length === 0
    ? []
    : [
        `The maker, model and year fit ${models.length} entries of the model table (${models.map(({ id }) => id).join(', ')}): type the year, or correct the table.`,
      ];
}

/** The checks that the installer can be told to skip: those that nothing else mends, and those that could be mended. */
type Skipped = Readonly<Record<'waivable' | 'fixable', readonly Waiver[]>>;

const nothingSkipped: Skipped = { waivable: [], fixable: [] };

/** What is skipped where the route is one of skipping. */
function skippedOn(route: RouteDefinition, target: Target): Skipped {
  const assessment = target.context.target?.assessment;
  if (route.houseRuleProfile.belowMinimum !== 'waive' || !assessment) return nothingSkipped;
  const of = (wanted: Verdict) =>
    assessment.judgements.flatMap(({ rule, verdict, sentence, consequence }) =>
      verdict === wanted && consequence !== undefined ? [{ rule, sentence, consequence }] : [],
    );
  return (target.skipped ??= { waivable: of('waivable'), fixable: of('fixable') });
}

function candidateOf(route: RouteDefinition, count: CountWay, target: Target): Candidate {
  const { context } = target;
  const release = context.target?.release;
  const reasons = reasonsOf(route, target);
  const { waivable: waivers, fixable: mayWaive } = skippedOn(route, target);
  const status = statusOf(reasons);
  const counted = status === 'excluded' ? nothing : count(route, release, waivers);
  const { handsOnMinutes, waitingMinutes } = counted;
  const cost = route.cost + counted.cost;
  const { houseRules, outlook } = context;
  const given = (context.isEmpty ? route.whenEmpty : undefined) ?? route;
  const values: TermValues = {
    dataRisk: route.terms.dataRisk,
    ownerEffort: route.terms.ownerEffort,
    reversible: route.terms.reversible,
    handsOn: onScale(handsOnMinutes, scales.handsOnMinutes),
    elapsed: onScale(handsOnMinutes + waitingMinutes, scales.elapsedMinutes),
    money: onScale(cost, scales.money),
    support: (1 - onScale(target.supportDays, scales.supportDays)) * route.supportShare,
    upkeep: upkeepValue((release ?? context.present)?.upkeep ?? 'easy', houseRules.looksAfter),
    house: agreement(
      route.houseRuleProfile,
      houseRules,
      outlook.family === 'waivable' || outlook.family === 'fails',
    ),
  };
  return {
    routeId: route.id,
    releaseId: release?.id ?? null,
    title: release ? `${route.title} to ${releaseTitle(release)}` : route.title,
    status,
    reasons,
    waivers,
    mayWaive,
    keeps: route.keeps,
    loses: given.loses,
    cautions: given.cautions,
    handsOnMinutes,
    waitingMinutes,
    cost,
    supportedUntil: target.supportedUntil,
    points: pointsOf(values, houseRules.weights),
    leads: route.id === 'stay' && status === 'allowed' && context.wish === undefined,
    values,
  };
}

/** A wish that the route does not serve excludes it; one that it serves needs no words. */
function wishReason({ serves }: RouteDefinition, { wish }: RouteContext): Reason[] {
  return wish === undefined || serves.has(wish.purpose)
    ? []
    : [{ rule: 'serves-the-wish', facts: [], ...excludes(purposeTexts[wish.purpose].refuses) }];
}

function statusOf(reasons: readonly Reason[]): Candidate['status'] {
  let unknown = false;
  for (const { finding } of reasons) {
    if (finding === 'excludes') return 'excluded';
    if (finding === 'unknown') unknown = true;
  }
  return unknown ? 'undecided' : 'allowed';
}

const statusOrder = { allowed: 0, undecided: 1, excluded: 2 } as const;

/** What comes before points. */
function standing(one: Pick<Candidate, 'status' | 'routeId' | 'leads'>): number {
  return one.leads ? -1 : statusOrder[one.status] * 2 + (isApart(one) ? 1 : 0);
}

/** The order of advice: what is allowed by points, what stands apart behind it; equal points by title. */
export function byAdvice(
  a: Pick<Candidate, 'status' | 'routeId' | 'points' | 'title' | 'leads'>,
  b: Pick<Candidate, 'status' | 'routeId' | 'points' | 'title' | 'leads'>,
): number {
  return standing(a) - standing(b) || b.points - a.points || byText(a.title, b.title);
}
