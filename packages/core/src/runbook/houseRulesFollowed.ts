import { houseRuleLabel, houseRuleTexts } from '../rules/explain';
import { houseRuleKeys, type HouseRuleKey } from '../rules/houseRules';
import type { RunbookInput } from './input';

/** What shapes a plan even where nothing is installed. */
const always: readonly HouseRuleKey[] = [
  'savedAs',
  'copiesBeforeLine',
  'copyProof',
  'cloudCopyCounts',
  'spokenGigabyte',
  'keepBackupDays',
];

/** What is about reading what people write: no plan is another one for it. */
const never: readonly HouseRuleKey[] = ['writtenNumbers'];

/** The settings of house rules that shape this plan, in sentences; an exception says who and why. */
export function houseRulesFollowed({
  houseRules,
  exceptions,
  route,
}: Pick<RunbookInput, 'houseRules' | 'exceptions' | 'route'>): string[] {
  return houseRuleKeys
    .filter((key) => !never.includes(key) && (route.hasTarget || always.includes(key)))
    .map((key) => {
      const said = `${houseRuleTexts[key].title}: ${houseRuleLabel(key, houseRules[key])}`;
      const exception = exceptions.findLast(({ setting }) => setting === key);
      return exception ? `${said} (for this move, says ${exception.by}: ${exception.reason})` : said;
    });
}
