import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Settings that house rules did not have before, as a house that was there would have answered. */
const newSettings = {
  manner: 'keep',
  erase: 'whole-disk',
  savedAs: 'data',
  dataPartition: 'one',
  efiPartition: 'own',
  stickTool: 'official',
  belowMinimum: 'alternative',
  partitioning: 'guided',
  spokenGigabyte: 'decimal',
};

const newReleaseFields = { bringings: ['stick'], mediaRecipe: '', firstStartNetwork: false, licencePrice: 0 };
const newModelFields = { diskBays: 1, quirks: [] };
const newApplicationFields = { formats: [] };

/** The catalogue is edited, practice has a history, and lists know what a device could become. */
export class Decide1772532000000 implements MigrationInterface {
  name = 'Decide1772532000000';

  async up(runner: QueryRunner): Promise<void> {
    // Trusted since PostgreSQL 13: the database's owner may have it.
    await runner.query('CREATE EXTENSION IF NOT EXISTS pg_trgm');
    await runner.query(
      `UPDATE organisation SET practice = $1::jsonb || practice ||
         jsonb_build_object('weights', '{"house": 6}'::jsonb || (practice -> 'weights'))`,
      [JSON.stringify(newSettings)],
    );
    for (const [kind, fields] of [
      ['releases', newReleaseFields],
      ['models', newModelFields],
      ['applications', newApplicationFields],
    ] as const)
      await runner.query(`UPDATE catalogue_entry SET body = $1::jsonb || body WHERE kind = $2`, [
        JSON.stringify(fields),
        kind,
      ]);
    await runner.query(`
      ALTER TABLE organisation
        ADD catalogue_version int NOT NULL DEFAULT 1,
        ADD list_mapping jsonb NOT NULL DEFAULT '{}';

      CREATE TABLE catalogue_change (
        id bigserial PRIMARY KEY,
        kind catalogue_kind NOT NULL,
        entry_id text NOT NULL,
        at timestamptz NOT NULL,
        by text NOT NULL,
        change jsonb NOT NULL
      );
      CREATE INDEX catalogue_change_entry ON catalogue_change (kind, entry_id, id);
      CREATE TRIGGER catalogue_change_append_only BEFORE UPDATE OR DELETE ON catalogue_change
        FOR EACH ROW EXECUTE FUNCTION refuse_change();
      CREATE TRIGGER catalogue_change_never_emptied BEFORE TRUNCATE ON catalogue_change
        FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();

      CREATE TABLE practice_change (
        id bigserial PRIMARY KEY,
        at timestamptz NOT NULL,
        by text NOT NULL,
        sentences jsonb NOT NULL,
        practice jsonb NOT NULL
      );
      CREATE TRIGGER practice_change_append_only BEFORE UPDATE OR DELETE ON practice_change
        FOR EACH ROW EXECUTE FUNCTION refuse_change();
      CREATE TRIGGER practice_change_never_emptied BEFORE TRUNCATE ON practice_change
        FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();

      CREATE TYPE verdict AS ENUM ('meets', 'fixable', 'waivable', 'unknown', 'fails');
      ALTER TABLE move
        ADD verdict verdict NOT NULL DEFAULT 'unknown',
        ADD verdicts jsonb NOT NULL DEFAULT '{}',
        ADD advice text NOT NULL DEFAULT '',
        ADD unlock text,
        ADD parts jsonb NOT NULL DEFAULT '[]',
        ADD hold_until date,
        -- Catalogue, practice and day that verdicts and advice were made with; another one: to be made anew.
        ADD assessed_for text NOT NULL DEFAULT '',
        -- Everything that a list is searched by, in one place for one index.
        ADD search text NOT NULL DEFAULT '';
      UPDATE move SET search = concat_ws(' ', reference, device, serial, owner, site, present, target);
      CREATE INDEX move_search ON move USING gin (search gin_trgm_ops);
      CREATE INDEX move_number ON move (length(reference), reference);
      CREATE INDEX move_device ON move (device, reference);
      CREATE INDEX move_serial_reference ON move (serial, reference);
      CREATE INDEX move_route ON move (route, reference);
      CREATE INDEX move_target ON move (target, reference);
      CREATE INDEX move_stage_reference ON move (stage, reference);
      CREATE INDEX move_due_on_reference ON move (due_on, reference);
      CREATE INDEX move_advice ON move (advice, reference);
      CREATE INDEX move_owner ON move (owner, reference);
      CREATE INDEX move_site_reference ON move (site, reference);
      CREATE INDEX move_present ON move (present, reference);
      CREATE INDEX move_verdict ON move (verdict, reference);
      CREATE INDEX move_unlock ON move (unlock) WHERE unlock IS NOT NULL;
      CREATE INDEX move_assessed_for ON move (assessed_for);
      CREATE INDEX move_hold_until ON move (hold_until) WHERE hold_until IS NOT NULL;
      DROP INDEX move_site; DROP INDEX move_stage; DROP INDEX move_due_on;
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE INDEX move_site ON move (site);
      CREATE INDEX move_stage ON move (stage);
      CREATE INDEX move_due_on ON move (due_on);
      DROP INDEX move_site_reference; DROP INDEX move_stage_reference; DROP INDEX move_due_on_reference;
      DROP INDEX move_number; DROP INDEX move_serial_reference; DROP INDEX move_route; DROP INDEX move_target;
      DROP INDEX move_device; DROP INDEX move_owner; DROP INDEX move_present;
      ALTER TABLE move DROP search, DROP assessed_for, DROP hold_until, DROP parts, DROP unlock, DROP advice,
        DROP verdicts, DROP verdict;
      DROP TYPE verdict;
      DROP TABLE practice_change; DROP TABLE catalogue_change;
      ALTER TABLE organisation DROP list_mapping, DROP catalogue_version;
    `);
  }
}
