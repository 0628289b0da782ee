import type { Candidate } from './candidates';

/** Why a rule excludes, short enough for a line that sums up many options: “because …”. */
const because: Readonly<Record<string, string>> = {
  'serves-the-wish': 'something else is wanted',
  'applications-have-equivalents': 'an application has no equivalent',
  'work-can-move': 'the work cannot move',
  'room-beside': 'there is no room beside',
  'scheme-agrees': 'the table does not suit',
  'entry-free': 'no entry of the table is free',
  'second-disk-there': 'no second disk is free',
  'enough-free-space': 'too little space is free',
  'disk-sound': 'the disk is failing',
  'scheme-suits': 'the table does not suit',
  'data-apart': 'no partition holds only data',
  'licence-fits': 'no licence fits',
  'network-driver': 'no driver is known for its network',
  'requirements-met': 'the hardware is not enough',
  'requirements-met-or-waived': 'the hardware is not enough',
  'requirements-beside-the-model': 'the hardware is not enough',
  'still-supported': 'updates have ended',
  'not-older': 'it is older than the present system',
  'not-for-itself': 'it runs already, with updates',
  'allowed-jump': 'the step is too large for an upgrade',
  'same-word-size': 'the word size is another',
  'same-language': 'the language is another',
  'present-supported': 'updates have ended',
  'hold-is-a-stopgap': 'it still gets updates',
  'worth-replacing': 'nothing would move',
  'patch-known': 'no patch is known',
  'past-its-ceiling': 'the maker supports it',
};

/** Whether there are words for a rule. */
export function hasRuleWords(rule: string): boolean {
  return rule in because;
}

/** Why a rule excludes, in a few words; its id where there are none. */
export function ruleInWords(rule: string): string {
  return because[rule] ?? rule;
}

/** Rules by which a release is no way ahead: its options are shown only when asked for. */
const backwards: ReadonlySet<string> = new Set(['still-supported', 'not-older']);

/** Whether an option leads back: to a release that is older, or has ended. */
export function leadsBack({ reasons }: Pick<Candidate, 'reasons'>): boolean {
  return reasons.some(({ rule, finding }) => finding === 'excludes' && backwards.has(rule));
}

/**
 * What is in the way of several options, the most frequent first, with how many each keeps out. One that several rules
 * exclude counts for the first; one that waits counts for the first fact.
 * @example reasonsInOneLine(excluded) // 'updates have ended (5), no licence fits (3)'
 */
export function reasonsInOneLine(options: readonly Pick<Candidate, 'status' | 'reasons'>[]): string {
  const counts = new Map<string, number>();
  for (const { status, reasons } of options) {
    const wanted = status === 'excluded' ? 'excludes' : 'unknown';
    const first = reasons.find(({ finding }) => finding === wanted);
    if (!first) continue;
    const words = wanted === 'excludes' ? ruleInWords(first.rule) : 'a fact is unknown';
    counts.set(words, (counts.get(words) ?? 0) + 1);
  }
  return [...counts]
    .toSorted(([, a], [, b]) => b - a)
    .map(([words, count]) => (options.length === 1 ? words : `${words} (${count})`))
    .join(', ');
}
