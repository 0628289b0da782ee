import type { MigrationInterface, QueryRunner } from 'typeorm';

/** At which version each part of a move changed last, so that two people may change two parts at once. */
export class Parts1778000000000 implements MigrationInterface {
  name = 'Parts1778000000000';

  async up(runner: QueryRunner): Promise<void> {
    // Of what was written before, only the last change is known.
    await runner.query(`
      ALTER TABLE move ADD part_versions jsonb NOT NULL DEFAULT '{}';
      UPDATE move SET part_versions = jsonb_build_object('*', version);
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE move DROP part_versions');
  }
}
