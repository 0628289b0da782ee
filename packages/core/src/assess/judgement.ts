import type { Model } from '../catalogue/catalogue';
import type { Requirement, RequirementKind } from '../catalogue/requirement';
import type { FactPatch } from '../survey/patch';
import type { FactKey, Facts } from '../survey/facts';

/** From a plain yes to a plain no. */
export const verdicts = ['meets', 'fixable', 'waivable', 'unknown', 'fails'] as const;

/** `unknown` stands beside the others: it neither allows nor excludes. */
export type Verdict = (typeof verdicts)[number];

const distance = (verdict: Verdict) => verdicts.indexOf(verdict);

/**
 * One known failure decides, whatever else is unknown; one unknown keeps the rest from being a yes.
 * @example worstVerdict([{ verdict: 'meets' }, { verdict: 'unknown' }]) // 'unknown'
 */
export function worstVerdict(judgements: readonly { readonly verdict: Verdict }[]): Verdict {
  return verdicts[Math.max(0, ...judgements.map(({ verdict }) => distance(verdict)))] ?? 'fails';
}

/** The verdict that is nearest to a yes; fails where there is none. */
export function bestVerdict(list: readonly Verdict[]): Verdict {
  return verdicts[Math.min(verdicts.length - 1, ...list.map(distance))] ?? 'fails';
}

/** A part to buy; the same part for several devices is one line of the shopping list. */
export type Part =
  | { readonly kind: 'memory' | 'solid-state disk'; readonly sizeBytes: number }
  | { readonly kind: 'network adapter' };

export type Fix = {
  /** The same for the same fix on other requirements and devices. */
  readonly id: string;
  readonly action: string;
  readonly handsOnMinutes: number;
  /** Money in whole units of the house's currency; 0 when it costs only time. */
  readonly cost: number;
  readonly part?: Part;
};

export type Judgement = {
  readonly rule: RequirementKind;
  readonly verdict: Verdict;
  readonly facts: readonly FactKey[];
  readonly sentence: string;
  /** With `fixable`: what to do. */
  readonly fix?: Fix;
  /** With `waivable`, and with `fixable` where the check may be skipped instead: what skipping it costs. */
  readonly consequence?: string;
  /** With `unknown`: the shortest way to find out. */
  readonly howToFind?: string;
};

export type AssessContext = { readonly facts: Facts; readonly model: Model | undefined };

/** What a rule finds, before the rule's id and facts are added. */
export type Finding = Omit<Judgement, 'rule' | 'facts'>;

export type RequirementOf<K extends RequirementKind> = Extract<Requirement, { kind: K }>;

/** One kind of requirement: the facts that it reads and how it judges them. */
export type RequirementRule<K extends RequirementKind> = {
  readonly kind: K;
  readonly reads: readonly FactKey[];
  readonly judge: (requirement: RequirementOf<K>, context: AssessContext) => Finding;
  /** What the facts are once the fix has been done; asked only where `judge` offers one. */
  readonly fix?: (requirement: RequirementOf<K>, context: AssessContext) => FactPatch;
};

export function meets(sentence: string): Finding {
  return { verdict: 'meets', sentence };
}

/** Too little, and to be fixed; where the release says so the check may be skipped instead. */
export function fixable(sentence: string, fix: Fix, requirement: { readonly waiver?: string } = {}): Finding {
  const { waiver } = requirement;
  return { verdict: 'fixable', sentence, fix, ...(waiver === undefined ? {} : { consequence: waiver }) };
}

/** Below the requirement and not to be fixed: waivable where the release says so, else a failure. */
export function short(sentence: string, requirement: { readonly waiver?: string }): Finding {
  return requirement.waiver === undefined
    ? { verdict: 'fails', sentence }
    : { verdict: 'waivable', sentence, consequence: requirement.waiver };
}
