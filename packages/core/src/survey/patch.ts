import type { FactKey, Facts, FactValue } from './facts';

/** New values for some facts. */
export type FactPatch = { readonly [K in FactKey]?: FactValue<K> };

/**
 * The facts as they would be with some values changed: for asking “what if”. Never stored: what is
 * patched in says `typed` and keeps the time of the fact that it takes the place of.
 */
export function withFacts(facts: Facts, patch: FactPatch): Facts {
  const next: Record<string, unknown> = { ...facts };
  for (const [key, value] of Object.entries(patch)) {
    const known = Object.entries(facts).find(([name]) => name === key)?.[1];
    next[key] = { value, source: 'typed', at: known?.at ?? '1970-01-01T00:00:00.000Z' };
  }
  // Every key carries a value of its own type: the patch's type says so.
  return next as Facts;
}
