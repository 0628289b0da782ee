import type { Release } from '../catalogue/catalogue';
import type { Requirement, RequirementKind } from '../catalogue/requirement';
import type { Facts } from '../survey/facts';
import type { FactPatch } from '../survey/patch';
import {
  worstVerdict,
  type AssessContext,
  type Finding,
  type Fix,
  type Judgement,
  type RequirementRule,
  type Verdict,
} from './judgement';
import { graphics, screen } from './rules/display';
import { firmwareMode, secureBoot, securityChip } from './rules/firmware';
import { memory } from './rules/memory';
import { modelRange } from './rules/modelRange';
import { setupNetwork } from './rules/network';
import { clock, cores, processorFeatures, wordSize } from './rules/processor';
import { systemDiskSize } from './rules/systemDisk';

export type Assessment = {
  readonly releaseId: string;
  /** The judgement that weighs most; see `worstVerdict`. */
  readonly verdict: Verdict;
  readonly judgements: readonly Judgement[];
  /** Sums over the fixable requirements. */
  readonly fixMinutes: number;
  readonly fixCost: number;
};

/** Adding a kind of requirement is adding its entry here. */
const rules: { readonly [K in RequirementKind]: RequirementRule<K> } = {
  'word-size': wordSize,
  cores,
  clock,
  'processor-features': processorFeatures,
  memory,
  'system-disk': systemDiskSize,
  'firmware-mode': firmwareMode,
  'secure-boot': secureBoot,
  tpm: securityChip,
  graphics,
  screen,
  'setup-network': setupNetwork,
  'model-range': modelRange,
};

function judge<K extends RequirementKind>(
  kind: K,
  requirement: Extract<Requirement, { kind: K }>,
  context: AssessContext,
): Judgement {
  const rule: RequirementRule<K> = rules[kind];
  const { verdict, sentence, fix, consequence, howToFind }: Finding = rule.judge(requirement, context);
  const judgement: Judgement = { rule: kind, facts: rule.reads, verdict, sentence };
  if (fix) return consequence === undefined ? { ...judgement, fix } : { ...judgement, fix, consequence };
  if (consequence !== undefined) return { ...judgement, consequence };
  return howToFind === undefined ? judgement : { ...judgement, howToFind };
}

/**
 * Judges a device against a release, requirement by requirement.
 * @example assess(release, { facts, model }).judgements[0].sentence // 'The processor works with 64 bit; 64 are needed.'
 */
export function assess(release: Release, context: AssessContext): Assessment {
  const judgements = release.requirements.map((requirement) => judge(requirement.kind, requirement, context));
  let fixMinutes = 0;
  let fixCost = 0;
  for (const judgement of judgements) {
    fixMinutes += judgement.fix?.handsOnMinutes ?? 0;
    fixCost += judgement.fix?.cost ?? 0;
  }
  return { releaseId: release.id, verdict: worstVerdict(judgements), judgements, fixMinutes, fixCost };
}

/** A fix that a judgement offers, with the facts as they are once it is done; undefined where it offers none. */
export function fixOf(
  judgement: Judgement,
  release: Release,
  context: AssessContext,
): (Fix & { readonly gives: (facts: Facts) => FactPatch }) | undefined {
  const requirement = release.requirements.find(({ kind }) => kind === judgement.rule);
  if (!judgement.fix || !requirement) return undefined;
  const { fix } = judgement;
  return { ...fix, gives: (facts) => patchOf(requirement.kind, requirement, { ...context, facts }) };
}

function patchOf<K extends RequirementKind>(
  kind: K,
  requirement: Extract<Requirement, { kind: K }>,
  context: AssessContext,
): FactPatch {
  const rule: RequirementRule<K> = rules[kind];
  return rule.fix?.(requirement, context) ?? {};
}
