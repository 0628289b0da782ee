import { setTimeout as pause } from 'node:timers/promises';

/** A database that has not answered the smallest question for so long is held to be down. */
export const patienceMs = 1200;
/**
 * The patience is counted in so small parts, each of which the loop has to see: while the whole machine
 * stands still (a paused virtual machine, a frozen process) no part passes, for the database did not run either.
 */
const partMs = 100;
/** A loop that was held up reads what has arrived meanwhile before the patience ends. */
const graceMs = 50;

/** Says so when the patience is over, by parts that have passed one after the other. */
export async function late(over: AbortSignal): Promise<'late'> {
  for (let part = 0; part < patienceMs / partMs && !over.aborted; part += 1)
    await pause(partMs, undefined, { ref: false });
  await pause(graceMs, undefined, { ref: false });
  return 'late';
}
