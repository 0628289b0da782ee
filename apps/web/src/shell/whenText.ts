import { printMinutes } from '@ulvane/core/quantity';

/** @example whenText(3.4) // 'in 3 min'; whenText(-10) // '10 min over'; whenText(0) // 'now' */
export function whenText(minutes: number): string {
  if (minutes >= 0.5) return `in ${printMinutes(Math.max(1, minutes))}`;
  if (minutes <= -1) return `${printMinutes(-minutes)} overdue`;
  return 'now';
}
