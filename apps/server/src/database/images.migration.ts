import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Images of releases that are at hand. */
export class Images1782000000000 implements MigrationInterface {
  name = 'Images1782000000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE image (id uuid PRIMARY KEY, version int NOT NULL, body jsonb NOT NULL);
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE image');
  }
}
