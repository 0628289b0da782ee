import { api } from '@ulvane/contract';
import { checkChain, recordHashOf, type ChainFault } from '@ulvane/core/record';
import { DataSource } from 'typeorm';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { sha256 } from '../src/log/hashing';
import { LogReader } from '../src/log/logReader';
import { verifyLog } from '../src/log/verifyLog';
import { TestHouse, type Visitor } from './house';

let house: TestHouse;
let lead: Visitor;
beforeAll(async () => {
  house = await TestHouse.open('demo');
  lead = await house.signedIn('lead');
});
afterAll(() => house.close());

/** As somebody who owns the tables and switches off what keeps the log. */
const tamper = (sql: string, values: unknown[] = []) =>
  house.sql(`ALTER TABLE event DISABLE TRIGGER ALL`).then(() => house.sql(sql, values));

let reference = '';
let id = '';

async function fault(): Promise<ChainFault | null> {
  return (await house.running.app.get(LogReader).check(id, reference)).fault;
}

beforeEach(async () => {
  const started = await lead.call(api.addMove, {
    body: { owner: '', site: '', dueOn: null, surveyText: null },
  });
  ({ reference, id } = started.move);
  const body = { version: 1, owner: 'Maud Sallow', site: 'Marram Head', dueOn: null };
  await lead.call(api.setIdentity, { params: { reference }, body });
  await lead.call(api.addSecret, {
    params: { reference },
    body: { kind: 'other', label: 'Key', value: 'x' },
  });
  await lead.call(api.setIdentity, {
    params: { reference },
    body: { ...body, version: 2, owner: 'Ines Carrow' },
  });
});

describe('the log of a move', () => {
  it('fits as it was written, line by line, and its last line is tied to the record', async () => {
    expect(await fault()).toBeNull();
    const { lines, head, record, id: owner } = await lead.call(api.events, { params: { reference } });
    expect(lines.map(({ number, kind }) => [number, kind])).toEqual([
      [1, 'move-started'],
      [2, 'identity-set'],
      [3, 'secret-added'],
      [4, 'identity-set'],
    ]);
    // As anybody can check it who has only what the API hands out.
    expect(checkChain(owner, lines, head, recordHashOf(record, sha256), sha256).fault).toBeNull();
  });

  it.each([
    [
      'a changed sentence',
      `UPDATE event SET sentence = 'Nothing happened.' WHERE move_id = $1 AND number = 2`,
      'changed',
      2,
    ],
    ['a changed name', `UPDATE event SET by = 'Odd' WHERE move_id = $1 AND number = 3`, 'changed', 3],
    [
      'a line dated back',
      `UPDATE event SET at = at - interval '1 day' WHERE move_id = $1 AND number = 4`,
      'changed',
      4,
    ],
    ['a line that is gone', `DELETE FROM event WHERE move_id = $1 AND number = 2`, 'missing', 2],
    ['a last line that is gone', `DELETE FROM event WHERE move_id = $1 AND number = 4`, 'missing', 4],
    [
      'a line put at the end',
      `INSERT INTO event (move_id, number, at, by, kind, sentence, previous, hash) SELECT move_id, 5, at, by, kind, sentence, hash, repeat('a', 64) FROM event WHERE move_id = $1 AND number = 4`,
      'changed',
      5,
    ],
    [
      'an imported line passed off as the house’s own',
      `UPDATE event SET imported_by = 'lead' WHERE move_id = $1 AND number = 1`,
      'changed',
      1,
    ],
    [
      'a record edited behind the log’s back',
      `UPDATE move SET record = jsonb_set(record, '{owner}', '"Somebody"') WHERE id = $1`,
      'record',
      4,
    ],
  ])('names the line of %s', async (_what, sql, kind, number) => {
    await tamper(sql, [id]);
    expect(await fault()).toMatchObject({ kind, number });
  });

  it('names a line that was written anew with a code that fits itself', async () => {
    const { lines } = await lead.call(api.events, { params: { reference } });
    const second = lines[1];
    if (!second) throw new Error('there is no second line');
    const { extendChain } = await import('@ulvane/core/record');
    const forged = extendChain(
      { count: 1, hash: second.previous },
      id,
      [{ ...second, sentence: 'Forged.' }],
      sha256,
    ).lines[0];
    await tamper('UPDATE event SET sentence = $2, hash = $3 WHERE move_id = $1 AND number = 2', [
      id,
      'Forged.',
      forged?.hash,
    ]);
    expect(await fault()).toMatchObject({ kind: 'does-not-fit', number: 3 });
  });
});

describe('the log of the house', () => {
  it('knows accounts, house rules and tokens, and is checked with all moves', async () => {
    await lead.call(api.addApiToken, { body: { name: 'Intake', scope: 'read' } });
    const said: string[] = [];
    const dataSource = house.running.app.get(DataSource);
    await verifyLog(dataSource, (line) => said.push(line));
    // The moves that the tests above have tampered with are named, and no other.
    expect(said.filter((line) => line.startsWith('MV-')).length).toBe(9);
    expect(said.some((line) => line.startsWith('The house'))).toBe(false);
    expect(said.at(-1)).toMatch(/^Code of all ends: [0-9a-f]{64}$/);
    await tamper(`DELETE FROM event WHERE move_id IS NULL AND number = 1`);
    const again: string[] = [];
    expect(await verifyLog(dataSource, (line) => again.push(line))).toBe(false);
    expect(again[0]).toBe('The house: Line 1 is missing: line 2 follows line 0.');
  });
});
