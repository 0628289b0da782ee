import { printCount } from '../../quantity/count';

/** How often an installer restarts. @example restartsSentence(1) // '1 restart is normal' */
export function restartsSentence(count: number): string {
  return count === 0
    ? 'It needs no restart'
    : `${printCount(count, 'restart')} ${count === 1 ? 'is' : 'are'} normal`;
}
