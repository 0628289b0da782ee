import type { Assessment } from '../assess/assess';
import type { Verdict } from '../assess/judgement';
import type { Application, Model, Release } from '../catalogue/catalogue';
import type { HouseRules } from '../rules/houseRules';
import type { StepKind } from '../rules/stepTimes';
import type { FactPatch } from '../survey/patch';
import type { FactKey, Facts } from '../survey/facts';
import type { Purpose, Wish } from './wish';

/** The eleven routes; installing with waived checks is listed three times, once for each route underneath. */
export const routeIds = [
  'in-place-upgrade',
  'clean-whole-disk',
  'clean-system-partition',
  'waived-upgrade',
  'waived-clean',
  'waived-system-partition',
  'patched-install',
  'beside-same-disk',
  'beside-second-disk',
  'alternative-system',
  'replace',
  'stay',
  'hold',
] as const;
export type RouteId = (typeof routeIds)[number];

/** Routes that are no way to a system: they stand beside the ranking, and are never compared with it by points. */
const apart: ReadonlySet<RouteId> = new Set(['stay', 'hold']);

/** Whether an option stands beside the ranking. */
export function isApart({ routeId }: { readonly routeId: RouteId }): boolean {
  return apart.has(routeId);
}

export type RouteContext = {
  readonly facts: Facts;
  /** The scheme that the disk of the move is to be converted to before the route begins. */
  readonly converting: 'gpt' | 'mbr' | undefined;
  readonly model: Model | undefined;
  readonly houseRules: HouseRules;
  /** ISO date. */
  readonly today: string;
  /** The present release, when it is known and in the catalogue. */
  readonly present: Release | undefined;
  /** It is known that no system is on it. */
  readonly isEmpty: boolean;
  /** Why the move is made; undefined where nobody has said. */
  readonly wish: Wish | undefined;
  readonly applications: readonly Application[];
  readonly releases: readonly Release[];
  /** The best verdict among supported releases: of the present family’s newer ones, and of all. */
  readonly outlook: { readonly family: Verdict; readonly any: Verdict };
  readonly target: { readonly release: Release; readonly assessment: Assessment } | undefined;
};

export type RuleFinding = {
  readonly finding: 'allows' | 'excludes' | 'unknown';
  readonly sentence: string;
  readonly howToFind?: string;
  /** The unknown facts, where the rule knows them better than by what it reads. */
  readonly facts?: readonly FactKey[];
};

/** Something that can be done to the device so that a rule no longer excludes. */
export type Remedy = {
  readonly id: string;
  /** As an order: “Free 9.2 GB on the system partition”. */
  readonly action: string;
  readonly handsOnMinutes: number;
  readonly cost: number;
  /** What it makes of the facts. */
  readonly gives: (facts: Facts) => FactPatch;
};

export type RouteRule = {
  readonly id: string;
  readonly reads: readonly FactKey[];
  readonly judge: (context: RouteContext) => RuleFinding;
  /** What could be done about it; asked only where `judge` excludes. */
  readonly remedies?: (context: RouteContext) => readonly Remedy[];
};

export type Reason = RuleFinding & { readonly rule: string; readonly facts: readonly FactKey[] };

export type Consenter = 'owner' | 'organisation';

/** One way from the present system to a target. Adding a route is adding one entry of this shape. */
export type RouteDefinition = {
  readonly id: RouteId;
  readonly title: string;
  readonly about: string;
  readonly hasTarget: boolean;
  /** Whether the target is one of this route at all, before any rule is asked. */
  readonly concerns: (context: RouteContext) => boolean;
  readonly rules: readonly RouteRule[];
  readonly keeps: readonly string[];
  readonly loses: readonly string[];
  readonly cautions: readonly string[];
  /** What is lost, and to be cared for, where no system is on the device. Default: the same. */
  readonly whenEmpty?: { readonly loses: readonly string[]; readonly cautions: readonly string[] };
  readonly steps: readonly StepKind[];
  /** The purposes for which the route is a way. */
  readonly serves: ReadonlySet<Purpose>;
  /** 0 (worst) to 1 (best), for comparing. */
  readonly terms: { readonly dataRisk: number; readonly ownerEffort: number; readonly reversible: number };
  /** The answers of house rules that this route is; see `agreement`. */
  readonly houseRuleProfile: Partial<Pick<HouseRules, 'manner' | 'erase' | 'belowMinimum'>>;
  /** What is written over: of the disk with the present system, or of another one. */
  readonly writesOver: 'whole-disk' | 'system-partition' | 'second-disk' | 'nothing';
  /** Whose written consent is needed before the Line. */
  readonly consent: readonly Consenter[];
  /** How much of the owner’s work then runs on a system with fixes: 1, or less where the old one serves on. */
  readonly supportShare: number;
  /** Money beside fixes and licence, whole units of the house's currency. */
  readonly cost: number;
};

export function allows(sentence: string): RuleFinding {
  return { finding: 'allows', sentence };
}

export function excludes(sentence: string): RuleFinding {
  return { finding: 'excludes', sentence };
}

export function undecided(sentence: string, howToFind: string, facts?: readonly FactKey[]): RuleFinding {
  return { finding: 'unknown', sentence, howToFind, ...(facts && { facts }) };
}

/** The target that a rule about targets was asked for. */
export function targetOf(context: RouteContext): NonNullable<RouteContext['target']> {
  if (!context.target) throw new RangeError('a rule about a target was asked without one');
  return context.target;
}
