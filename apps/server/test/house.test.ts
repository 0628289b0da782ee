import { createApp } from '../src/createApp';
import { dataSourceOptions } from '../src/database/dataSource';
import { readSettings } from '../src/settings';
import { api } from '@ulvane/contract';
import { resolveCatalogue } from '@ulvane/core/catalogue';
import { defaultHouseRules } from '@ulvane/core/rules';
import { DataSource } from 'typeorm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import catalogueFile from '../../../data/catalogue/catalogue.json';
import { now, TestHouse, testSettings, Visitor } from './house';

let house: TestHouse;
beforeAll(async () => {
  house = await TestHouse.open('demo');
});
afterAll(() => house.close());

describe('several servers', () => {
  it('share one database: one seeds it, a session and a change of one are seen by the other', async () => {
    const second = await createApp({
      ...testSettings(house.databaseUrl),
    });
    try {
      expect(second.seeded).toEqual({ kind: 'demo', setUpToken: null, loaded: false });
      const server = await second.app.listen(0, '127.0.0.1');
      const address: unknown = server.address();
      const port = typeof address === 'object' && address !== null && 'port' in address ? address.port : 0;
      const lead = await house.signedIn('lead');
      const elsewhere = new Visitor(`http://127.0.0.1:${String(port)}`, lead.cookie);
      const { houseRulesVersion } = await lead.call(api.house);
      await lead.call(api.setHouseRules, {
        body: { version: houseRulesVersion, houseRules: { ...defaultHouseRules, keepBackupDays: 9 } },
      });
      expect((await elsewhere.call(api.house)).houseRules.keepBackupDays).toBe(9);
    } finally {
      await second.close();
    }
  });
});

describe('a new database', () => {
  it('holds the catalogue that ships, with its days counted from the first one', async () => {
    const lead = await house.signedIn('lead');
    const { catalogue } = await lead.call(api.house);
    expect({ ok: true, value: catalogue }).toEqual(resolveCatalogue(catalogueFile, now.slice(0, 10)));
  });

  it('is made by migrations alone, and they can be taken back', async () => {
    const empty = await TestHouse.open('empty');
    const dataSource = await new DataSource(dataSourceOptions(empty.databaseUrl)).initialize();
    try {
      // What the entities say and what the migrations made are the same tables and columns.
      const { upQueries } = await dataSource.driver.createSchemaBuilder().log();
      const added = upQueries
        .map(({ query }) => query)
        .filter((query) => /CREATE TABLE|ADD "|DROP COLUMN/.test(query));
      expect(added).toEqual([]);
      for (const _migration of dataSource.migrations) await dataSource.undoLastMigration();
      const tables = await empty.sql(`SELECT tablename FROM pg_tables WHERE schemaname = 'public'`);
      expect(tables.map(({ tablename }) => tablename)).toEqual(['migration']);
    } finally {
      await dataSource.destroy();
      await empty.close();
    }
  });

  it('loses lines of lists that no record names, and keeps the rest, whatever records hold', async () => {
    const house = await TestHouse.open('demo');
    const dataSource = await new DataSource(dataSourceOptions(house.databaseUrl)).initialize();
    try {
      // Back to before the one that removes the lines.
      const isDone = () => house.sql(`SELECT 1 FROM migration WHERE name = 'PresentId1779000000000'`);
      while ((await isDone()).length > 0) await dataSource.undoLastMigration();
      const [kept] = await house.sql(
        `SELECT m.reference, list ->> 'id' AS id FROM move m, jsonb_array_elements(m.record -> 'fileLists') AS list
          WHERE EXISTS (SELECT 1 FROM file_entry WHERE list_id = (list ->> 'id')::uuid) LIMIT 1`,
      );
      const [unnamed, lost] = [
        '6f0f6d1e-3f0e-4f7a-9d55-0f6f1f0c9a22',
        '7f0f6d1e-3f0e-4f7a-9d55-0f6f1f0c9a33',
      ];
      for (const id of [unnamed, lost])
        await house.sql(
          `INSERT INTO file_entry SELECT $1::uuid, ordinal, path, size_bytes, sha256, modified_ms, trouble
             FROM file_entry WHERE list_id = $2::uuid LIMIT 1`,
          [id, kept?.id],
        );
      // A record that was broken behind the application's back: its state before is known, with the list it named.
      const [{ reference } = {}] = await house.sql(
        `SELECT reference FROM move WHERE reference <> $1 ORDER BY reference LIMIT 1`,
        [kept?.reference],
      );
      await house.sql(
        `UPDATE move SET record = jsonb_set(record, '{fileLists}', jsonb_build_array(jsonb_build_object('id', $2::text)))
          WHERE reference = $1`,
        [reference, lost],
      );
      await house.sql(`UPDATE move SET record = jsonb_set(record, '{fileLists}', '5') WHERE reference = $1`, [
        reference,
      ]);
      await dataSource.runMigrations();
      const left = await house.sql(
        `SELECT DISTINCT list_id::text AS id FROM file_entry WHERE list_id = ANY($1::uuid[])`,
        [[kept?.id, unnamed, lost]],
      );
      expect(left.map(({ id }) => id).toSorted()).toEqual([kept?.id, lost].toSorted());
    } finally {
      await dataSource.destroy();
      await house.close();
    }
  });
});

describe('settings', () => {
  const DATABASE_URL = 'postgres://somebody@127.0.0.1/ulvane';

  it('have their defaults', () => {
    expect(readSettings({ DATABASE_URL })).toEqual({
      databaseUrl: DATABASE_URL,
      ownerUrl: DATABASE_URL,
      hosts: [],
      proxies: [],
      port: 4310,
      now: null,
      seed: 'demo',
      vault: { kind: 'file', path: '.ulvane/vault.key' },
      logLevel: 'info',
    });
    expect(readSettings({ DATABASE_URL, ULVANE_NOW: '2026-03-02T10:00:00Z' }).now).toBe(now);
    expect(readSettings({ DATABASE_URL, ULVANE_HOSTS: 'desk.marram, desk' }).hosts).toEqual([
      'desk.marram',
      'desk',
    ]);
    expect(readSettings({ DATABASE_URL, ULVANE_VAULT_KEY: 'new,old' }).vault).toEqual({
      kind: 'environment',
      keys: ['new', 'old'],
    });
  });

  it.each([
    ['no database', {}, 'DATABASE_URL'],
    ['another kind of database', { DATABASE_URL: 'file:///ulvane.db' }, 'must begin with postgres://'],
    ['a port that is none', { DATABASE_URL, ULVANE_PORT: '70000' }, 'ULVANE_PORT'],
    ['a day that is none', { DATABASE_URL, ULVANE_NOW: 'yesterday' }, '2026-03-02T10:00:00Z'],
  ])('are refused with %s, and say which', (_what, environment, text) => {
    expect(() => readSettings(environment)).toThrow(text);
  });
});

describe('health', () => {
  it('says so when a migration is missing', async () => {
    const empty = await TestHouse.open('empty');
    try {
      await empty.sql('DELETE FROM migration');
      const answer = await empty.visitor().at(api.health);
      expect([answer.status, answer.body]).toEqual([
        503,
        {
          status: 'failing',
          database: 'up',
          migrations: { done: 0, pending: 13 },
          vault: { state: 'ok', unopenable: 0 },
        },
      ]);
    } finally {
      await empty.close();
    }
  });
});
