import { byText } from '../quantity/order';
import type { Assessment } from './assess';
import type { Fix, Part } from './judgement';

type RankedFix = Fix & {
  /** Releases that accept the device once this is done and nothing else. */
  readonly unlocks: readonly string[];
  /** Releases for which it is needed together with other fixes. */
  readonly helps: readonly string[];
};

/**
 * The fixes that a device could have, the one that unlocks most first, then the quicker and cheaper.
 * Assessments of releases that do not matter (no longer supported, say) are left out by the caller.
 */
export function rankFixes(assessments: readonly Assessment[]): readonly RankedFix[] {
  const fixes = new Map<string, { fix: Fix; unlocks: string[]; helps: string[] }>();
  for (const { releaseId, verdict, judgements } of assessments) {
    if (verdict !== 'fixable') continue;
    // Two requirements may ask for the same.
    const needed = new Map(judgements.flatMap(({ fix }) => (fix ? [[fix.id, fix] as const] : [])));
    for (const fix of needed.values()) {
      const entry = fixes.get(fix.id) ?? { fix, unlocks: [], helps: [] };
      fixes.set(fix.id, entry);
      (needed.size === 1 ? entry.unlocks : entry.helps).push(releaseId);
    }
  }
  return [...fixes.values()]
    .map(({ fix, unlocks, helps }) => ({ ...fix, unlocks, helps }))
    .sort(
      (a, b) =>
        b.unlocks.length - a.unlocks.length ||
        b.helps.length - a.helps.length ||
        a.cost - b.cost ||
        a.handsOnMinutes - b.handsOnMinutes ||
        byText(a.id, b.id),
    );
}

const binary = 1024 ** 3;

/** A part as it is asked for in a shop. @example partTitle({ kind: 'memory', sizeBytes: 8 * 1024 ** 3 }) // '8 GB memory module' */
export function partTitle(part: Part): string {
  switch (part.kind) {
    case 'memory':
      return `${Math.ceil(part.sizeBytes / binary)} GB memory module`;
    case 'solid-state disk':
      return `solid-state disk of ${Math.ceil(part.sizeBytes / 1e9)} GB or more`;
    case 'network adapter':
      return 'USB network adapter';
  }
}
