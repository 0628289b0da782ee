import { practiceLabel, practiceTexts } from '../practice/explain';
import { practiceSettings, type PracticeSetting } from '../practice/practice';
import type { RunbookInput } from './input';

/** What shapes a plan even where nothing is installed. */
const always: readonly PracticeSetting[] = [
  'savedAs',
  'copiesBeforeLine',
  'copyProof',
  'cloudCopyCounts',
  'spokenGigabyte',
  'keepBackupDays',
];

/** What is about reading what people write: no plan is another one for it. */
const never: readonly PracticeSetting[] = ['writtenNumbers'];

/** The settings of house rules that shape this plan, in sentences; a departure says who and why. */
export function practiceFollowed({
  practice,
  departures,
  route,
}: Pick<RunbookInput, 'practice' | 'departures' | 'route'>): string[] {
  return practiceSettings
    .filter((key) => !never.includes(key) && (route.hasTarget || always.includes(key)))
    .map((key) => {
      const said = `${practiceTexts[key].title}: ${practiceLabel(key, practice[key])}`;
      const departure = departures.findLast(({ setting }) => setting === key);
      return departure ? `${said} (for this move, says ${departure.by}: ${departure.reason})` : said;
    });
}
