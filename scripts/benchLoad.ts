import { setTimeout as wait } from 'node:timers/promises';
import { World, type Person } from './drills/world';
import { ensureBuild } from './lib/build';

const users = 50;
const seconds = 60;

function percentile(sorted: readonly number[], share: number): number {
  return sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))] ?? 0;
}

function line(what: string, times: number[], aimMs: number): string {
  const sorted = times.sort((a, b) => a - b);
  return `${what}: ${sorted.length}, p50 ${percentile(sorted, 0.5).toFixed(0)} ms, p99 ${percentile(sorted, 0.99).toFixed(0)} ms (aim ${aimMs}), longest ${(sorted.at(-1) ?? 0).toFixed(0)} ms`;
}

/** Megabytes that the server's process holds. */
async function heldMb(person: Person): Promise<number> {
  const { body } = await person.ask('GET', '/metrics');
  const [, bytes] = /^process_resident_memory_bytes ([\d.e+-]+)$/m.exec(String(body)) ?? [];
  return Number(bytes ?? Number.NaN) / 1e6;
}

/** Fifty people who never pause, each with a move of their own: every second request changes it. */
export async function benchLoad(): Promise<void> {
  ensureBuild();
  const world = await World.open();
  try {
    const server = await world.start();
    const person = await world.signIn(server);
    const moves = await person.references(users);
    const reads: number[] = [];
    const writes: number[] = [];
    const errors = new Map<number, number>();
    const end = performance.now() + seconds * 1000;
    const work = async (user: number) => {
      const reference = moves[user % moves.length] ?? '';
      let version = await person.version(reference);
      for (let turn = 0; performance.now() < end; turn += 1) {
        const writing = turn % 2 === 0;
        const answer = writing
          ? await person.nameOwner(reference, version, `Owner ${user} ${turn}`)
          : await person.ask(
              'GET',
              ['/today', `/moves/${reference}`, '/moves?pageSize=50'][turn % 3] ?? '/today',
            );
        (writing ? writes : reads).push(answer.ms);
        if (answer.status !== 200) errors.set(answer.status, (errors.get(answer.status) ?? 0) + 1);
        if (writing) version = answer.status === 200 ? version + 1 : await person.version(reference);
      }
    };
    const held: number[] = [];
    const watching = (async () => {
      while (performance.now() < end) {
        held.push(await heldMb(person));
        await wait(10_000);
      }
    })();
    await Promise.all([...Array.from({ length: users }, (_none, user) => work(user)), watching]);
    console.log(`${users} people without pauses for ${seconds} s, half of it writes, ${moves.length} moves:`);
    console.log(line('reads', reads, 500));
    console.log(line('writes', writes, 700));
    console.log(
      `errors: ${errors.size === 0 ? 'none' : [...errors].map(([status, count]) => `${status}: ${count}`).join(', ')}; memory every 10 s: ${held.map((mb) => mb.toFixed(0)).join(', ')} MB`,
    );
  } finally {
    await world.close();
  }
}
