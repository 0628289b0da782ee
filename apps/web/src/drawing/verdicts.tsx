import type { Verdict } from '@ulvane/core/assess';
import type { Candidate } from '@ulvane/core/decide';
import { Check, CircleHelp, Hand, Wrench, X } from 'lucide-react';

const verdictLooks = {
  meets: { Icon: Check, word: 'meets', tone: 'good' },
  fixable: { Icon: Wrench, word: 'fixable', tone: 'good' },
  waivable: { Icon: Hand, word: 'waivable', tone: 'care' },
  unknown: { Icon: CircleHelp, word: 'unknown', tone: 'care' },
  fails: { Icon: X, word: 'fails', tone: 'off' },
} as const;

/** A verdict as sign and word; readable in grey. */
export function VerdictSign({
  verdict,
  short = false,
}: {
  readonly verdict: Verdict;
  readonly short?: boolean;
}) {
  const { Icon, word, tone } = verdictLooks[verdict];
  return (
    <span className={`verdict ${tone}`} title={word}>
      <Icon size={15} strokeWidth={2.5} aria-hidden="true" />
      <span className={short ? 'visually-hidden' : undefined}>{word}</span>
    </span>
  );
}

const statusLooks = {
  allowed: { verdict: 'meets', word: 'allowed' },
  undecided: { verdict: 'unknown', word: 'find out first' },
  excluded: { verdict: 'fails', word: 'excluded' },
} as const;

export function StatusSign({ status }: { readonly status: Candidate['status'] }) {
  const { verdict, word } = statusLooks[status];
  const { Icon, tone } = verdictLooks[verdict];
  return (
    <span className={`verdict ${tone}`}>
      <Icon size={15} strokeWidth={2.5} aria-hidden="true" />
      {word}
    </span>
  );
}

const findingVerdicts = { allows: 'meets', excludes: 'fails', unknown: 'unknown' } as const;

/** The sign of one reason for or against a route. */
export function FindingSign({ finding }: { readonly finding: keyof typeof findingVerdicts }) {
  const { Icon, tone } = verdictLooks[findingVerdicts[finding]];
  const word = finding === 'allows' ? 'in favour' : finding === 'excludes' ? 'against' : 'unknown';
  return (
    <span className={`verdict ${tone}`}>
      <Icon size={15} strokeWidth={2.5} aria-hidden="true" />
      <span className="visually-hidden">{word}: </span>
    </span>
  );
}
