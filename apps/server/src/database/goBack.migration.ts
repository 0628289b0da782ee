import type { MigrationInterface, QueryRunner } from 'typeorm';

/** One more reason for a day on Today: the last day on which an upgrade can be taken back. */
export class GoBack1783000000000 implements MigrationInterface {
  name = 'GoBack1783000000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      ALTER TABLE move DROP CONSTRAINT move_day_reason_check;
      ALTER TABLE move ADD CONSTRAINT move_day_reason_check
        CHECK (day_reason IN ('hold', 'fixes-end', 'isolation', 'trial', 'go-back'));
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`
      UPDATE move SET day_ahead = NULL, day_reason = NULL WHERE day_reason = 'go-back';
      ALTER TABLE move DROP CONSTRAINT move_day_reason_check;
      ALTER TABLE move ADD CONSTRAINT move_day_reason_check
        CHECK (day_reason IN ('hold', 'fixes-end', 'isolation', 'trial'));
    `);
  }
}
