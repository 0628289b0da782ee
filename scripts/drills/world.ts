import { spawnSync } from 'node:child_process';
import { chmodSync, mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as wait } from 'node:timers/promises';
import { Client } from 'pg';
import { z } from 'zod';
import { freePort } from '../lib/port';
import { ensureDatabase, startCluster, type Cluster } from '../lib/postgres';
import { databaseEnvironment, startServer, type Server } from '../lib/server';

export type Answer = { readonly status: number; readonly body: unknown; readonly ms: number };

const MoveSchema = z.looseObject({ version: z.int(), move: z.looseObject({ reference: z.string() }) });
const EventsSchema = z.looseObject({
  lines: z.array(z.looseObject({ kind: z.string(), sentence: z.string() })),
});

/** A cluster of its own and servers of its own, to be broken. */
export class World {
  private readonly servers: Server[] = [];
  private constructor(
    readonly folder: string,
    readonly cluster: Cluster,
    private readonly environment: Readonly<Record<string, string>>,
  ) {}

  /** @param clusterFolder where the cluster lies; else in a folder of its own */
  static async open(clusterFolder?: string): Promise<World> {
    const folder = mkdtempSync(join(tmpdir(), 'ulvane-drills-'));
    // As root the cluster runs under an account of its own, which must be able to reach the folder.
    chmodSync(folder, 0o755);
    const cluster = await startCluster(clusterFolder ?? join(folder, 'cluster'), { forTests: false });
    await ensureDatabase(cluster, 'ulvane', { fresh: false });
    return new World(folder, cluster, {
      ...databaseEnvironment(cluster, 'ulvane'),
      ULVANE_SEED: 'demo',
      ULVANE_LOG: 'error',
      ULVANE_VAULT_KEY_FILE: join(folder, 'vault.key'),
    });
  }

  /** Starts a server; one on the same port as before when it is given. */
  async start(port?: number): Promise<Server> {
    const server = await startServer(
      { ...this.environment, ULVANE_PORT: String(port ?? (await freePort())) },
      'inherit',
    );
    this.servers.push(server);
    return server;
  }

  async signIn(server: Server, name = 'lead'): Promise<Person> {
    const response = await fetch(`${server.ready.ready}/api/v1/session`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ name, password: server.ready.demo?.password ?? '' }),
    });
    const cookie = response.headers.getSetCookie().find((text) => text.startsWith('ulvane='));
    if (!response.ok || cookie === undefined)
      throw new Error(`${name} could not sign in: ${response.status}`);
    return new Person(server.ready.ready, cookie.split(';')[0] ?? '');
  }

  async sql<R extends Record<string, unknown>>(text: string, values: unknown[] = []): Promise<R[]> {
    const client = new Client({ connectionString: this.cluster.url('ulvane') });
    client.on('error', () => undefined);
    await client.connect();
    try {
      return (await client.query<R>(text, values)).rows;
    } finally {
      await client.end().catch(() => undefined);
    }
  }

  /** Process ids of the postmaster and all of its children. */
  postgres(): number[] {
    const file = spawnSync('find', [this.folder, '-name', 'postmaster.pid'], {
      encoding: 'utf8',
    }).stdout.trim();
    const postmaster = Number(readFileSync(file.split('\n')[0] ?? '', 'utf8').split('\n')[0]);
    const children = readdirSync('/proc')
      .filter((name) => /^\d+$/.test(name))
      .map(Number)
      .filter((pid) => parentOf(pid) === postmaster);
    return [postmaster, ...children];
  }

  async stopServers(): Promise<void> {
    for (const server of this.servers.splice(0)) await server.stop();
  }

  async close(): Promise<void> {
    await this.stopServers();
    this.cluster.stop();
    rmSync(this.folder, { recursive: true, force: true, maxRetries: 5 });
  }
}

function parentOf(pid: number): number {
  try {
    return Number(
      readFileSync(`/proc/${pid}/stat`, 'utf8')
        .replace(/^.*\) /s, '')
        .split(' ')[1],
    );
  } catch {
    return 0;
  }
}

/** Somebody who has signed in. A request that gets no answer has status 0. */
export class Person {
  constructor(
    readonly address: string,
    readonly cookie: string,
  ) {}

  /** The same person at another server of the same house. */
  at(address: string): Person {
    return new Person(address, this.cookie);
  }

  async ask(method: string, path: string, body?: unknown, patienceMs = 30_000): Promise<Answer> {
    const since = performance.now();
    try {
      const response = await fetch(`${this.address}/api/v1${path}`, {
        method,
        headers: {
          cookie: this.cookie,
          ...(body === undefined ? {} : { 'content-type': 'application/json' }),
        },
        ...(body === undefined ? {} : { body: JSON.stringify(body) }),
        signal: AbortSignal.timeout(patienceMs),
      });
      const text = await response.text();
      const json = response.headers.get('content-type')?.includes('json') === true;
      return { status: response.status, body: json ? JSON.parse(text) : text, ms: performance.now() - since };
    } catch {
      return { status: 0, body: null, ms: performance.now() - since };
    }
  }

  /** Moves that can still be changed. */
  async references(count: number): Promise<string[]> {
    // Right after the start a slow machine may be busy.
    const { status, body } = await comingAgain(() => this.ask('GET', '/moves?pageSize=200&sort=reference'));
    if (status !== 200) throw new Error(`the list of moves: ${status} ${JSON.stringify(body)}`);
    return z
      .looseObject({ rows: z.array(z.looseObject({ reference: z.string(), stage: z.string() })) })
      .parse(body)
      .rows.filter(({ stage }) => stage !== 'done')
      .map(({ reference }) => reference)
      .slice(0, count);
  }

  /** The version of a move; 0 where the server does not say it now. */
  async version(reference: string): Promise<number> {
    const { body, status } = await this.ask('GET', `/moves/${reference}`);
    if (status !== 200) return 0;
    return MoveSchema.parse(body).version;
  }

  /** The version of a move, however busy the server is. */
  async versionInTheEnd(reference: string): Promise<number> {
    const { body } = await comingAgain(() => this.ask('GET', `/moves/${reference}`));
    return MoveSchema.parse(body).version;
  }

  /** Names the owner: the smallest change there is. */
  nameOwner(reference: string, version: number, owner: string): Promise<Answer> {
    return this.ask('PUT', `/moves/${reference}/identity`, { version, owner, site: 'Drill', dueOn: null });
  }

  /** What the log of a move says, a sentence a line. */
  async log(reference: string): Promise<string[]> {
    const { body } = await comingAgain(() => this.ask('GET', `/moves/${reference}/events`));
    return EventsSchema.parse(body).lines.map(({ sentence }) => sentence);
  }
}

/**
 * Asks, and comes again as long as the server says that it is too busy to do anything (503), as a page does.
 * @returns the first other answer, or the last 503 of twenty
 */
export async function comingAgain(ask: () => Promise<Answer>): Promise<Answer> {
  let answer = await ask();
  for (let again = 0; answer.status === 503 && again < 20; again += 1) {
    await wait(1000);
    answer = await ask();
  }
  return answer;
}

/** Waits until something holds. @returns after how many milliseconds; Infinity when it never did */
export async function until(
  holds: () => Promise<boolean>,
  patienceMs: number,
  everyMs = 50,
): Promise<number> {
  const since = performance.now();
  while (performance.now() - since < patienceMs) {
    if (await holds().catch(() => false)) return performance.now() - since;
    await wait(everyMs);
  }
  return Number.POSITIVE_INFINITY;
}
