import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { Client } from 'pg';
import { ensurePostgres } from './debian';
import { Failure } from './fail';

/** Tables whose rows stay where they are: sessions, what cookies are signed with, counted tries. */
const leftOut = ['session', 'server_secret', 'sign_in_throttle'];

export async function withClient<T>(url: string, work: (client: Client) => Promise<T>): Promise<T> {
  const client = new Client({ connectionString: url });
  await client.connect();
  try {
    return await work(client);
  } finally {
    await client.end();
  }
}

async function tablesOf(client: Client): Promise<string[]> {
  const { rows } = await client.query<{ name: string }>(
    `SELECT tablename AS name FROM pg_tables WHERE schemaname = 'public' ORDER BY 1`,
  );
  return rows.map(({ name }) => name).filter((name) => !leftOut.includes(name));
}

/** How many rows each table has that a backup holds. */
export async function rowsOf(client: Client): Promise<Record<string, number>> {
  const counts: Record<string, number> = {};
  for (const name of await tablesOf(client)) {
    const { rows } = await client.query<{ count: number }>(`SELECT count(*)::int AS count FROM "${name}"`);
    counts[name] = rows[0]?.count ?? 0;
  }
  return counts;
}

function run(program: string, args: readonly string[]): void {
  const done = spawnSync(join(ensurePostgres(), program), [...args], { encoding: 'utf8' });
  if (done.status !== 0)
    throw new Failure(
      `${program} failed: ${(done.stderr || String(done.error)).trim().split('\n').slice(0, 3).join(' ')}`,
    );
}

/**
 * Dumps a database while it is in use: the counts and the dump are of one moment.
 * @returns rows of every table, the migrations, and the ids of the keys that the vault's secrets need
 */
export async function dump(
  url: string,
  into: string,
): Promise<{
  readonly rows: Record<string, number>;
  readonly migrations: string[];
  readonly vaultKeys: string[];
}> {
  return withClient(url, async (client) => {
    await client.query('BEGIN ISOLATION LEVEL REPEATABLE READ READ ONLY');
    const { rows: snapshots } = await client.query<{ id: string }>('SELECT pg_export_snapshot() AS id');
    const { rows: migrations } = await client.query<{ name: string }>(
      'SELECT name FROM migration ORDER BY id',
    );
    const { rows: keys } = await client.query<{ id: string }>(
      'SELECT DISTINCT key_id AS id FROM secret ORDER BY 1',
    );
    const rows = await rowsOf(client);
    run('pg_dump', [
      '--format=custom',
      '--no-owner',
      '--no-privileges',
      `--snapshot=${snapshots[0]?.id ?? ''}`,
      ...leftOut.map((table) => `--exclude-table-data=${table}`),
      `--file=${into}`,
      url,
    ]);
    return { rows, migrations: migrations.map(({ name }) => name), vaultKeys: keys.map(({ id }) => id) };
  });
}

/** Restores a dump into an empty database. */
export function restoreDump(url: string, from: string): void {
  run('pg_restore', ['--no-owner', '--no-privileges', '--exit-on-error', `--dbname=${url}`, from]);
}
