import type { MigrationInterface, QueryRunner } from 'typeorm';

/** The copies of a move that were timed, so that the next one's time is estimated by them. */
export class Measured1777000000000 implements MigrationInterface {
  name = 'Measured1777000000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      ALTER TABLE move ADD measured jsonb NOT NULL DEFAULT '[]';
      CREATE INDEX move_measured ON move (id) WHERE measured <> '[]'::jsonb;
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE move DROP measured');
  }
}
