import { setTimeout as wait } from 'node:timers/promises';
import { unless, type Drill } from './drill';
import { comingAgain, Person, until, type Answer } from './world';
import { Writing } from './writing';

/** How many of each status. */
function tally(answers: readonly Answer[]): string {
  const counts = new Map<number, number>();
  for (const { status } of answers) counts.set(status, (counts.get(status) ?? 0) + 1);
  return [...counts].map(([status, count]) => `${status}: ${count}`).join(', ');
}

export const serverDrills: readonly Drill[] = [
  {
    name: 'the server is killed over and over',
    run: async (world, size) => {
      let server = await world.start();
      const port = Number(new URL(server.ready.ready).port);
      const person = await world.signIn(server);
      const writing = new Writing([person], await person.references(6), 6);
      const oneMore = async () => {
        const before = writing.acknowledged.length;
        await until(() => Promise.resolve(writing.acknowledged.length > before), 60_000);
      };
      const kills = size === 'whole' ? 20 : 2;
      for (let kill = 0; kill < kills; kill += 1) {
        await oneMore();
        await wait(400 + 50 * (kill % 7));
        server.process.kill('SIGKILL');
        await server.ended;
        server = await world.start(port);
      }
      await oneMore();
      await wait(500);
      await writing.stop();
      return {
        figures: `${kills} kills; ${writing.figures()}`,
        faults: [
          ...(await writing.faults(person)),
          ...unless(writing.acknowledged.length > kills, 'hardly anything was acknowledged'),
        ],
      };
    },
  },
  {
    name: '200 writes at once, on one move and on many, through two servers',
    run: async (world) => {
      const [one, other] = [await world.start(), await world.start()];
      const first = await world.signIn(one);
      const people = [first, first.at(other.ready.ready)];
      const references = await first.references(50);
      const versions = new Map<string, number>();
      for (const reference of references) versions.set(reference, await first.versionInTheEnd(reference));
      const at = (index: number) => people[index % 2] ?? first;
      // Half of the writes are all on one move.
      const write = (index: number) => {
        const reference = references[index % 2 === 0 ? 0 : 1 + (index % 49)] ?? '';
        return at(index).nameOwner(reference, versions.get(reference) ?? 0, `Owner p${index}q`);
      };
      const jobs: Promise<Answer>[] = [];
      for (let index = 0; index < 200; index += 1) {
        // Beside each write something is read.
        jobs.push(write(index));
        jobs.push(
          at(index + 1).ask('GET', index % 4 === 0 ? '/today' : `/moves?pageSize=20&page=${1 + (index % 3)}`),
        );
      }
      const answers = await Promise.all(jobs);
      const writes = answers.filter((_answer, index) => index % 2 === 0);
      // Whom a busy server sent away comes again, with the version seen at first: it must not count twice.
      const inTheEnd = await Promise.all(
        writes.map((answer, index) =>
          answer.status === 503 ? comingAgain(() => write(index)) : Promise.resolve(answer),
        ),
      );
      const faults: string[] = [];
      let done = 0;
      for (const reference of references) {
        const gained = (await first.versionInTheEnd(reference)) - (versions.get(reference) ?? 0);
        done += gained;
        if (gained > 1)
          faults.push(`${reference}: ${gained} writes were let through that all saw the same version`);
      }
      const acknowledged = inTheEnd.filter(({ status }) => status === 200).length;
      const health = await first.ask('GET', '/health');
      return {
        figures: `writes ${tally(writes)}, in the end ${tally(inTheEnd)}; reads ${tally(answers.filter((_answer, index) => index % 2 === 1))}; slowest ${(Math.max(...answers.map(({ ms }) => ms)) / 1000).toFixed(2)} s`,
        faults: [
          ...faults,
          ...unless(
            [...answers, ...inTheEnd].every(({ status }) => [200, 409, 503].includes(status)),
            'an answer is none of 200, 409, 503',
          ),
          ...unless(done === acknowledged, `${acknowledged} writes were acknowledged, ${done} were done`),
          ...unless(
            acknowledged === references.length,
            `only ${acknowledged} of ${references.length} moves could be written`,
          ),
          ...unless(health.status === 200, `health says ${health.status} afterwards`),
        ],
      };
    },
  },
  {
    name: 'two servers start at once on an empty database',
    run: async (world) => {
      await world.sql('DROP SCHEMA public CASCADE');
      await world.sql('CREATE SCHEMA public');
      const servers = await Promise.all([world.start(), world.start(), world.start()]);
      const loaded = servers.filter(({ ready }) => ready.loaded).length;
      const answers = await Promise.all(
        servers.map(async ({ ready }) => new Person(ready.ready, '').ask('GET', '/health')),
      );
      const [counts] = await world.sql<{ organisations: number; accounts: number; moves: number }>(
        `SELECT (SELECT count(*)::int FROM organisation) AS organisations,
                (SELECT count(*)::int FROM account) AS accounts, (SELECT count(*)::int FROM move) AS moves`,
      );
      return {
        figures: `3 servers, ${loaded} of them seeded it; ${counts?.moves} moves, ${counts?.accounts} accounts`,
        faults: [
          ...unless(loaded === 1, `${loaded} servers seeded it`),
          ...unless(
            counts?.organisations === 1 && counts.accounts === 3,
            'the seed is there twice, or in part',
          ),
          ...unless(
            answers.every(({ status }) => status === 200),
            'one of them is not healthy',
          ),
        ],
      };
    },
  },
];
