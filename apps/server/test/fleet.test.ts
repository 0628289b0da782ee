import { api } from '@ulvane/contract';
import { guessMapping } from '@ulvane/core/survey';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { TestHouse, type Visitor } from './house';

let house: TestHouse;
let technician: Visitor;
let lead: Visitor;

beforeAll(async () => {
  house = await TestHouse.open('demo');
  technician = await house.signedIn('technician');
  lead = await house.signedIn('lead');
});
afterAll(() => house.close());

const headers = ['Serial', 'Make', 'Model', 'Year', 'RAM', 'OS', 'Location', 'Due'];
const mapping = guessMapping(headers);
const cells = (...values: string[]) =>
  Object.fromEntries(headers.map((header, index) => [header, values[index] ?? '']));
const rows = [
  {
    row: 2,
    cells: cells('NEW-1', 'Kestle', 'Sill', '2018', '8', 'Corvel 9 Business', 'Stannick', '2026-04-01'),
  },
  { row: 3, cells: cells('NEW-2', 'Kestle', 'Sill', 'twenty', '8', 'Corvel 99', 'Stannick', '1 April') },
  { row: 4, cells: cells('', 'Kestle', 'Sill', '2018', '8', '', '', '') },
  { row: 5, cells: cells('new-1', 'Kestle', 'Sill', '2018', '16', '', '', '') },
];
const take = (dryRun: boolean, given: ((typeof rows)[number] & { sameAsRow?: number })[] = rows) =>
  technician.call(api.takeRows, { body: { dryRun, mapping, rows: given } }).then(({ outcomes }) => outcomes);
const total = async () => (await technician.call(api.moves)).total;

describe('a list', () => {
  it('knows common headers', () => {
    expect(mapping).toEqual({
      Serial: 'serial',
      Make: 'maker',
      Model: 'model',
      Year: 'year',
      RAM: 'memoryBytes',
      OS: 'presentRelease',
      Location: 'site',
      Due: 'dueOn',
    });
  });

  it('says in a dry run what it would do, with errors by row and column, and stores nothing', async () => {
    const before = await total();
    const outcomes = await take(true);
    expect(outcomes.map(({ row, outcome }) => [row, outcome])).toEqual([
      [2, 'new'],
      [3, 'refused'],
      [4, 'refused'],
      [5, 'refused'],
    ]);
    expect(outcomes[1]?.problems.map(({ path }) => path)).toEqual(['Year', 'OS', 'Due']);
    expect(outcomes[2]?.problems[0]?.sentence).toContain('serial is missing');
    expect(outcomes[3]?.problems[0]?.sentence).toContain('is in row 2 already');
    expect(await total()).toBe(before);
    expect((await technician.call(api.listMapping)).mapping).toEqual({});
  });

  it('reads numbers as their column writes them, and else as the house does', async () => {
    const memory = async (text: string, marks?: Record<string, 'point' | 'comma' | 'either'>) => {
      const { outcomes } = await technician.call(api.takeRows, {
        body: {
          dryRun: true,
          mapping: { S: 'serial', RAM: 'memoryBytes' },
          rows: [{ row: 2, cells: { S: 'MARKS-1', RAM: text } }],
          ...(marks ? { marks } : {}),
        },
      });
      return outcomes[0]?.problems[0]?.code ?? 'taken';
    };
    expect(await memory('8,192 MB')).toBe('size-two-meanings');
    expect(await memory('8,192 MB', { RAM: 'point' })).toBe('taken');
    const { houseRules, houseRulesVersion } = await lead.call(api.house);
    await lead.call(api.setHouseRules, {
      body: { version: houseRulesVersion, houseRules: { ...houseRules, writtenNumbers: 'point' } },
    });
    expect(await memory('8,192 MB')).toBe('taken');
    await lead.call(api.setHouseRules, { body: { version: houseRulesVersion + 1, houseRules } });
    expect(await memory('8,192 MB')).toBe('size-two-meanings');
  });

  it('refuses a cell that is too long, and a serial of an earlier batch, for their own rows only', async () => {
    const outcomes = await take(true, [
      { row: 2, cells: { ...cells('LONG-1'), Model: 'x'.repeat(2001) } },
      { row: 3, cells: cells('LONG-2', 'Kestle', 'Sill', '2018', '8') },
      { row: 801, cells: cells('LONG-3', 'Kestle'), sameAsRow: 17 },
    ]);
    expect(outcomes.map(({ outcome }) => outcome)).toEqual(['refused', 'new', 'refused']);
    expect(outcomes[0]?.problems.map(({ path, code }) => [path, code])).toEqual([['Model', 'too-long']]);
    expect(outcomes[2]?.problems[0]?.sentence).toContain('is in row 17 already');
  });

  it('is safe to take twice: the same serial is updated and not doubled', async () => {
    const before = await total();
    expect((await take(false))[0]?.outcome).toBe('new');
    expect(await total()).toBe(before + 1);
    expect((await take(false))[0]?.outcome).toBe('unchanged');
    const more = [{ row: 2, cells: cells('NEW-1', 'Kestle', 'Sill', '2018', '16') }];
    expect((await take(false, more))[0]?.outcome).toBe('updated');
    expect(await total()).toBe(before + 1);
    const [row] = (await technician.call(api.moves, { query: '?search=NEW-1' })).rows;
    expect(row).toMatchObject({ site: 'Stannick', present: 'Corvel 9 Business', dueOn: '2026-04-01' });
    const { move } = await technician.call(api.move, { params: { reference: row?.reference ?? '' } });
    expect(move.facts.memoryBytes).toMatchObject({
      value: 16 * 1024 ** 3,
      source: 'imported',
      by: 'technician',
    });
    expect((await technician.call(api.listMapping)).mapping).toEqual(mapping);
  });

  it('does not double a device that two people import at the same moment', async () => {
    const before = await total();
    const twice = [{ row: 2, cells: cells('AT-ONCE-1', 'Kestle', 'Sill', '2018', '8') }];
    const both = await Promise.all([take(false, twice), take(false, twice), take(false, twice)]);
    expect(both.map(([outcome]) => outcome?.outcome).sort()).toEqual(['new', 'unchanged', 'unchanged']);
    expect(await total()).toBe(before + 1);
  });

  it('names a serial that belongs to two open moves, and picks neither', async () => {
    await house.sql(
      `UPDATE move SET serial = 'TWIN-1', record = jsonb_set(record, '{facts,serial,value}', '"TWIN-1"') WHERE reference IN ('MV-0004', 'MV-0005')`,
    );
    const [outcome] = await take(true, [{ row: 2, cells: cells('twin-1', 'Kestle') }]);
    expect(outcome?.problems[0]?.sentence).toContain('belongs to MV-0004 and MV-0005');
  });

  it('is refused whole when it is too long for one request, or no list at all', async () => {
    const many = Array.from({ length: 501 }, (_unused, index) => ({ row: index + 2, cells: {} }));
    const answer = await technician.at(api.takeRows, { body: { dryRun: true, mapping, rows: many } });
    expect(answer.status).toBe(422);
    expect(
      (await technician.at(api.takeRows, { body: { dryRun: true, mapping: { A: 'colour' }, rows: [] } }))
        .status,
    ).toBe(422);
  });

  it('is refused where a row contradicts what is known', async () => {
    const headersOf = { Serial: 'serial', Firmware: 'firmwareMode', Secure: 'secureBoot' } as const;
    const { outcomes } = await technician.call(api.takeRows, {
      body: {
        dryRun: true,
        mapping: headersOf,
        rows: [{ row: 2, cells: { Serial: 'NEW-9', Firmware: 'legacy', Secure: 'on' } }],
      },
    });
    expect(outcomes[0]?.problems[0]).toMatchObject({ code: 'contradiction' });
  });
});

describe('many surveys', () => {
  const survey = (serial: string) =>
    JSON.stringify({
      format: 'ulvane-survey',
      version: 1,
      takenAt: '2026-03-02T08:00:00.000Z',
      device: { maker: 'Kestle', model: 'Sill', serial },
    });

  it('go each to the move of its serial or to a new one; one that cannot be read keeps no other out', async () => {
    const files = [
      { name: 'a.json', text: survey('NEW-1') },
      { name: 'b.json', text: survey('NEW-7') },
      { name: 'c.json', text: '{"format":' },
    ];
    const dry = await technician.call(api.takeSurveys, { body: { dryRun: true, files } });
    expect(dry.outcomes.map(({ outcome }) => outcome)).toEqual(['updated', 'new', 'refused']);
    const before = await total();
    const { outcomes } = await technician.call(api.takeSurveys, { body: { dryRun: false, files } });
    expect(outcomes[2]?.problems[0]?.code).toBe('survey-truncated');
    expect(await total()).toBe(before + 1);
  });
});

describe('choosing for many', () => {
  const choose = (dryRun: boolean, references: string[]) =>
    technician.call(api.chooseForMany, {
      body: {
        dryRun,
        references,
        routeId: 'in-place-upgrade',
        releaseId: 'corvel-10-business',
        reason: 'All the same desk.',
      },
    });

  it('shows the exceptions before it is done, and does the others', async () => {
    // The tenth ticket desk has a survey and no route; MV-0001 is handed over; MV-0012 is unknown.
    const references = ['MV-0001', 'MV-0010', 'MV-0012', 'MV-9999'];
    const { outcomes } = await choose(true, references);
    expect(outcomes.map(({ outcome }) => outcome)).toEqual(['refused', 'chosen', 'chosen', 'refused']);
    expect(outcomes[0]?.sentence).toContain('was handed over');
    expect(outcomes[3]?.sentence).toContain('There is no move');
    const before = await technician.call(api.move, { params: { reference: 'MV-0010' } });
    expect(before.move.decision).toBe(null);
    await choose(false, references);
    const after = await technician.call(api.move, { params: { reference: 'MV-0010' } });
    expect(after.move.decision).toMatchObject({
      routeId: 'in-place-upgrade',
      releaseId: 'corvel-10-business',
    });
    expect(after.version).toBe(before.version + 1);
    const { lines: events } = await technician.call(api.events, { params: { reference: 'MV-0010' } });
    expect(events.at(-1)?.kind).toBe('route-chosen');
  });
});

describe('the list of moves', () => {
  it('puts MV-10000 behind MV-9999, and gives each page its own rows', async () => {
    await house.sql(`UPDATE move SET reference = 'MV-10000' WHERE reference = 'MV-0002'`);
    const pages = await Promise.all(
      [1, 2, 3, 4].map((page) => technician.call(api.moves, { query: `?page=${page}&pageSize=20` })),
    );
    const references = pages.flatMap((page) => page.rows.map(({ reference }) => reference));
    expect(references.at(-1)).toBe('MV-10000');
    expect(new Set(references).size).toBe(pages[0]?.total);
  });
});

describe('selecting all', () => {
  it('has every move of the list, whatever its page, and no other', async () => {
    for (const query of ['', '?stage=save', '?search=kestle&site=Lowholm', '?search=nothing-like-it']) {
      const { references } = await technician.call(api.moveReferences, { query });
      const list = await technician.call(api.moves, {
        query: `${query}${query === '' ? '?' : '&'}pageSize=1`,
      });
      expect([query, references.length]).toEqual([query, list.total]);
      expect(new Set(references).size).toBe(references.length);
    }
    const { references } = await technician.call(api.moveReferences, { query: '?stage=save' });
    const saved = await technician.call(api.moves, { query: '?stage=save&pageSize=200' });
    expect(references.toSorted()).toEqual(saved.rows.map(({ reference }) => reference).toSorted());
    expect(references.length).toBeGreaterThan(5);
  });
});

describe('the fleet', () => {
  it('is grouped, and the groups add up', async () => {
    const open = await house.sql(`SELECT count(*)::int AS n FROM move WHERE stage <> 'done' AND site <> ''`);
    const { groups } = await technician.call(api.fleetGroups, { query: '?by=site' });
    expect(groups.reduce((sum, { count }) => sum + count, 0)).toBe(open[0]?.n);
    const present = await technician.call(api.fleetGroups, { query: '?by=present' });
    const corvel = present.groups.find(({ value }) => value === 'Corvel 9 Business');
    expect(corvel).toMatchObject({ key: 'corvel-9-business', daysLeft: 388 });
    // The list is asked by the release's id, and has as many open moves as the group counts.
    const running = await technician.call(api.moves, { query: '?present=corvel-9-business&pageSize=200' });
    expect(running.rows.filter(({ stage }) => stage !== 'done')).toHaveLength(corvel?.count ?? 0);
  });

  it('has a shopping list whose lines name as many devices as they count', async () => {
    const { lines } = await technician.call(api.shoppingList);
    expect(lines.length).toBeGreaterThan(0);
    for (const { count, references, part } of lines) {
      expect(references).toHaveLength(count);
      expect(part).toMatch(/memory module|solid-state disk|network adapter/);
    }
    const csv = await technician.raw('GET', api.shoppingListCsv.path);
    expect(String(csv.body).split('\r\n')).toHaveLength(lines.length + 1);
  });

  it('is filtered by verdict and by what unlocks most, on the server', async () => {
    const { rows: fixable } = await technician.call(api.moves, { query: '?verdict=fixable&pageSize=200' });
    expect(fixable.length).toBeGreaterThan(0);
    for (const { verdict } of fixable) expect(verdict).toBe('fixable');
    const unlock = fixable.find((row) => row.unlock !== null)?.unlock ?? '';
    const { rows: same } = await technician.call(api.moves, {
      query: `?unlock=${encodeURIComponent(unlock)}`,
    });
    for (const row of same) expect(row.unlock).toBe(unlock);
  });

  it('knows what every release would take on every device, when asked', async () => {
    const { columns } = await technician.call(api.fleetFit);
    const { rows } = await technician.call(api.moves, { query: '?fit=yes' });
    expect(rows.length).toBeGreaterThan(20);
    for (const { fit } of rows)
      expect(Object.keys(fit?.cells ?? {}).toSorted()).toEqual(
        columns.map(({ releaseId }) => releaseId).toSorted(),
      );
    expect((await technician.call(api.moves)).rows[0]?.fit).toBe(null);
  });

  it('adds up a kind from its devices, and the fleet from all that are not done', async () => {
    const table = await technician.call(api.fleetFit, { query: '?order=device-count' });
    const [open] = await house.sql(`SELECT count(*)::int AS n FROM move WHERE stage <> 'done'`);
    expect(table.devices).toBe(open?.n);
    const [kind] = table.rows;
    const { rows } = await technician.call(api.moves, {
      query: `?fit=yes&pageSize=200&device=${encodeURIComponent(kind?.device ?? '')}&present=${kind?.presentId ?? ''}`,
    });
    const devices = rows.filter(({ stage }) => stage !== 'done');
    expect(kind?.count).toBe(devices.length);
    for (const [releaseId, { cell, same }] of Object.entries(kind?.cells ?? {})) {
      const alike = devices.filter(
        ({ fit }) => JSON.stringify(fit?.cells[releaseId]) === JSON.stringify(cell),
      );
      expect([releaseId, alike.length]).toEqual([releaseId, same]);
    }
    const lowholm = await technician.call(api.fleetFit, { query: '?search=Lowholm' });
    expect(lowholm.devices).toBeGreaterThan(0);
    expect(lowholm.devices).toBeLessThan(table.devices);
    expect((await technician.at(api.fleetFit, { query: '?order=dearest' })).status).toBe(422);
  });
});

describe('today', () => {
  it('shows what is under way and what is due first, in the order to go, and counts everything', async () => {
    const today = await technician.call(api.today);
    expect(today.hands.length).toBeLessThanOrEqual(100);
    const [open] = await house.sql(
      `SELECT count(*)::int AS n FROM move WHERE stage <> 'done' AND present <> ''`,
    );
    expect(today.countdown.reduce((sum, { count }) => sum + count, 0)).toBe(open?.n);
    const begun = await house.sql(
      `SELECT reference FROM move WHERE stage <> 'done' AND (begun OR wait_title IS NOT NULL)`,
    );
    const shown = new Set(today.hands.map(({ reference }) => reference));
    for (const { reference } of begun) expect(shown).toContain(reference);
    const holds = await house.sql(
      `SELECT reference FROM move
       WHERE day_ahead IS NOT NULL AND (stage <> 'done' OR abs(day_ahead - date '2026-03-02') <= 60)`,
    );
    expect(today.ahead).toHaveLength(holds.length);
    const days = today.ahead.map(({ daysLeft }) => daysLeft);
    expect(days).toEqual([...days].sort((a, b) => a - b));
  });
});
