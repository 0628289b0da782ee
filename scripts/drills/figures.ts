import type { Person } from './world';

/** The longest time that the server's event loop was held up since the last look, in milliseconds. */
export async function loopHeldUpMs(person: Person): Promise<number> {
  const { body } = await person.ask('GET', '/metrics');
  const [, seconds] = /^nodejs_eventloop_lag_max_seconds ([\d.e+-]+)$/m.exec(String(body)) ?? [];
  return Number(seconds ?? Number.NaN) * 1000;
}
