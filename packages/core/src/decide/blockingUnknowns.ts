import { byText } from '../quantity/order';
import { factTexts } from '../survey/describe';
import type { FactKey, Facts } from '../survey/facts';
import type { Choice } from './candidates';

/** A fact, or a part of one, that keeps options from being judged. */
export type BlockingUnknown = {
  /** The fact in which it is entered: also of a fact that is known in part, such as disks without used bytes. */
  readonly key: FactKey;
  readonly label: string;
  readonly sentence: string;
  readonly howToFind: string;
  /** Options that wait for it. */
  readonly waiting: number;
};

/** Everything unknown that is in the way of an option, the one that most options wait for first. */
export function blockingUnknowns({ candidates }: Choice, facts: Facts): readonly BlockingUnknown[] {
  const found = new Map<string, BlockingUnknown>();
  for (const { status, reasons } of candidates) {
    if (status !== 'undecided') continue;
    for (const { finding, facts: read, sentence, howToFind = '' } of reasons) {
      if (finding !== 'unknown') continue;
      const missing = read.filter((key) => facts[key] === undefined);
      // Known in part: the disks without their used bytes, as a rule.
      const part = read.find((one) => one === 'disks') ?? read[0];
      const keys = missing.length > 0 || part === undefined ? missing : [part];
      for (const [index, key] of keys.entries()) {
        const name = missing.length > 0 ? key : `${key} ${sentence}`;
        const { label, howToFind: usually } = factTexts[key];
        found.set(name, {
          key,
          label,
          sentence: index === 0 ? sentence : `${label} unknown.`,
          howToFind: index > 0 || howToFind === '' ? usually : howToFind,
          waiting: (found.get(name)?.waiting ?? 0) + 1,
        });
      }
    }
  }
  return [...found.values()].toSorted((a, b) => b.waiting - a.waiting || byText(a.label, b.label));
}
