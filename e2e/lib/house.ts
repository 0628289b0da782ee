import { execFileSync } from 'node:child_process';
import { closeSync, mkdtempSync, openSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { appUser } from '../../scripts/lib/postgres';
import { startServer, type Server } from '../../scripts/lib/server';
import { freePort } from '../../scripts/lib/port';
import { createTestDatabase, testNow } from '../../scripts/lib/testDatabase';

/** The same database as the application's own role. */
function appUrl(owner: string): string {
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
  const database = await createTestDatabase(seed === 'demo' ? 'demo' : 'nothing');
  const folder = mkdtempSync(join(tmpdir(), 'ulvane-house-'));
  const logFile = join(folder, 'server.log');
  const log = openSync(logFile, 'a');
  const server: Server = await startServer(
    {
      DATABASE_URL: appUrl(database.url),
      ULVANE_OWNER_URL: database.url,
      ULVANE_PORT: String(await freePort()),
      ULVANE_NOW: testNow,
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
    databaseUrl: database.url,
    close: async () => {
      await server.stop();
      closeSync(log);
      refuseSecrets(readFileSync(logFile, 'utf8'), 'the server’s log');
      refuseSecrets(
        execFileSync('pg_dump', ['--inserts', database.url], { encoding: 'utf8', maxBuffer: 2e9 }),
        'a dump of the database',
      );
      rmSync(folder, { recursive: true });
      await database.drop();
    },
  };
}

/** Throws when a secret of the journeys, or its hexadecimal form, stands in a text. */
function refuseSecrets(text: string, where: string): void {
  for (const secret of journeySecrets)
    if (text.includes(secret) || text.includes(Buffer.from(secret).toString('hex')))
      throw new Error(`${where} holds the secret ${secret}`);
}
