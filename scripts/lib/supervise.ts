import { setTimeout as wait } from 'node:timers/promises';
import { Failure } from './fail';

/** Seconds between one try and the next; after the last one it is given up. */
const pausesSeconds = [1, 2, 4, 8, 16];
/** What has run so long was well: the next fault counts from the beginning. */
const wellAfterMs = 60_000;

/** Counts how often something had to be started again, and waits longer each time. */
export class Restarts {
  private tries = 0;
  private since = Date.now();

  /**
   * Waits before the next try, saying so.
   * @param what what stopped, as the beginning of a sentence: `The server`
   * @param cure what to look at when it is given up
   * @throws Failure after the last try
   */
  async pause(what: string, cure: string): Promise<void> {
    if (Date.now() - this.since > wellAfterMs) this.tries = 0;
    const seconds = pausesSeconds[this.tries];
    if (seconds === undefined)
      throw new Failure(
        `${what} stopped ${pausesSeconds.length + 1} times in a row and is not started again: ${cure}.`,
      );
    this.tries += 1;
    console.log(
      `${what} stopped; starting it again in ${seconds === 1 ? '1 second' : `${seconds} seconds`} …`,
    );
    await wait(seconds * 1000);
    this.since = Date.now();
  }
}
