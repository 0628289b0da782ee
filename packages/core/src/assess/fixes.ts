import { byText } from '../quantity/order';
import type { Assessment } from './assess';
import type { Fix, Part, Verdict } from './judgement';

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
    const needed = judgements.filter((judgement) => judgement.fix !== undefined);
    const alone = new Set(needed.map(({ fix }) => fix?.id)).size === 1;
    for (const { fix } of needed) {
      if (!fix) continue;
      const entry = fixes.get(fix.id) ?? { fix, unlocks: [], helps: [] };
      fixes.set(fix.id, entry);
      const list = alone ? entry.unlocks : entry.helps;
      if (!list.includes(releaseId)) list.push(releaseId);
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

const better: Record<Verdict, number> = { meets: 0, fixable: 1, waivable: 2, unknown: 3, fails: 4 };

/** The verdict that is nearest to a yes; fails where there is none. */
export function bestVerdict(list: readonly Verdict[]): Verdict {
  return list.reduce<Verdict>((best, verdict) => (better[verdict] < better[best] ? verdict : best), 'fails');
}
