import { practiceTexts } from '../practice/explain';
import type { Practice } from '../practice/practice';
import type { RouteDefinition } from '../route/definition';

const settings = Object.keys(practiceTexts).filter(
  (key): key is keyof typeof practiceTexts => key in practiceTexts,
);

/** The settings of house practice that shape a plan for this route, in sentences. */
export function practiceFollowed(practice: Practice, route: RouteDefinition): string[] {
  return settings
    .filter((key) => route.hasTarget || key === 'copiesBeforeLine' || key === 'keepBackupDays')
    .map((key) => {
      const { title, sides } = practiceTexts[key];
      const value = String(practice[key]);
      return `${title}: ${sides.find((side) => side.value === value)?.label ?? value}`;
    });
}
