import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Which version of the move a line of its log belongs to: a refused change is told the one that it collided with. */
export class EventVersion1785000000000 implements MigrationInterface {
  name = 'EventVersion1785000000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE event ADD version integer');
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE event DROP version');
  }
}
