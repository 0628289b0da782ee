import { factTexts } from '../survey/describe';
import type { FactKey } from '../survey/facts';
import type { Finding } from './judgement';

/** The fact is not known: says how to find it out, and decides nothing. */
export function unknownFact(key: FactKey, needed: string): Finding {
  return {
    verdict: 'unknown',
    sentence: `${factTexts[key].label} unknown; ${needed}.`,
    howToFind: factTexts[key].howToFind,
  };
}
