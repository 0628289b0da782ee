import { FitSchema } from '@ulvane/core/decide';
import { readFileSync } from 'node:fs';
import { api } from '@ulvane/contract';
import { resolveCatalogue } from '@ulvane/core/catalogue';
import { defaultHouseRules, HouseRulesSchema } from '@ulvane/core/rules';
import { MoveSchema, newMove, upgradeRecord } from '@ulvane/core/record';
import { DataSource } from 'typeorm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { dataSourceOptions } from '../src/database/dataSource';
import { First1772445600000 } from '../src/database/first.migration';
import { LogReader } from '../src/log/logReader';
import { TestHouse, now } from './house';

/** House rules as it was kept before it had all its questions. */
const oldHouseRules = {
  copiesBeforeLine: 1,
  cloudCopyCounts: true,
  otherDisks: 'unplug',
  encryption: 'off',
  networkDuringSetup: 'online',
  account: 'local',
  boot: 'change-order',
  stick: 'minimum',
  optionalUpdates: true,
  keepBackupDays: 7,
  weights: { dataRisk: 1, handsOn: 2, elapsed: 3, ownerEffort: 4, money: 5, support: 6, reversible: 7 },
};

const file: unknown = JSON.parse(
  readFileSync(new URL('../../../data/catalogue/catalogue.json', import.meta.url), 'utf8'),
);

const without = (body: object, ...keys: string[]) =>
  Object.fromEntries(Object.entries(body).filter(([key]) => !keys.includes(key)));

/** A database as the version before left it: an organisation, its catalogue, and a move under way. */
async function asBefore(databaseUrl: string): Promise<void> {
  const dataSource = await new DataSource({
    ...dataSourceOptions(databaseUrl),
    migrations: [First1772445600000],
  }).initialize();
  await dataSource.runMigrations();
  const catalogue = resolveCatalogue(file, now.slice(0, 10));
  if (!catalogue.ok) throw new Error('the catalogue does not resolve');
  await dataSource.query(
    `INSERT INTO organisation VALUES (1, 'Old house', false, '2026-03-02', $1, 4, null, 'a secret')`,
    [JSON.stringify(oldHouseRules)],
  );
  const parts = {
    families: catalogue.value.families,
    releases: catalogue.value.releases.map((release) =>
      without(release, 'bringings', 'mediaRecipe', 'firstStartNetwork', 'licencePrice'),
    ),
    models: catalogue.value.models.map((model) => without(model, 'diskBays', 'quirks', 'patch')),
    applications: catalogue.value.applications.map((application) => without(application, 'formats')),
  };
  for (const [kind, bodies] of Object.entries(parts))
    for (const [position, body] of bodies.entries())
      await dataSource.query(`INSERT INTO catalogue_entry VALUES ($1, $2, $3, $4)`, [
        kind,
        Object.entries(body).find(([key]) => key === 'id')?.[1],
        position,
        JSON.stringify(body),
      ]);
  const move = newMove({ id: '2f0a4d4e-6f4b-4a9d-8a55-0f6f1f0c9a11', reference: 'MV-0001', createdAt: now });
  const record = {
    ...without(
      move,
      'departures',
      'failedChecks',
      'notNeeded',
      'askedOwner',
      'outdatedCopies',
      'fileLists',
      'renames',
      'retention',
      'reconciled',
    ),
    facts: {
      maker: { value: 'Kestle', source: 'typed', at: now, by: 'Ines' },
      model: { value: 'Sill', source: 'typed', at: now, by: 'Ines' },
      serial: { value: 'KS-1', source: 'typed', at: now, by: 'Ines' },
      presentRelease: { value: 'corvel-8-business', source: 'typed', at: now, by: 'Ines' },
    },
    owner: 'Deck',
    site: 'Stannick',
    destinations: [
      {
        id: 'b-07',
        name: 'B-07',
        kind: 'drive',
        serial: 'S7',
        capacityBytes: 10,
        freeBytes: 10,
        fileSystem: 'exfat',
        link: 'usb3',
        medium: 'spinning',
        takes: ['letters'],
      },
    ],
    dataSets: [
      {
        id: 'letters',
        name: 'Letters',
        kind: 'folder',
        path: '',
        sizeBytes: 1,
        fileCount: 1,
        largestFileBytes: 1,
        place: 'system-partition',
      },
    ],
    handover: { ...move.handover, backupPlace: 'office safe', wipeOn: '2026-03-20' },
    preparation: without(
      move.preparation,
      'ownerConsent',
      'organisationConsent',
      'isolation',
      'replacement',
      'dataMoved',
      'wipe',
      'disposal',
    ),
    decision: {
      routeId: 'hold',
      releaseId: null,
      at: now,
      by: 'Ines',
      reason: 'No hands before spring.',
      advisedTitle: 'Hold',
    },
  };
  await dataSource.query(
    `INSERT INTO move VALUES ($1, 'MV-0001', 3, $2, 'Kestle Sill', 'KS-1', 'Deck', 'Stannick', 'decide', 'Hold', '', '', null, 'x', false)`,
    [move.id, JSON.stringify(record)],
  );
  await dataSource.query(
    `INSERT INTO account VALUES (gen_random_uuid(), 'Maud  Sallow', 'lead', 'x', false)`,
  );
  for (const sentence of ['Move started.', 'Hold chosen.', 'Data sets listed.'])
    await dataSource.query(
      `INSERT INTO event (move_id, at, by, kind, sentence) VALUES ($1, $2, 'Ines', 'old', $3)`,
      [move.id, now, sentence],
    );
  await dataSource.destroy();
}

let house: TestHouse;
beforeAll(async () => {
  house = await TestHouse.open('empty', asBefore);
});
afterAll(() => house.close());

describe('a database of the version before', () => {
  it('keeps every answer of house rules, and takes the shipped one for each new question', async () => {
    const [row] = await house.sql('SELECT practice FROM organisation');
    // Read as it is always read: what was never asked has its shipped answer.
    expect(HouseRulesSchema.parse(row?.practice)).toEqual({
      ...defaultHouseRules,
      ...oldHouseRules,
      weights: { ...defaultHouseRules.weights, ...oldHouseRules.weights },
    });
  });

  it('has a catalogue that is read, and its moves with it', async () => {
    const [account] = await house.sql(`SELECT name_key FROM account WHERE name = 'Maud  Sallow'`);
    expect(account?.name_key).toBe('maud sallow');
    const [counts] = await house.sql(
      `SELECT count(*) FILTER (WHERE body ? 'bringings')::int AS releases FROM catalogue_entry WHERE kind = 'releases'`,
    );
    expect(counts?.releases).toBe(24);
    const [move] = await house.sql(`SELECT present_id, verdict, record, wipe_on::text FROM move`);
    expect(move?.present_id).toBe('corvel-8-business');
    expect(move?.wipe_on).toBe('2026-03-20');
    // Place and last day of the backup stood once for a move, and stand for each destination now.
    expect(MoveSchema.parse(upgradeRecord(move?.record)).retention).toEqual([
      { destinationId: 'b-07', label: 'B-07', place: 'office safe', keepUntil: '2026-03-20', wiped: null },
    ]);
  });

  it('has its log chained as it was, and the record tied to its last line', async () => {
    const reader = house.running.app.get(LogReader);
    const checks = [];
    for await (const check of reader.checkAll()) checks.push(check);
    expect(checks.map(({ reference, lines, fault }) => [reference, lines, fault])).toEqual([
      [null, 0, null],
      ['MV-0001', 3, null],
    ]);
    await house.sql(`UPDATE move SET record = jsonb_set(record, '{owner}', '"Somebody else"')`);
    const [move] = await house.sql('SELECT id FROM move');
    expect((await reader.check(String(move?.id), 'MV-0001')).fault).toMatchObject({
      kind: 'record',
      number: 3,
    });
    await house.sql(`UPDATE move SET record = jsonb_set(record, '{owner}', '"Deck"')`);
    expect((await reader.check(String(move?.id), 'MV-0001')).fault).toBeNull();
  });

  it('is reassessed by itself, and the old record is read with its plain defaults', async () => {
    let waiting = 1;
    for (let tries = 0; tries < 100 && waiting > 0; tries += 1) {
      const [row] = await house.sql(
        `SELECT count(*) FILTER (WHERE assessed_for = '')::int AS waiting FROM move`,
      );
      waiting = Number(row?.waiting);
      await new Promise((resolve) => setTimeout(resolve, 50));
    }
    expect(waiting).toBe(0);
    const [row] = await house.sql(`SELECT fit, advice, search FROM move`);
    // Columns follow the record: those that the older version wrote by other rules are made anew.
    expect(row?.search).toBe('MV-0001 Kestle Sill KS-1 Deck Stannick  Corvel 8 Business');
    // Of the 24 releases of the catalogue those that still get updates.
    const { cells } = FitSchema.parse(row?.fit);
    expect(Object.keys(cells).length).toBeGreaterThan(10);
    expect(row?.advice).toBe('Hold');
    expect((await house.visitor().at(api.health)).status).toBe(200);
  });
});
