import type { Release } from '../catalogue/catalogue';
import { assess, type Assessment } from './assess';
import type { AssessContext } from './judgement';

type Known = AssessContext & { readonly byRelease: Map<Release, Assessment> };

let known: Known | undefined;

/** As `assess`, and remembered for the device that was asked about last: a decision and the plans of its options ask the same. */
export function assessed(release: Release, context: AssessContext): Assessment {
  const { facts, model } = context;
  if (known?.facts !== facts || known.model !== model) known = { facts, model, byRelease: new Map() };
  const before = known.byRelease.get(release);
  if (before) return before;
  const assessment = assess(release, context);
  known.byRelease.set(release, assessment);
  return assessment;
}
