import { execFileSync } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { closeSync, mkdtempSync, openSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Client } from 'pg';
import { appUser } from '../../scripts/lib/postgres';
import { startServer, type Server } from '../../scripts/lib/server';
import { freePort } from '../../scripts/lib/port';

/** The day of every journey. */
const now = '2026-03-02T10:00:00Z';

async function withAdmin(work: (client: Client) => Promise<unknown>): Promise<void> {
  const client = new Client({ connectionString: adminUrl() });
  await client.connect();
  try {
    await work(client);
  } finally {
    await client.end();
  }
}

function adminUrl(): string {
  const url = process.env.ULVANE_TEST_DATABASE;
  if (!url) throw new Error('The journeys need a PostgreSQL: run them with npm test.');
  return url;
}

/** The same database as the application's own role. */
function appUrl(owner: URL): string {
  const url = new URL(owner);
  url.username = appUser;
  return url.href;
}

/** What journeys put into the vault: it must stand neither in the database nor in a log. */
export const journeySecrets = ['LK-2207-ANCHOR-5518', 'RK-4471-OPAL-9930-TIDE'] as const;

export type RunningHouse = {
  readonly address: string;
  readonly password: string;
  readonly setUpLink: string;
  /** The database as the owner of its tables, for what no application may do. */
  readonly databaseUrl: string;
  readonly close: () => Promise<void>;
};

/** The built application on a fresh database, as `npm start` runs it. */
export async function openHouse(seed: 'demo' | 'empty'): Promise<RunningHouse> {
  const name = `e${randomBytes(6).toString('hex')}`;
  await withAdmin((client) => client.query(`CREATE DATABASE ${name}`));
  const url = new URL(adminUrl());
  url.pathname = `/${name}`;
  const folder = mkdtempSync(join(tmpdir(), 'ulvane-house-'));
  const logFile = join(folder, 'server.log');
  const log = openSync(logFile, 'a');
  const server: Server = await startServer(
    {
      DATABASE_URL: appUrl(url),
      ULVANE_OWNER_URL: url.href,
      ULVANE_PORT: String(await freePort()),
      ULVANE_NOW: now,
      ULVANE_SEED: seed,
      ULVANE_LOG: 'info',
      ULVANE_VAULT_KEY_FILE: join(folder, 'vault.key'),
    },
    log,
  );
  return {
    address: server.ready.ready,
    password: server.ready.demo?.password ?? '',
    setUpLink: server.ready.setUpLink ?? '',
    databaseUrl: url.href,
    close: async () => {
      await server.stop();
      closeSync(log);
      refuseSecrets(readFileSync(logFile, 'utf8'), 'the server’s log');
      refuseSecrets(
        execFileSync('pg_dump', ['--inserts', url.href], { encoding: 'utf8', maxBuffer: 2e9 }),
        'a dump of the database',
      );
      rmSync(folder, { recursive: true });
      await withAdmin((client) => client.query(`DROP DATABASE ${name} WITH (FORCE)`));
    },
  };
}

/** Throws when a secret of the journeys, or its hexadecimal form, stands in a text. */
function refuseSecrets(text: string, where: string): void {
  for (const secret of journeySecrets)
    if (text.includes(secret) || text.includes(Buffer.from(secret).toString('hex')))
      throw new Error(`${where} holds the secret ${secret}`);
}
