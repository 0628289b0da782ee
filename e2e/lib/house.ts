import { randomBytes } from 'node:crypto';
import { Client } from 'pg';
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

export type RunningHouse = {
  readonly address: string;
  readonly password: string;
  readonly setUpLink: string;
  readonly close: () => Promise<void>;
};

/** The built application on a fresh database, as `npm start` runs it. */
export async function openHouse(seed: 'demo' | 'empty'): Promise<RunningHouse> {
  const name = `e${randomBytes(6).toString('hex')}`;
  await withAdmin((client) => client.query(`CREATE DATABASE ${name}`));
  const url = new URL(adminUrl());
  url.pathname = `/${name}`;
  const server: Server = await startServer(
    {
      DATABASE_URL: url.href,
      ULVANE_PORT: String(await freePort()),
      ULVANE_NOW: now,
      ULVANE_SEED: seed,
      ULVANE_LOG: 'error',
    },
    'inherit',
  );
  return {
    address: server.ready.ready,
    password: server.ready.demo?.password ?? '',
    setUpLink: server.ready.setUpLink ?? '',
    close: async () => {
      await server.stop();
      await withAdmin((client) => client.query(`DROP DATABASE ${name} WITH (FORCE)`));
    },
  };
}
