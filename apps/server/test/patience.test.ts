import { setTimeout as pause } from 'node:timers/promises';
import { describe, expect, it } from 'vitest';
import { late, patienceMs } from '../src/database/patience';

/** Nothing else runs meanwhile: as when the whole machine stands still. */
function standStill(ms: number): void {
  const until = performance.now() + ms;
  while (performance.now() < until);
}

describe('the patience with a database that does not answer', () => {
  it('is over in the end', async () => {
    const begun = performance.now();
    expect(await late(new AbortController().signal)).toBe('late');
    expect(performance.now() - begun).toBeGreaterThanOrEqual(patienceMs - 20);
  });

  it('is not over because the machine stood still for longer than it lasts', async () => {
    const over = late(new AbortController().signal);
    standStill(patienceMs * 2);
    // Five parts of it at most pass before this does, however busy the machine is.
    expect(await Promise.race([over, pause(500, 'still patient')])).toBe('still patient');
    expect(await over).toBe('late');
  });

  it('ends early for who does not ask any more', async () => {
    const asking = new AbortController();
    const over = late(asking.signal);
    asking.abort();
    expect(await Promise.race([over, pause(patienceMs / 2, 'too long')])).toBe('late');
  });
});
