import { setTimeout as wait } from 'node:timers/promises';
import { unless, unlessWithin, type Drill, type Outcome, type Size } from './drill';
import { until, type Person, type World } from './world';
import { Writing } from './writing';

const answersWithinMs = 2000;
const worksAgainWithinMs = 2000;

/** Asks over and over while something is broken; collects how long each answer took. */
async function askWhile(
  person: Person,
  broken: Promise<unknown>,
): Promise<{ slowestMs: number; statuses: Set<number> }> {
  const statuses = new Set<number>();
  let slowestMs = 0;
  let over = false;
  void broken.finally(() => {
    over = true;
  });
  // A slow machine may not have answered once by then.
  while (!over || statuses.size === 0) {
    const answers = await Promise.all([
      person.ask('GET', '/moves?pageSize=5'),
      person.ask('GET', '/today'),
      person.ask('POST', '/moves', { owner: 'Nobody', site: 'Drill', dueOn: null, surveyText: null }),
    ]);
    // Those that came back after the end may have waited for the beginning.
    for (const { status, ms } of over && statuses.size > 0 ? [] : answers) {
      statuses.add(status);
      slowestMs = Math.max(slowestMs, ms);
    }
    await wait(50);
  }
  return { slowestMs, statuses };
}

async function brokenFor(
  world: World,
  breakIt: () => Promise<void>,
  cure: () => void,
  brokenMs: number,
  size: Size,
): Promise<Outcome> {
  const server = await world.start();
  const person = await world.signIn(server);
  const writing = new Writing([person], await person.references(8), 8);
  await wait(400);
  await breakIt();
  const { slowestMs, statuses } = await askWhile(person, wait(brokenMs));
  let health = await person.ask('GET', '/health');
  // A slow machine may notice later than the whole form allows.
  if (size === 'short')
    await until(async () => {
      health = await person.ask('GET', '/health');
      return health.status === 503;
    }, 30_000);
  cure();
  const backMs = await until(
    async () => (await person.ask('GET', '/moves?pageSize=5')).status === 200,
    60_000,
  );
  await wait(1000);
  await writing.stop();
  const faults = await writing.faults(person);
  const alive = server.process.exitCode === null;
  const state =
    typeof health.body === 'object' && health.body !== null && 'database' in health.body
      ? health.body.database
      : '';
  return {
    figures: `${writing.figures()}; while broken slowest ${(slowestMs / 1000).toFixed(2)} s, statuses ${[...statuses].join(' ')}; works again after ${(backMs / 1000).toFixed(2)} s`,
    faults: [
      ...faults,
      ...unless(alive, 'the server ended'),
      ...unless(statuses.has(503), 'no request was answered with 503'),
      ...unless(!statuses.has(500) && !statuses.has(0), 'a request was answered with 500, or not at all'),
      ...unlessWithin(size, slowestMs, answersWithinMs, `an answer took ${(slowestMs / 1000).toFixed(2)} s`),
      ...unless(health.status === 503 && state === 'down', `health said ${health.status} ${String(state)}`),
      ...unlessWithin(
        size,
        backMs,
        worksAgainWithinMs,
        'it did not work again in time after the database’s return',
      ),
    ],
  };
}

export const databaseDrills: readonly Drill[] = [
  {
    name: 'the database is killed',
    run: (world, size) =>
      brokenFor(
        world,
        async () => signal(world.postgres()[0] ?? 0, 'SIGKILL'),
        () => {
          for (let tries = 0; tries < 20; tries += 1)
            try {
              if (world.cluster.revive()) return;
            } catch {
              // Its orphans may still hold its memory for a moment.
            }
        },
        size === 'whole' ? 5000 : 2500,
        size,
      ),
  },
  {
    name: 'the database is stopped and goes on',
    run: async (world, size) => {
      let stopped: number[] = [];
      return brokenFor(
        world,
        async () => {
          stopped = world.postgres();
          for (const pid of stopped) signal(pid, 'SIGSTOP');
        },
        () => {
          for (const pid of stopped) signal(pid, 'SIGCONT');
        },
        size === 'whole' ? 20_000 : 4000,
        size,
      );
    },
  },
  {
    name: 'connections are terminated at any moment',
    run: async (world, size) => {
      const server = await world.start();
      const person = await world.signIn(server);
      const writing = new Writing([person], await person.references(12), 12);
      const times = size === 'whole' ? 60 : 12;
      let terminated = 0;
      for (let time = 0; time < times; time += 1) {
        await wait(150);
        const rows = await world.sql(
          `SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE application_name = 'ulvane' AND pid <> pg_backend_pid()`,
        );
        terminated += rows.length;
      }
      await wait(500);
      await writing.stop();
      const after = await person.ask('GET', '/today');
      return {
        figures: `${terminated} connections terminated; ${writing.figures()}`,
        faults: [
          ...(await writing.faults(person)),
          ...unless(server.process.exitCode === null, 'the server ended'),
          ...unless(terminated > times, 'hardly any connection was terminated'),
          ...unless(!writing.statuses.has(500) && !writing.statuses.has(0), `statuses: ${writing.figures()}`),
          ...unless(after.status === 200, `afterwards it answers ${after.status}`),
        ],
      };
    },
  },
];

function signal(pid: number, name: NodeJS.Signals): void {
  try {
    process.kill(pid, name);
  } catch {
    // It has ended meanwhile.
  }
}
