import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Beside the last day of a hold: the day on which the fixes of a system that stays end, or a trial is over. */
export class DayAhead1780000000000 implements MigrationInterface {
  name = 'DayAhead1780000000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      ALTER TABLE move RENAME hold_until TO day_ahead;
      ALTER INDEX move_hold_until RENAME TO move_day_ahead;
      ALTER TABLE move ADD day_reason text
        CHECK (day_reason IN ('hold', 'fixes-end', 'isolation', 'trial'));
      UPDATE move SET day_reason = 'hold' WHERE day_ahead IS NOT NULL;
      ALTER TABLE move ADD CHECK ((day_ahead IS NULL) = (day_reason IS NULL));
      -- Routes and reasons are others than before: advice and days are made anew.
      UPDATE move SET assessed_for = '';
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`
      UPDATE move SET day_ahead = NULL, day_reason = NULL WHERE day_reason <> 'hold';
      ALTER TABLE move DROP day_reason;
      ALTER TABLE move RENAME day_ahead TO hold_until;
      ALTER INDEX move_day_ahead RENAME TO move_hold_until;
      UPDATE move SET assessed_for = '';
    `);
  }
}
