import { factTexts } from '../../survey/describe';
import type { FactKey } from '../../survey/facts';
import { undecided, type RuleFinding } from '../definition';

/** The fact is not known: says how to find it out, and neither allows nor excludes. */
export function unknown(key: FactKey, needed: string): RuleFinding {
  return undecided(`${factTexts[key].label} unknown; ${needed}.`, factTexts[key].howToFind);
}
