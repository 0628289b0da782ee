import type { Drive, MediumContent } from '@ulvane/core/backup';

/** Modes as they are said on a label. */
export const modeWords: Readonly<Record<MediumContent['mode'], string>> = {
  uefi: 'UEFI',
  legacy: 'legacy',
  both: 'UEFI and legacy',
};

/** Mode and table of an installer. @example startWords(content) // 'UEFI, GPT' */
export function startWords({ mode, scheme }: Pick<MediumContent, 'mode' | 'scheme'>): string {
  return `${modeWords[mode]}${scheme === 'none' ? '' : `, ${scheme.toUpperCase()}`}`;
}

type Grade = {
  readonly mark: 'compared' | 'sampled' | 'stated' | 'differs' | 'measured' | 'planned';
  readonly words: string;
};

/** How it is known what is on a medium. */
export function gradeOfMedium({ holds, seenOn }: Pick<Drive, 'holds' | 'seenOn'>): Grade {
  if (seenOn === null) return { mark: 'planned', words: 'not looked at' };
  if (holds.length === 0) return { mark: 'measured', words: 'empty' };
  const grade = gradeOfContent(weakest(holds));
  const alike = holds.filter((content) => gradeOfContent(content).mark === grade.mark).length;
  return alike === holds.length ? grade : { ...grade, words: `${alike} of ${holds.length} ${grade.words}` };
}

const order = ['differs', null, 'sampled', 'compared'] as const;

/** Of several installers the one that is known the least of. */
function weakest(holds: readonly MediumContent[]): Pick<MediumContent, 'check'> {
  const [first] = holds.toSorted(
    (a, b) => order.indexOf(a.check?.result ?? null) - order.indexOf(b.check?.result ?? null),
  );
  return first ?? { check: null };
}

export function gradeOfContent({ check }: Pick<MediumContent, 'check'>): Grade {
  switch (check?.result) {
    case 'compared':
      return { mark: 'compared', words: 'compared' };
    case 'sampled':
      return { mark: 'sampled', words: 'sampled' };
    case 'differs':
      return { mark: 'differs', words: 'differs: do not use' };
    case undefined:
      return { mark: 'stated', words: 'not compared' };
  }
}

/** Bytes in use: what its installers take, and what else is on it. */
export function usedBytes({ holds, otherBytes }: Pick<Drive, 'holds' | 'otherBytes'>): number {
  return otherBytes + holds.reduce((sum, { bytes }) => sum + bytes, 0);
}
