import type { AddressInfo } from 'node:net';
import { pathOf, type Endpoint } from '@ulvane/contract';
import { Client } from 'pg';
import type { z } from 'zod';
import { createApp, type Running } from '../src/createApp';
import { createTestDatabase, testNow, type TestDatabase } from '../../../scripts/lib/testDatabase';
import { demoPassword } from '../src/seed/seed';
import type { Settings } from '../src/settings';

export const now = testNow;

/** A key of the vault for tests. */
export const testVault = { kind: 'environment', keys: [Buffer.alloc(32, 7).toString('base64')] } as const;

/** The settings of a test's server on a database that the tests' own role owns. */
export function testSettings(databaseUrl: string): Settings {
  const app = new URL(databaseUrl);
  app.username = 'ulvane_app';
  return {
    databaseUrl: app.href,
    ownerUrl: databaseUrl,
    hosts: [],
    proxies: [],
    port: 0,
    now,
    seed: 'demo',
    vault: testVault,
    logLevel: 'silent',
  };
}

type Answer<T> = { readonly status: number; readonly body: T; readonly headers: Headers };

/** A whole server on a database of its own. */
export class TestHouse {
  private constructor(
    readonly address: string,
    private readonly database: TestDatabase,
    readonly running: Running,
  ) {}

  /** @param before what is done to the empty database before the server first sees it */
  static async open(
    seed: 'demo' | 'empty',
    before?: (databaseUrl: string) => Promise<void>,
  ): Promise<TestHouse> {
    const database = await createTestDatabase(seed === 'demo' && !before ? 'demo' : 'nothing');
    await before?.(database.url);
    const running = await createApp({ ...testSettings(database.url), seed });
    const server = await running.app.listen(0, '127.0.0.1');
    const { port } = server.address() as AddressInfo;
    return new TestHouse(`http://127.0.0.1:${port}`, database, running);
  }

  get databaseUrl(): string {
    return this.database.url;
  }

  async close(): Promise<void> {
    await this.running.close();
    await this.database.drop();
  }

  /** Runs SQL straight on the database, past the server. */
  async sql(text: string, values: unknown[] = []): Promise<Record<string, unknown>[]> {
    const client = new Client({ connectionString: this.databaseUrl });
    await client.connect();
    try {
      return (await client.query<Record<string, unknown>>(text, values)).rows;
    } finally {
      await client.end();
    }
  }

  visitor(): Visitor {
    return new Visitor(this.address, undefined);
  }

  async signedIn(name: string, password = demoPassword): Promise<Visitor> {
    const visitor = this.visitor();
    const answer = await visitor.raw('POST', '/session', { name, password });
    if (answer.status !== 200) throw new Error(`${name} could not sign in: ${answer.status}`);
    return new Visitor(this.address, cookieOf(answer.headers));
  }
}

/** The cookie of the session, without the mark of the browser. */
export function cookieOf(headers: Headers): string | undefined {
  return headers
    .getSetCookie()
    .find((cookie) => cookie.startsWith('ulvane='))
    ?.split(';')[0];
}

type Given = {
  readonly params?: Readonly<Record<string, string>>;
  readonly body?: unknown;
  readonly query?: string;
};

/** Somebody with or without a cookie. */
export class Visitor {
  constructor(
    private readonly address: string,
    readonly cookie: string | undefined,
  ) {}

  async raw(
    method: string,
    path: string,
    body?: unknown,
    headers: Readonly<Record<string, string>> = {},
  ): Promise<Answer<unknown>> {
    const response = await fetch(`${this.address}/api/v1${path}`, {
      method,
      headers: {
        ...(this.cookie ? { cookie: this.cookie } : {}),
        ...(body === undefined ? {} : { 'content-type': 'application/json' }),
        ...headers,
      },
      ...(body === undefined ? {} : { body: typeof body === 'string' ? body : JSON.stringify(body) }),
    });
    const text = await response.text();
    const isJson = response.headers.get('content-type')?.includes('json') === true;
    return { status: response.status, body: isJson ? JSON.parse(text) : text, headers: response.headers };
  }

  /** Calls an entry of the contract as it stands, without parsing the answer. */
  at(entry: Endpoint, given: Given = {}): Promise<Answer<unknown>> {
    const path = `${pathOf(entry.path, given.params ?? {})}${given.query ?? ''}`;
    return this.raw(entry.method, path, entry.method === 'GET' ? undefined : (given.body ?? {}));
  }

  /** Calls an entry that must succeed, and parses the answer by the contract. */
  async call<R extends z.ZodType>(
    entry: Endpoint<z.ZodType, z.ZodType, R>,
    given: Given = {},
  ): Promise<z.output<R>> {
    const answer = await this.at(entry, given);
    if (answer.status !== 200)
      throw new Error(`${entry.method} ${entry.path}: ${answer.status} ${JSON.stringify(answer.body)}`);
    return entry.response.parse(answer.body);
  }
}
