import type { MigrationInterface, QueryRunner } from 'typeorm';
import { nameKeyOf } from '../accounts/nameKey';
import { chainStart } from '@ulvane/core/record';
import { chain, hashOfRecord } from '../log/hashing';

type OldEvent = { id: string; move_id: string | null; at: Date; by: string; kind: string; sentence: string };

/** The log as a chain, earlier states of records, the door (throttle, tokens, resets), and secrets of the server apart. */
export class Sound1776000000000 implements MigrationInterface {
  name = 'Sound1776000000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      ALTER TABLE account
        ADD version int NOT NULL DEFAULT 1,
        ADD name_key text,
        ADD reset_hash text,
        ADD reset_until timestamptz;

      CREATE TABLE server_secret (name text PRIMARY KEY, value text NOT NULL);
      INSERT INTO server_secret SELECT 'session', session_secret FROM organisation;
      ALTER TABLE organisation
        DROP session_secret,
        ADD log_count int NOT NULL DEFAULT 0,
        ADD log_head text NOT NULL DEFAULT '${chainStart}';

      CREATE INDEX session_account ON session ((sess -> 'account' ->> 'id'));
      CREATE TABLE sign_in_throttle (key text PRIMARY KEY, since timestamptz NOT NULL, tries int NOT NULL);
      CREATE TABLE api_token (
        id uuid PRIMARY KEY,
        account_id uuid NOT NULL REFERENCES account (id),
        name text NOT NULL,
        scope text NOT NULL,
        hash text NOT NULL UNIQUE,
        ends text NOT NULL,
        created_at timestamptz NOT NULL,
        last_used_at timestamptz,
        revoked_at timestamptz,
        revoked_by text
      );
      CREATE INDEX api_token_account ON api_token (account_id);

      ALTER TABLE move
        ADD log_count int NOT NULL DEFAULT 0,
        ADD log_head text NOT NULL DEFAULT '${chainStart}',
        ADD record_hash text NOT NULL DEFAULT '',
        -- Why the record cannot be read; null where it can.
        ADD unreadable text;
      CREATE INDEX move_unreadable ON move (reference) WHERE unreadable IS NOT NULL;

      ALTER TABLE event
        ADD number int,
        ADD previous text,
        ADD hash text,
        ADD record_hash text,
        ADD imported_by text;
    `);
    await this.nameAccounts(runner);
    await this.chainEvents(runner);
    await runner.query(`
      ALTER TABLE event ALTER number SET NOT NULL, ALTER previous SET NOT NULL, ALTER hash SET NOT NULL;
      CREATE UNIQUE INDEX event_number ON event (coalesce(move_id, '00000000-0000-0000-0000-000000000000'), number);
      DROP INDEX event_move;
      CREATE INDEX event_move ON event (move_id, number);

      -- What a record was before each change, also one behind the application's back. The last ten of a move.
      CREATE TABLE move_past (
        id bigserial PRIMARY KEY,
        move_id uuid NOT NULL REFERENCES move (id),
        version int NOT NULL,
        record jsonb NOT NULL,
        until timestamptz NOT NULL
      );
      CREATE INDEX move_past_move ON move_past (move_id, id);
      CREATE FUNCTION keep_past() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
      BEGIN
        INSERT INTO move_past (move_id, version, record, until) VALUES (OLD.id, OLD.version, OLD.record, now());
        DELETE FROM move_past WHERE move_id = OLD.id AND id <=
          (SELECT id FROM move_past WHERE move_id = OLD.id ORDER BY id DESC OFFSET 10 LIMIT 1);
        RETURN NULL;
      END $$;
      CREATE TRIGGER move_keeps_past AFTER UPDATE OF record ON move FOR EACH ROW
        WHEN (OLD.record IS DISTINCT FROM NEW.record) EXECUTE FUNCTION keep_past();
    `);
  }

  /** One way to compare names, the application's own; two that are the same by it both stay, and can be renamed. */
  private async nameAccounts(runner: QueryRunner): Promise<void> {
    const accounts: { id: string; name: string }[] = await runner.query(
      'SELECT id, name FROM account ORDER BY id',
    );
    const taken = new Set<string>();
    for (const { id, name } of accounts) {
      const key = taken.has(nameKeyOf(name)) ? `${nameKeyOf(name)} ${id}` : nameKeyOf(name);
      taken.add(key);
      await runner.query('UPDATE account SET name_key = $2 WHERE id = $1', [id, key]);
    }
    await runner.query(`
      ALTER TABLE account ALTER name_key SET NOT NULL;
      DROP INDEX account_name;
      CREATE UNIQUE INDEX account_name_key ON account (name_key);
    `);
  }

  /** Lines that were written before the chain are chained as they stand; only the last one knows its record. */
  private async chainEvents(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE event DISABLE TRIGGER event_append_only');
    const owners: { move_id: string | null }[] = await runner.query('SELECT DISTINCT move_id FROM event');
    for (const { move_id: moveId } of owners) {
      const events: OldEvent[] = await runner.query(
        'SELECT * FROM event WHERE move_id IS NOT DISTINCT FROM $1 ORDER BY id',
        [moveId],
      );
      const [row]: { record: unknown }[] =
        moveId === null ? [] : await runner.query('SELECT record FROM move WHERE id = $1', [moveId]);
      const recordHash = row ? hashOfRecord(row.record) : null;
      const { lines, head } = chain(
        { count: 0, hash: chainStart },
        moveId,
        events.map(({ at, by, kind, sentence }, index) => ({
          at: at.toISOString(),
          by,
          kind,
          sentence,
          importedBy: null,
          recordHash: index === events.length - 1 ? recordHash : null,
        })),
      );
      for (const [index, line] of lines.entries())
        await runner.query(
          'UPDATE event SET number = $2, previous = $3, hash = $4, record_hash = $5 WHERE id = $1',
          [events[index]?.id, line.number, line.previous, line.hash, line.recordHash],
        );
      await runner.query(
        moveId === null
          ? 'UPDATE organisation SET log_count = $1, log_head = $2'
          : 'UPDATE move SET log_count = $1, log_head = $2, record_hash = $4 WHERE id = $3',
        moveId === null ? [head.count, head.hash] : [head.count, head.hash, moveId, recordHash],
      );
    }
    await runner.query('ALTER TABLE event ENABLE TRIGGER event_append_only');
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`
      DROP TRIGGER move_keeps_past ON move; DROP FUNCTION keep_past; DROP TABLE move_past;
      DROP INDEX event_number; DROP INDEX event_move;
      ALTER TABLE event DROP number, DROP previous, DROP hash, DROP record_hash, DROP imported_by;
      CREATE INDEX event_move ON event (move_id, id);
      ALTER TABLE move DROP log_count, DROP log_head, DROP record_hash, DROP unreadable;
      DROP TABLE api_token; DROP TABLE sign_in_throttle; DROP INDEX session_account;
      ALTER TABLE organisation DROP log_count, DROP log_head, ADD session_secret text;
      UPDATE organisation SET session_secret = (SELECT value FROM server_secret WHERE name = 'session');
      ALTER TABLE organisation ALTER session_secret SET NOT NULL;
      DROP TABLE server_secret;
      DROP INDEX account_name_key;
      ALTER TABLE account DROP version, DROP name_key, DROP reset_hash, DROP reset_until;
      CREATE UNIQUE INDEX account_name ON account (lower(name));
    `);
  }
}
