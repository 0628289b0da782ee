import { randomBytes } from 'node:crypto';
import { existsSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { api, ProblemDetailsSchema, type Endpoint } from '@ulvane/contract';
import { DataSource } from 'typeorm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { createApp } from '../src/createApp';
import { dataSourceOptions, limits, poolOf } from '../src/database/dataSource';
import { Transactions } from '../src/database/transactions';
import { TestHouse, testSettings, type Visitor } from './house';

let house: TestHouse;
let lead: Visitor;
beforeAll(async () => {
  house = await TestHouse.open('demo');
  lead = await house.signedIn('lead');
});
afterAll(() => house.close());

const codeOf = (body: unknown) => ProblemDetailsSchema.parse(body).problems[0]?.code;

describe('a transaction', () => {
  it('is refused a second connection at once, instead of waiting for it for ever', async () => {
    const transactions = house.running.app.get(Transactions);
    const dataSource = house.running.app.get(DataSource);
    await expect(transactions.run(async () => dataSource.query('SELECT 1'))).rejects.toThrow(
      'a second connection was asked for inside a transaction',
    );
    // What comes after it, outside, is let through.
    expect(await dataSource.query('SELECT 1 AS one')).toEqual([{ one: 1 }]);
  });

  it('stores nothing when it fails, and gives its connection back', async () => {
    const transactions = house.running.app.get(Transactions);
    const pool = poolOf(house.running.app.get(DataSource));
    for (let time = 0; time < limits.connections + 5; time += 1)
      await expect(
        transactions.run(async (manager) => {
          await manager.query(`UPDATE move SET owner = 'Half way'`);
          throw new Error('broken off');
        }),
      ).rejects.toThrow('broken off');
    expect(await house.sql(`SELECT 1 FROM move WHERE owner = 'Half way'`)).toEqual([]);
    expect(pool.totalCount - pool.idleCount).toBe(0);
  });
});

describe('more writes at once than there are connections', () => {
  /** Every way to write that opens a transaction and needs the house or the move beside it. */
  const body = {
    version: 1,
    dataSetId: 'none',
    kind: 'missing',
    folder: null,
    ordinals: null,
    reason: 'Known.',
  };
  const secret = { kind: 'other', label: 'Key', value: 'x' };
  const id = '00000000-0000-4000-8000-000000000000';
  const writes: readonly (readonly [Endpoint, object, object])[] = [
    [api.setIdentity, { reference: 'MV-0009' }, { version: 1, owner: 'A', site: 'B', dueOn: null }],
    [api.addSecret, { reference: 'MV-0009' }, secret],
    [api.explain, { reference: 'MV-0009', id }, body],
    [api.reconcile, { reference: 'MV-0009' }, body],
    [api.plan, { reference: 'MV-0010' }, { version: 1 }],
    [api.addMove, {}, { owner: '', site: '', dueOn: null, surveyText: null }],
  ];

  it('are all answered, and the server goes on', async () => {
    const answers = await Promise.all(
      Array.from({ length: 120 }, (_none, index) => {
        const [entry, params, given] = writes[index % writes.length] ?? writes[0] ?? [];
        return entry ? lead.at(entry, { params: params as Record<string, string>, body: given }) : undefined;
      }),
    );
    for (const answer of answers) expect([200, 404, 409, 422, 503]).toContain(answer?.status);
    expect(answers.filter((answer) => answer?.status === 200).length).toBeGreaterThan(10);
    expect((await house.visitor().at(api.health)).status).toBe(200);
  });

  it('is told in one sentence with Retry-After when a lock is not to be had', async () => {
    const holder = await new DataSource(dataSourceOptions(house.databaseUrl)).initialize();
    const runner = holder.createQueryRunner();
    try {
      await runner.startTransaction();
      await runner.query(`SELECT 1 FROM move WHERE reference = 'MV-0011' FOR UPDATE`);
      const answer = await lead.at(api.plan, { params: { reference: 'MV-0011' }, body: { version: 1 } });
      expect([answer.status, codeOf(answer.body), answer.headers.get('retry-after')]).toEqual([
        503,
        'busy',
        '2',
      ]);
    } finally {
      await runner.rollbackTransaction();
      await runner.release();
      await holder.destroy();
    }
  });
});

describe('a broken connection', () => {
  it('of everybody at once ends nothing: requests are told, and the next ones are answered', async () => {
    const terminate = `SELECT pg_terminate_backend(pid) FROM pg_stat_activity
       WHERE datname = current_database() AND application_name = 'ulvane' AND pid <> pg_backend_pid()`;
    let terminated = 0;
    for (let time = 0; time < 8; time += 1) {
      const asked = Array.from({ length: 20 }, () => lead.at(api.today));
      terminated += (await house.sql(terminate)).length;
      for (const { status } of await Promise.all(asked)) {
        expect([200, 503]).toContain(status);
      }
    }
    expect(terminated).toBeGreaterThan(8);
    expect((await lead.at(api.today)).status).toBe(200);
  });

  it('between COMMIT and its answer is said to be that: nobody knows whether it was saved', async () => {
    const transactions = house.running.app.get(Transactions);
    await house.sql(`
      CREATE TABLE late (at int);
      GRANT INSERT ON late TO ulvane_app;
      CREATE FUNCTION hang_up() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER AS
        $$ BEGIN PERFORM pg_terminate_backend(pg_backend_pid()); RETURN NULL; END $$;
      CREATE CONSTRAINT TRIGGER late_hangs_up AFTER INSERT ON late DEFERRABLE INITIALLY DEFERRED
        FOR EACH ROW EXECUTE FUNCTION hang_up();`);
    await expect(transactions.run((manager) => manager.query('INSERT INTO late VALUES (1)'))).rejects.toThrow(
      'while the transaction was being committed',
    );
  });
});

describe('a database', () => {
  it('that a newer Ulvane has brought up is refused, in one sentence, and stays as it is', async () => {
    const newer = await TestHouse.open('empty');
    try {
      await newer.sql(`INSERT INTO migration (timestamp, name) VALUES (9999999999999, 'Later9999999999999')`);
      await expect(createApp(testSettings(newer.databaseUrl))).rejects.toThrow(
        'the database was brought up by a newer Ulvane (Later9999999999999 is not known here)',
      );
    } finally {
      await newer.close();
    }
  });

  it('is worked with by a role that owns nothing and cannot touch the log', async () => {
    const app = await new DataSource(
      dataSourceOptions(testSettings(house.databaseUrl).databaseUrl),
    ).initialize();
    try {
      for (const sql of [
        `ALTER TABLE event DISABLE TRIGGER event_append_only`,
        `UPDATE event SET sentence = 'x'`,
        `DELETE FROM event`,
        `TRUNCATE event`,
        `DELETE FROM practice_change`,
        `UPDATE move_past SET record = '{}'`,
        `DELETE FROM migration`,
        `DROP TABLE move`,
      ])
        await expect(app.query(sql), sql).rejects.toThrow(/permission denied|must be owner/);
    } finally {
      await app.destroy();
    }
  });
});

describe('setting up', () => {
  it('keeps its one-time link when the account fails', async () => {
    const empty = await TestHouse.open('empty');
    try {
      const body = { token: empty.running.seeded.setUpToken, organisation: 'Ebbing', name: 'Maud' };
      const set = (password: string, name = 'Maud') =>
        empty.visitor().at(api.setUp, { body: { ...body, name, password } });
      expect((await set('password12')).status).toBe(422);
      expect((await set('short')).status).toBe(422);
      // Even what only the database refuses leaves the link unused.
      await empty.sql(`ALTER TABLE account ADD CONSTRAINT no_odd CHECK (name <> 'Odd Fennick')`);
      expect((await set('four words of no kin', 'Odd Fennick')).status).toBe(500);
      expect((await set('four words of no kin')).status).toBe(200);
      expect((await set('four words of no kin', 'Ines')).status).toBe(403);
    } finally {
      await empty.close();
    }
  });
});

describe('a record that cannot be read', () => {
  const damage = (reference: string, patch: string) =>
    house.sql(`UPDATE move SET record = record || $2::jsonb, assessed_for = '' WHERE reference = $1`, [
      reference,
      patch,
    ]);

  it('hinders nobody else, is listed with the reason, and is rolled back to the last version that can be read', async () => {
    const reference = 'MV-0005';
    const before = await lead.call(api.move, { params: { reference } });
    const driveId = (await lead.call(api.drives)).drives[0]?.id ?? '';
    await house.sql(`UPDATE move SET drive_ids = $2::jsonb WHERE reference = $1`, [
      reference,
      JSON.stringify([driveId]),
    ]);
    await damage(reference, '{"owner": 7, "signatures": "none"}');
    const answer = await lead.at(api.move, { params: { reference } });
    expect([answer.status, codeOf(answer.body)]).toEqual([409, 'unreadable-record']);
    // Lists, drives, today and the reassessment go on without it.
    for (const entry of [api.moves, api.today, api.drives, api.fleetGroups, api.shoppingList])
      expect(
        (await lead.at(entry, { query: entry === api.fleetGroups ? '?by=site' : '' })).status,
        entry.path,
      ).toBe(200);
    for (let tries = 0; tries < 100; tries += 1) {
      const [row] = await house.sql(
        `SELECT count(*)::int AS waiting FROM move WHERE assessed_for = '' AND unreadable IS NULL`,
      );
      if (row?.waiting === 0) break;
      await lead.call(api.reassessment);
      await new Promise((resolve) => setTimeout(resolve, 50));
    }
    const { moves } = await lead.call(api.unreadable);
    expect(moves).toMatchObject([
      { reference, reason: expect.stringContaining('“owner”'), rollBackTo: { version: before.version } },
    ]);
    expect((await lead.call(api.moves, { query: `?search=${reference}` })).rows[0]?.unreadable).toContain(
      '“owner”',
    );
    // As it is in the database.
    expect(await lead.call(api.rawRecord, { params: { reference } })).toMatchObject({
      owner: 7,
      signatures: 'none',
    });
    expect((await lead.call(api.rollBackRecord, { params: { reference } })).moves).toEqual([]);
    const after = await lead.call(api.move, { params: { reference } });
    expect(after.move).toEqual(before.move);
    const { lines } = await lead.call(api.events, { params: { reference } });
    expect(lines.at(-1)).toMatchObject({ kind: 'record-rolled-back', by: 'lead' });
  });

  it('is repaired by a lead with a record that can be read and is of that move', async () => {
    const reference = 'MV-0006';
    const { move } = await lead.call(api.move, { params: { reference } });
    await damage(reference, '{"site": null}');
    await house.sql('UPDATE move SET unreadable = $2 WHERE reference = $1', [reference, 'site']);
    const repair = (record: object) => lead.at(api.repairRecord, { params: { reference }, body: { record } });
    expect((await repair({ ...move, site: 5 })).status).toBe(422);
    const other = await repair({ ...move, reference: 'MV-0007' });
    expect([other.status, codeOf(other.body)]).toEqual([422, 'other-move']);
    expect((await repair({ ...move, site: 'Stannick' })).status).toBe(200);
    expect((await lead.call(api.move, { params: { reference } })).move.site).toBe('Stannick');
    const again = await repair(move);
    expect([again.status, codeOf(again.body)]).toEqual([409, 'readable']);
  });

  it('is never made: what the schema that reads it refuses is refused before it is stored', async () => {
    const { move, version } = await lead.call(api.addMove, {
      body: { owner: '', site: '', dueOn: null, surveyText: null },
    });
    const dataSet = {
      name: 'Letters',
      kind: 'folder',
      path: '',
      fileCount: 1,
      largestFileBytes: 1,
      place: 'system-partition',
    };
    const huge = { ...dataSet, id: 'a', sizeBytes: Number.MAX_SAFE_INTEGER };
    const answer = await lead.at(api.setDataSets, {
      params: { reference: move.reference },
      body: { version, dataSets: [huge, { ...huge, id: 'b' }] },
    });
    expect([200, 422]).toContain(answer.status);
    // Whatever was let through is there, and can be read by everybody.
    await lead.call(api.move, { params: { reference: move.reference } });
    expect((await lead.call(api.unreadable)).moves).toEqual([]);
  });
});

describe('what the house goes by', () => {
  it('that cannot be read is said in one sentence, and nothing is judged by a part of it', async () => {
    const other = await TestHouse.open('demo');
    try {
      const visitor = await other.signedIn('lead');
      await other.sql(`UPDATE organisation SET practice = practice || '{"keepBackupDays": "soon"}'`);
      const answer = await visitor.at(api.house);
      expect([answer.status, codeOf(answer.body)]).toEqual([503, 'unreadable-house']);
      expect(ProblemDetailsSchema.parse(answer.body).detail).toContain('“keepBackupDays”');
    } finally {
      await other.close();
    }
  });
});

describe('a vault', () => {
  it('without its key is said at once, with how many secrets it concerns, and no key is made beside old secrets', async () => {
    const reference = 'MV-0012';
    await lead.call(api.addSecret, {
      params: { reference },
      body: { kind: 'other', label: 'Old', value: 'held by the old key' },
    });
    const [sealed] = await house.sql('SELECT count(*)::int AS count FROM secret');
    const path = join(tmpdir(), `ulvane-${randomBytes(6).toString('hex')}.key`);
    const other = await createApp({
      ...testSettings(house.databaseUrl),
      vault: { kind: 'file', path },
    });
    try {
      expect(other.unopenable).toBe(sealed?.count);
      const server = await other.app.listen(0, '127.0.0.1');
      const address = server.address();
      const port = typeof address === 'object' && address !== null ? address.port : 0;
      const health = await fetch(`http://127.0.0.1:${port}/api/v1/health`);
      expect([health.status, await health.json()]).toMatchObject([
        503,
        { status: 'failing', database: 'up', vault: { state: 'wrong-key', unopenable: sealed?.count } },
      ]);
      const add = await fetch(`http://127.0.0.1:${port}/api/v1/moves/${reference}/secrets`, {
        method: 'POST',
        headers: { cookie: lead.cookie ?? '', 'content-type': 'application/json' },
        body: JSON.stringify({ kind: 'other', label: 'New', value: 'x' }),
      });
      expect(add.status).toBe(503);
      expect(existsSync(path)).toBe(false);
    } finally {
      await other.close();
    }
  });
});

describe('figures', () => {
  it('are for leads, in the text format that monitoring reads', async () => {
    await lead.at(api.today);
    const answer = await lead.at(api.metrics);
    expect([answer.status, answer.headers.get('content-type')]).toEqual([
      200,
      'text/plain; charset=utf-8; version=0.0.4',
    ]);
    const text = String(answer.body);
    for (const line of [
      /^ulvane_request_seconds_count\{method="GET",route="\/api\/v1\/today",status="200"\} [1-9]/m,
      /^ulvane_pool_connections\{state="used"\} \d+/m,
      /^ulvane_database_up 1$/m,
      /^ulvane_tasks_waiting \d+$/m,
      /^ulvane_reassessment_waiting \d+$/m,
      /^nodejs_eventloop_lag_max_seconds [\d.e+-]+$/m,
    ])
      expect(text).toMatch(line);
    expect((await (await house.signedIn('technician')).at(api.metrics)).status).toBe(403);
  });
});

describe('a server that stops', () => {
  it('finishes what runs, and tells new requests to come again', async () => {
    const other = await TestHouse.open('demo');
    const technician = await other.signedIn('technician');
    const start = { owner: 'Nobody', site: '', dueOn: null, surveyText: null };
    const { move } = await technician.call(api.addMove, { body: start });
    const holder = await new DataSource(dataSourceOptions(other.databaseUrl)).initialize();
    const runner = holder.createQueryRunner();
    await runner.startTransaction();
    await runner.query('SELECT 1 FROM move WHERE id = $1 FOR UPDATE', [move.id]);
    const running = technician.at(api.setIdentity, {
      params: { reference: move.reference },
      body: { version: 1, owner: 'Maud', site: '', dueOn: null },
    });
    // It waits for the lock once it is in the database.
    for (let tries = 0; tries < 100; tries += 1) {
      const [row] = await other.sql(
        `SELECT count(*)::int AS waiting FROM pg_stat_activity WHERE datname = current_database() AND wait_event_type = 'Lock'`,
      );
      if (row?.waiting === 1) break;
      await new Promise((resolve) => setTimeout(resolve, 10));
    }
    const closing = other.close();
    const late = await technician.at(api.today);
    expect([late.status, codeOf(late.body), late.headers.get('retry-after')]).toEqual([503, 'stopping', '2']);
    await runner.commitTransaction();
    await runner.release();
    await holder.destroy();
    expect((await running).status).toBe(200);
    await closing;
  });
});
