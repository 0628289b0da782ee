import { DataSource, type QueryRunner } from 'typeorm';
import { ownerOptions } from './dataSource';

/** Any fixed number: servers that start together migrate and seed one after the other. */
const startLock = 4310;

/** Tables that are only ever added to. */
const appendOnly = ['event', 'catalogue_change', 'practice_change'];

/**
 * Brings the database up to the newest migration and runs what has to be done once on a new one, under
 * one lock: several servers may start at once, on an empty database too.
 * @param appUrl the role that the application works with; it gets what it needs and owns nothing
 * @throws Error with one sentence when the database is newer than this code
 */
export async function bringUp<T>(
  ownerUrl: string,
  appUrl: string,
  afterwards: () => Promise<T>,
): Promise<{ readonly done: number; readonly value: T }> {
  const owner = await new DataSource(ownerOptions(ownerUrl)).initialize();
  const runner = owner.createQueryRunner();
  try {
    await runner.query('SELECT pg_advisory_lock($1)', [startLock]);
    await refuseNewer(runner, owner);
    const done = (await owner.runMigrations({ transaction: 'all' })).length;
    await grant(runner, roleOf(appUrl), roleOf(ownerUrl));
    return { done, value: await afterwards() };
  } finally {
    await runner.query('SELECT pg_advisory_unlock($1)', [startLock]).catch(() => undefined);
    await runner.release();
    await owner.destroy();
  }
}

async function refuseNewer(runner: QueryRunner, { migrations }: DataSource): Promise<void> {
  if (!(await runner.hasTable('migration'))) return;
  const rows: { name: string }[] = await runner.query('SELECT name FROM migration ORDER BY id');
  const strange = rows.find(({ name }) => !migrations.some((known) => known.name === name));
  if (strange)
    throw new Error(
      `the database was brought up by a newer Ulvane (${strange.name} is not known here): start that version, or restore a backup of before`,
    );
}

function roleOf(url: string): string {
  return decodeURIComponent(new URL(url).username);
}

async function grant(runner: QueryRunner, app: string, owner: string): Promise<void> {
  if (app === '' || app === owner) return;
  const role = `"${app.replaceAll('"', '""')}"`;
  await runner.query(`
    GRANT USAGE ON SCHEMA public TO ${role};
    GRANT SELECT, INSERT, UPDATE, DELETE ON ALL TABLES IN SCHEMA public TO ${role};
    GRANT USAGE, SELECT, UPDATE ON ALL SEQUENCES IN SCHEMA public TO ${role};
    REVOKE UPDATE, DELETE ON ${appendOnly.join(', ')} FROM ${role};
    REVOKE INSERT, UPDATE, DELETE ON move_past, migration FROM ${role};
  `);
}
