import type { MigrationInterface, QueryRunner } from 'typeorm';

/** In place of a verdict for every release what it would take: hands-on, money, and what is given up. */
export class Fit1781000000000 implements MigrationInterface {
  name = 'Fit1781000000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      ALTER TABLE move DROP verdicts;
      ALTER TABLE move ADD fit jsonb NOT NULL DEFAULT '{"advice": null, "cells": {}}';
      ALTER TABLE move ALTER fit DROP DEFAULT;
      -- Made anew for every device, in the background.
      UPDATE move SET assessed_for = '';
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`
      ALTER TABLE move DROP fit;
      ALTER TABLE move ADD verdicts jsonb NOT NULL DEFAULT '{}';
      UPDATE move SET assessed_for = '';
    `);
  }
}
