import type { MigrationInterface, QueryRunner } from 'typeorm';

export class First1772445600000 implements MigrationInterface {
  name = 'First1772445600000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TYPE role AS ENUM ('technician', 'lead', 'observer');
      CREATE TYPE catalogue_kind AS ENUM ('families', 'releases', 'models', 'applications');
      CREATE TYPE stage AS ENUM ('survey', 'decide', 'save', 'prepare', 'cross', 'settle', 'hand-over', 'done');

      CREATE TABLE organisation (
        id int PRIMARY KEY CHECK (id = 1),
        name text NOT NULL,
        demo boolean NOT NULL,
        first_day date NOT NULL,
        practice jsonb NOT NULL,
        practice_version int NOT NULL,
        set_up_token_hash text,
        session_secret text NOT NULL
      );

      CREATE TABLE account (
        id uuid PRIMARY KEY,
        name text NOT NULL,
        role role NOT NULL,
        password_hash text NOT NULL,
        disabled boolean NOT NULL DEFAULT false
      );
      CREATE UNIQUE INDEX account_name ON account (lower(name));

      CREATE TABLE session (
        sid varchar PRIMARY KEY,
        sess json NOT NULL,
        expire timestamp(6) NOT NULL
      );
      CREATE INDEX session_expire ON session (expire);

      CREATE TABLE catalogue_entry (
        kind catalogue_kind NOT NULL,
        id text NOT NULL,
        position int NOT NULL,
        body jsonb NOT NULL,
        PRIMARY KEY (kind, id)
      );

      CREATE SEQUENCE move_reference;
      CREATE TABLE move (
        id uuid PRIMARY KEY,
        reference text NOT NULL UNIQUE,
        version int NOT NULL,
        record jsonb NOT NULL,
        device text NOT NULL,
        serial text NOT NULL,
        owner text NOT NULL,
        site text NOT NULL,
        stage stage NOT NULL,
        route text NOT NULL,
        target text NOT NULL,
        present text NOT NULL,
        due_on date,
        next text NOT NULL,
        begun boolean NOT NULL,
        blocked_because text,
        wait_title text,
        wait_started_at timestamptz,
        wait_minutes double precision
      );
      CREATE INDEX move_stage ON move (stage);
      CREATE INDEX move_site ON move (site);
      CREATE INDEX move_serial ON move (lower(serial));
      CREATE INDEX move_due_on ON move (due_on);

      CREATE TABLE event (
        id bigserial PRIMARY KEY,
        move_id uuid REFERENCES move (id),
        at timestamptz NOT NULL,
        by text NOT NULL,
        kind text NOT NULL,
        sentence text NOT NULL
      );
      CREATE INDEX event_move ON event (move_id, id);

      CREATE FUNCTION refuse_change() RETURNS trigger LANGUAGE plpgsql AS $$
      BEGIN
        RAISE EXCEPTION 'the log is append-only: % refused', TG_OP USING ERRCODE = 'restrict_violation';
      END $$;
      CREATE TRIGGER event_append_only BEFORE UPDATE OR DELETE ON event FOR EACH ROW EXECUTE FUNCTION refuse_change();
      CREATE TRIGGER event_never_emptied BEFORE TRUNCATE ON event FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`
      DROP TABLE event; DROP FUNCTION refuse_change; DROP TABLE move; DROP SEQUENCE move_reference;
      DROP TABLE catalogue_entry; DROP TABLE session; DROP TABLE account; DROP TABLE organisation;
      DROP TYPE stage; DROP TYPE catalogue_kind; DROP TYPE role;
    `);
  }
}
