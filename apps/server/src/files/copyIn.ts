import { createReadStream } from 'node:fs';
import { pipeline } from 'node:stream/promises';
import type { PoolClient } from 'pg';
import { from as copyFrom } from 'pg-copy-streams';
import type { EntityManager } from 'typeorm';

/**
 * Writes a file of COPY's text format into a table, within the manager's transaction: a million rows
 * in seconds, and all of them or none.
 */
export async function copyIn(
  manager: EntityManager,
  table: string,
  columns: readonly string[],
  path: string,
): Promise<void> {
  // TypeORM's PostgreSQL driver connects with a client of `pg`.
  const client = (await manager.queryRunner?.connect()) as PoolClient;
  const into = client.query(copyFrom(`COPY ${table} (${columns.join(', ')}) FROM STDIN`));
  await pipeline(createReadStream(path), into);
}
