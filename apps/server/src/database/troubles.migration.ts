import type { MigrationInterface, QueryRunner } from 'typeorm';

/** What was behind the troubles of each move: counted over the house, it orders the causes of the next one. */
export class Troubles1784000000000 implements MigrationInterface {
  name = 'Troubles1784000000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      ALTER TABLE move ADD COLUMN causes_found jsonb NOT NULL DEFAULT '[]';
      CREATE INDEX move_causes_found ON move (id) WHERE causes_found <> '[]'::jsonb;
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`
      DROP INDEX move_causes_found;
      ALTER TABLE move DROP COLUMN causes_found;
    `);
  }
}
