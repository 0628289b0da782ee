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
      DELETE FROM file_entry WHERE list_id NOT IN (
        SELECT (list ->> 'id')::uuid FROM move, jsonb_array_elements(COALESCE(record -> 'fileLists', '[]')) AS list);
      DELETE FROM difference WHERE reconciliation_id NOT IN (
        SELECT (one ->> 'id')::uuid FROM move, jsonb_array_elements(COALESCE(record -> 'reconciled', '[]')) AS one);
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE move DROP present_id');
  }
}
