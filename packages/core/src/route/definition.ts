import type { Assessment } from '../assess/assess';
import type { Application, Model, Release } from '../catalogue/catalogue';
import type { Practice } from '../practice/practice';
import type { StepKind } from '../practice/stepTimes';
import type { FactKey, Facts } from '../survey/facts';

export const routeIds = [
  'in-place-upgrade',
  'clean-whole-disk',
  'clean-system-partition',
  'alternative-system',
  'hold',
] as const;
export type RouteId = (typeof routeIds)[number];

export type RouteContext = {
  readonly facts: Facts;
  readonly model: Model | undefined;
  readonly practice: Practice;
  /** ISO date. */
  readonly today: string;
  /** The present release, when it is known and in the catalogue. */
  readonly present: Release | undefined;
  readonly applications: readonly Application[];
  readonly target: { readonly release: Release; readonly assessment: Assessment } | undefined;
};

export type RuleFinding = {
  readonly finding: 'allows' | 'excludes' | 'unknown';
  readonly sentence: string;
  readonly howToFind?: string;
};

export type RouteRule = {
  readonly id: string;
  readonly reads: readonly FactKey[];
  readonly judge: (context: RouteContext) => RuleFinding;
};

export type Reason = RuleFinding & { readonly rule: string; readonly facts: readonly FactKey[] };

/** One way from the present system to a target. Adding a route is adding one entry of this shape. */
export type RouteDefinition = {
  readonly id: RouteId;
  readonly title: string;
  readonly about: string;
  readonly hasTarget: boolean;
  /** Whether a release is a target of this route at all, before any rule is asked. */
  readonly concerns: (release: Release, present: Release | undefined) => boolean;
  readonly rules: readonly RouteRule[];
  readonly keeps: readonly string[];
  readonly loses: readonly string[];
  readonly cautions: readonly string[];
  readonly steps: readonly StepKind[];
  /** 0 (worst) to 1 (best), for comparing. */
  readonly terms: { readonly dataRisk: number; readonly ownerEffort: number; readonly reversible: number };
  /** Which partitions the route writes over. */
  readonly writesOver: 'whole-disk' | 'system-partition' | 'nothing';
};

export function allows(sentence: string): RuleFinding {
  return { finding: 'allows', sentence };
}

export function excludes(sentence: string): RuleFinding {
  return { finding: 'excludes', sentence };
}

export function undecided(sentence: string, howToFind: string): RuleFinding {
  return { finding: 'unknown', sentence, howToFind };
}
