import { Agent, request as open, type ClientRequest } from 'node:http';
import { setTimeout as wait } from 'node:timers/promises';
import { unless, unlessWithin, type Drill } from './drill';
import { loopHeldUpMs } from './figures';
import type { Person } from './world';

/** A list of files as it is sent, a JSON object a line. */
function listOf(files: number): string {
  return Array.from(
    { length: files },
    (_none, index) =>
      `${JSON.stringify({ path: `folder ${index % 97}/file ${index}.dat`, sizeBytes: index, sha256: index.toString(16).padStart(64, '0'), modifiedMs: 1_700_000_000_000 + index, trouble: null })}\n`,
  ).join('');
}

type Move = { readonly reference: string; readonly version: number; readonly dataSetId: string };

/** Moves with a data set that a list can be taken for. */
async function movesWithDataSets(person: Person, count: number): Promise<Move[]> {
  const found: Move[] = [];
  for (const reference of await person.references(60)) {
    const { body } = await person.ask('GET', `/moves/${reference}`);
    const view = body as {
      version: number;
      move: { dataSets: { id: string }[]; handover: { signedOff: unknown }; plan: unknown };
    };
    const [dataSet] = view.move.dataSets;
    if (dataSet && view.move.handover.signedOff === null && view.move.plan === null)
      found.push({ reference, version: view.version, dataSetId: dataSet.id });
    if (found.length === count) break;
  }
  return found;
}

function addressOf(person: Person, { reference, version, dataSetId }: Move): URL {
  const query = new URLSearchParams({
    version: String(version),
    dataSetId,
    role: 'before',
    source: 'checksum-list',
  });
  return new URL(`${person.address}/api/v1/moves/${reference}/file-lists?${query.toString()}`);
}

const agent = new Agent({ keepAlive: false, maxSockets: Infinity });

/** An upload of which a little arrives now and then. */
function trickle(
  person: Person,
  move: Move,
  text: string,
): { readonly request: ClientRequest; readonly stop: () => void } {
  const request = open(addressOf(person, move), {
    method: 'POST',
    agent,
    headers: { cookie: person.cookie, 'content-type': 'application/x-ndjson' },
  });
  request.on('error', () => undefined);
  let at = 0;
  const timer = setInterval(() => {
    request.write(text.slice(at, at + 40));
    at += 40;
  }, 100);
  return {
    request,
    stop: () => {
      clearInterval(timer);
      request.destroy();
    },
  };
}

async function upload(person: Person, move: Move, text: string): Promise<{ status: number; ms: number }> {
  const since = performance.now();
  const response = await fetch(addressOf(person, move), {
    method: 'POST',
    headers: { cookie: person.cookie, 'content-type': 'application/x-ndjson' },
    body: text,
  }).catch(() => null);
  await response?.text();
  return { status: response?.status ?? 0, ms: performance.now() - since };
}

/** How long the smallest questions take meanwhile. */
async function slowestRead(person: Person, whileMs: number): Promise<number> {
  let slowest = 0;
  const end = performance.now() + whileMs;
  while (performance.now() < end) {
    const { ms, status } = await person.ask('GET', '/today');
    if (status !== 200) return Number.POSITIVE_INFINITY;
    slowest = Math.max(slowest, ms);
    await wait(20);
  }
  return slowest;
}

export const uploadDrills: readonly Drill[] = [
  {
    name: '50 uploads that trickle leave the rest answering',
    run: async (world, size) => {
      const server = await world.start();
      const person = await world.signIn(server);
      const moves = await movesWithDataSets(person, 5);
      const text = listOf(2000);
      const slow = Array.from({ length: 50 }, (_none, index) =>
        trickle(person, moves[index % moves.length] as Move, text),
      );
      await wait(500);
      const slowest = await slowestRead(person, size === 'whole' ? 10_000 : 2000);
      const [pool] = await world.sql<{ count: number }>(
        `SELECT count(*)::int AS count FROM pg_stat_activity WHERE application_name = 'ulvane' AND state <> 'idle'`,
      );
      for (const { stop } of slow) stop();
      return {
        figures: `slowest answer ${slowest.toFixed(0)} ms; ${pool?.count} connections in use by them`,
        faults: [
          ...unless(moves.length > 0, 'no move has a data set'),
          ...unlessWithin(size, slowest, 1000, 'an answer took more than a second'),
          ...unless((pool?.count ?? 99) <= 2, 'uploads hold connections to the database'),
        ],
      };
    },
  },
  {
    name: '100 uploads at once, and a long honest one',
    run: async (world, size) => {
      const server = await world.start();
      const person = await world.signIn(server);
      const moves = await movesWithDataSets(person, 20);
      const files = size === 'whole' ? 3000 : 400;
      const text = listOf(files);
      await loopHeldUpMs(person);
      const uploads = Array.from({ length: 100 }, (_none, index) =>
        upload(person, moves[index % moves.length] as Move, text),
      );
      const [answers, slowest] = await Promise.all([
        Promise.all(uploads),
        slowestRead(person, size === 'whole' ? 4000 : 1500),
      ]);
      const held = await loopHeldUpMs(person);
      const long = size === 'whole' ? 400_000 : 30_000;
      const target = (await movesWithDataSets(person, 1))[0] as Move;
      const honest = await upload(person, target, listOf(long));
      const heldByOne = await loopHeldUpMs(person);
      const done = answers.filter(({ status }) => status === 200).length;
      return {
        figures: `${done} recorded, ${answers.filter(({ status }) => status === 409).length} of a version that had passed, ${answers.filter(({ status }) => status === 503).length} asked to come again; slowest answer beside them ${slowest.toFixed(0)} ms, loop held up ${held.toFixed(0)} ms; a list of ${long.toLocaleString('en')} files in ${(honest.ms / 1000).toFixed(1)} s, loop held up ${heldByOne.toFixed(0)} ms`,
        faults: [
          ...unless(
            answers.every(({ status }) => [200, 409, 503].includes(status)),
            `an upload was answered otherwise: ${answers.map(({ status }) => status).join(' ')}`,
          ),
          ...unless(done >= 1, 'no upload was recorded'),
          ...unlessWithin(size, slowest, 2000, 'an answer took more than two seconds'),
          ...unless(honest.status === 200, `the long list was answered with ${honest.status}`),
          ...unlessWithin(size, heldByOne, 100, 'one upload held up the loop for more than 100 ms'),
        ],
      };
    },
  },
];
