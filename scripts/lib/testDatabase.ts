import { randomBytes } from 'node:crypto';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Client } from 'pg';
import { freePort } from './port';
import { ensureDatabase, type Cluster } from './postgres';
import { databaseEnvironment, startServer } from './server';

/** The day on which every test begins. */
export const testNow = '2026-03-02T10:00:00.000Z';

const demoName = 'demo_of_tests';

function adminUrl(): string {
  const url = process.env.ULVANE_TEST_DATABASE;
  if (!url) throw new Error('These tests need a PostgreSQL: run them with npm test.');
  return url;
}

async function asAdmin(text: string): Promise<void> {
  const client = new Client({ connectionString: adminUrl() });
  await client.connect();
  try {
    await client.query(text);
  } finally {
    await client.end();
  }
}

/**
 * Fills a database with the demo once, by the built server, for the tests to copy: a copy takes a
 * part of a second, and the demo ten.
 *
 * @returns the environment that tells the tests of it
 */
export async function makeDemoToCopy(cluster: Cluster): Promise<Record<string, string>> {
  await ensureDatabase(cluster, demoName, { fresh: true });
  const folder = mkdtempSync(join(tmpdir(), 'ulvane-demo-'));
  try {
    const server = await startServer(
      {
        ...databaseEnvironment(cluster, demoName),
        ULVANE_PORT: String(await freePort()),
        ULVANE_NOW: testNow,
        ULVANE_SEED: 'demo',
        ULVANE_LOG: 'error',
        ULVANE_VAULT_KEY_FILE: join(folder, 'vault.key'),
      },
      'inherit',
    );
    await server.stop();
  } finally {
    rmSync(folder, { recursive: true });
  }
  return { ULVANE_TEST_DEMO: demoName };
}

export type TestDatabase = {
  /** Connection as the owner of the tables. */
  readonly url: string;
  readonly drop: () => Promise<void>;
};

/** A database of a test's own: empty, or a copy of the demo where one was made; else the server fills it. */
export async function createTestDatabase(holds: 'demo' | 'nothing'): Promise<TestDatabase> {
  const name = `t${randomBytes(6).toString('hex')}`;
  const demo = holds === 'demo' ? process.env.ULVANE_TEST_DEMO : undefined;
  await asAdmin(`CREATE DATABASE ${name}${demo ? ` TEMPLATE ${demo}` : ''}`);
  const url = new URL(adminUrl());
  url.pathname = `/${name}`;
  return { url: url.href, drop: () => asAdmin(`DROP DATABASE ${name} WITH (FORCE)`) };
}
