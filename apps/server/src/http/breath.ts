import { setImmediate as nextTurn } from 'node:timers/promises';

const longestMs = 15;

/** Long loops take a breath now and then, so that other requests get their turn. */
export class Breath {
  private since = performance.now();

  async take(): Promise<void> {
    if (performance.now() - this.since < longestMs) return;
    await nextTurn();
    this.since = performance.now();
  }
}
