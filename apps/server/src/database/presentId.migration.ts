import type { MigrationInterface, QueryRunner } from 'typeorm';

/** The present system of a move by its id: a release that is renamed stays the same release. Lines without their list go. */
export class PresentId1779000000000 implements MigrationInterface {
  name = 'PresentId1779000000000';

  async up(runner: QueryRunner): Promise<void> {
    // Every derived column is made anew once, in the background: earlier releases left some of them as they were.
    await runner.query(`
      ALTER TABLE move ADD present_id text NOT NULL DEFAULT '';
      UPDATE move SET present_id = COALESCE(record #>> '{facts,presentRelease,value}', ''), assessed_for = '';
      CREATE INDEX move_present_id ON move (present_id);
    `);
    for (const [table, column, part] of [
      ['file_entry', 'list_id', 'fileLists'],
      ['difference', 'reconciliation_id', 'reconciled'],
    ] as const)
      // Whatever a record holds: one that cannot be read stops nothing, and what its earlier states name is kept for its repair.
      await runner.query(`
        DELETE FROM ${table} WHERE ${column}::text NOT IN (
          SELECT id #>> '{}' FROM (SELECT record FROM move UNION ALL SELECT record FROM move_past) AS known,
                 jsonb_path_query(record, 'lax $.${part}[*].id') AS id
           WHERE id #>> '{}' IS NOT NULL)`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE move DROP present_id');
  }
}
