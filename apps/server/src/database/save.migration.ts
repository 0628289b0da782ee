import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Lists of files with their checksums, differences, the inventory of drives, the vault, and what is to be wiped. */
export class Save1774000000000 implements MigrationInterface {
  name = 'Save1774000000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      -- The lines of the lists whose heads stand in the moves' records. Written with COPY, a million at a time.
      CREATE TABLE file_entry (
        list_id uuid NOT NULL,
        ordinal int NOT NULL,
        path text NOT NULL,
        size_bytes bigint,
        sha256 bytea,
        modified_ms bigint,
        trouble text,
        PRIMARY KEY (list_id, ordinal)
      );

      CREATE TABLE difference (
        reconciliation_id uuid NOT NULL,
        ordinal int NOT NULL,
        kind text NOT NULL,
        folder text NOT NULL,
        path_before text,
        path_after text,
        size_before bigint,
        size_after bigint,
        sha256_after text,
        noise text,
        trouble text,
        reason text,
        reason_by text,
        reason_at timestamptz,
        PRIMARY KEY (reconciliation_id, ordinal)
      );
      CREATE INDEX difference_kind ON difference (reconciliation_id, kind, ordinal);

      CREATE TABLE drive (
        id uuid PRIMARY KEY,
        version int NOT NULL,
        name text NOT NULL UNIQUE,
        serial text NOT NULL,
        body jsonb NOT NULL
      );
      CREATE UNIQUE INDEX drive_serial ON drive (serial) WHERE serial <> '';

      CREATE TABLE secret (
        id uuid PRIMARY KEY,
        move_id uuid NOT NULL REFERENCES move (id),
        kind text NOT NULL,
        label text NOT NULL,
        at timestamptz NOT NULL,
        by text NOT NULL,
        key_id text NOT NULL,
        nonce bytea NOT NULL,
        sealed bytea NOT NULL,
        showings int NOT NULL DEFAULT 0,
        last_shown_to text
      );
      CREATE INDEX secret_move ON secret (move_id, at);

      ALTER TABLE move ADD wipe_on date, ADD drive_ids jsonb NOT NULL DEFAULT '[]';
      UPDATE move SET wipe_on = (record -> 'handover' ->> 'wipeOn')::date
        WHERE record -> 'handover' ->> 'wipeOn' IS NOT NULL;
      CREATE INDEX move_wipe_on ON move (wipe_on) WHERE wipe_on IS NOT NULL;
      CREATE INDEX move_drive_ids ON move USING gin (drive_ids);
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`
      ALTER TABLE move DROP wipe_on, DROP drive_ids;
      DROP TABLE secret; DROP TABLE drive; DROP TABLE difference; DROP TABLE file_entry;
    `);
  }
}
