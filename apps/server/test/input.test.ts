import { gzipSync } from 'node:zlib';
import { api, ProblemDetailsSchema } from '@ulvane/contract';
import { exportMove } from '@ulvane/core/record';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { measureJson } from '../src/http/body.interceptor';
import { now, TestHouse, type Visitor } from './house';

let house: TestHouse;
let lead: Visitor;
beforeAll(async () => {
  house = await TestHouse.open('demo');
  lead = await house.signedIn('lead');
});
afterAll(() => house.close());

const start = { owner: '', site: '', dueOn: null, surveyText: null };
const problemOf = (body: unknown) => ProblemDetailsSchema.parse(body).problems[0];

describe('texts that are none', () => {
  it.each([
    ['NUL in a body', 'POST', '/moves', { ...start, owner: 'a\0b' }, '/owner'],
    [
      'half of a surrogate pair',
      'POST',
      '/moves',
      '{"owner":"a\\ud800","site":"","dueOn":null,"surveyText":null}',
      '/owner',
    ],
    [
      'NUL deep in a record',
      'POST',
      '/fleet/rows',
      { dryRun: true, mapping: {}, rows: [{ row: 1, cells: { a: '\0' } }] },
      '/rows/0/cells/a',
    ],
    ['NUL in a query', 'GET', '/moves?search=%00', undefined, '/search'],
    ['NUL in a path', 'GET', '/moves/MV-0001%00', undefined, '/path'],
  ])('%s: 422 with the field', async (_what, method, path, body, field) => {
    const answer = await lead.raw(method, path, body);
    expect([answer.status, problemOf(answer.body)?.path]).toEqual([422, field]);
  });

  it('pairs of surrogates are text, and are kept as they are', async () => {
    const { move } = await lead.call(api.addMove, { body: { ...start, owner: '𝄞 \\ud83d\\ude80 🚀' } });
    expect(move.owner).toBe('𝄞 \\ud83d\\ude80 🚀');
  });
});

describe('numbers, days and ids beyond what is kept', () => {
  it.each([
    ['a version beyond 2^53', 'POST', '/moves/MV-0009/plan', { version: 2 ** 53 }, '/version'],
    [
      'a place beyond int4',
      'GET',
      '/moves/MV-0009/file-lists/00000000-0000-4000-8000-000000000000/files?after=3000000000',
      undefined,
      '/after',
    ],
    ['a page beyond int4', 'GET', '/moves?page=9999999999', undefined, '/page'],
    ['the year 0000', 'POST', '/moves', { ...start, dueOn: '0000-01-01' }, '/dueOn'],
    ['the year 10000', 'POST', '/moves', { ...start, dueOn: '10000-01-01' }, '/dueOn'],
    ['the year 9999', 'POST', '/moves', { ...start, dueOn: '9999-12-31' }, '/dueOn'],
    ['a day that no month has', 'POST', '/moves', { ...start, dueOn: '2026-02-30' }, '/dueOn'],
    ['a malformed id', 'POST', '/moves/MV-0009/secrets/not-an-id/show', {}, '/id'],
    ['a malformed reference', 'GET', '/moves/nothing%20here', undefined, '/reference'],
    ['a malformed id of an account', 'PUT', '/accounts/1', { version: 1, disabled: true }, '/id'],
  ])('%s: 422 with the field', async (_what, method, path, body, field) => {
    const answer = await lead.raw(method, path, body);
    expect([answer.status, problemOf(answer.body)?.path]).toEqual([422, field]);
  });

  it('refuse a sum that no number holds, and store nothing', async () => {
    const { move, version } = await lead.call(api.addMove, { body: start });
    const params = { reference: move.reference };
    const set = (sizeBytes: unknown) =>
      lead.at(api.setDataSets, {
        params,
        body: {
          version,
          dataSets: [
            {
              id: 'a',
              name: 'A',
              kind: 'folder',
              path: '',
              fileCount: 1,
              largestFileBytes: 1,
              place: 'system-partition',
              sizeBytes,
            },
          ],
        },
      });
    for (const size of [2 ** 53, 1e300, -1, 0.5, '1']) expect((await set(size)).status).toBe(422);
    expect((await lead.call(api.move, { params })).version).toBe(version);
  });
});

describe('bodies of other kinds', () => {
  const json = 'application/json';
  const send = async (body: string | Buffer, headers: Record<string, string>) => {
    const response = await fetch(`${house.address}/api/v1/moves`, {
      method: 'POST',
      headers: { cookie: lead.cookie ?? '', ...headers },
      body: typeof body === 'string' ? body : new Uint8Array(body),
    });
    return { status: response.status, code: problemOf(await response.json())?.code };
  };
  const text = JSON.stringify(start);

  it('nested ever deeper are refused before they are parsed', async () => {
    const deep = (levels: number) => `${'['.repeat(levels)}${']'.repeat(levels)}`;
    expect(await send(`{"owner":${deep(100_000)}}`, { 'content-type': json })).toEqual({
      status: 422,
      code: 'too-deep',
    });
    // Brackets in a text are no levels; a bracket after an escaped quote is none either.
    expect(measureJson(Buffer.from('{"a":"[[,[[[\\"[[["}'))).toEqual({ depth: 1, values: 1 });
    expect(measureJson(Buffer.from('{"a":[{"b":[]}],"c":{}}'))).toEqual({ depth: 4, values: 2 });
  });

  it.each([
    ['UTF-16', Buffer.from(text, 'utf16le'), { 'content-type': `${json}; charset=utf-16` }, 415, 'charset'],
    ['another charset', text, { 'content-type': `${json}; charset=koi8-r` }, 415, 'charset'],
    ['an unknown encoding', text, { 'content-type': json, 'content-encoding': 'zstd-9' }, 415, 'encoding'],
    [
      'a text that only says it is compressed',
      text,
      { 'content-type': json, 'content-encoding': 'gzip' },
      400,
      'not-json',
    ],
    [
      'bytes that are no UTF-8',
      Buffer.from([0x7b, 0x22, 0xc3, 0x28, 0x22, 0x3a, 0x31, 0x7d]),
      { 'content-type': json },
      400,
      'not-utf8',
    ],
    ['half a document', '{"owner":', { 'content-type': json }, 400, 'not-json'],
    ['a form', 'owner=x', { 'content-type': 'application/x-www-form-urlencoded' }, 415, 'not-json-type'],
    [
      'a few bytes that unfold to many',
      gzipSync(Buffer.alloc(8_000_000, 0x20)),
      { 'content-type': json, 'content-encoding': 'gzip' },
      413,
      'too-large',
    ],
  ])('%s: refused by its kind', async (_what, body, headers, status, code) => {
    expect(await send(body, headers)).toEqual({ status, code });
  });

  it('of a malformed address are 400, and of an unknown one 404, as problem details', async () => {
    for (const [path, status] of [
      ['/moves/%', 400],
      ['/moves/%E0%A4%A', 400],
      ['/nowhere', 404],
    ] as const) {
      const answer = await lead.raw('GET', path);
      expect([answer.status, answer.headers.get('content-type')?.split(';')[0]]).toEqual([
        status,
        'application/problem+json',
      ]);
    }
  });
});

describe('two at once', () => {
  const statuses = async (ask: () => Promise<{ status: number }>) =>
    (await Promise.all([ask(), ask(), ask(), ask()])).map(({ status }) => status).sort();

  it('with the same new drive: one puts it in, the others are told', async () => {
    const drive = (await lead.call(api.drives)).drives[0];
    const { version: _version, freeBytes: _free, contents: _contents, id: _id, ...body } = drive ?? {};
    const put = () =>
      lead.at(api.putDrive, {
        params: { id: crypto.randomUUID() },
        body: { version: 0, drive: { ...body, name: 'B-99', serial: 'AT-ONCE-1' } },
      });
    const [first, ...rest] = await statuses(put);
    expect(first).toBe(200);
    for (const status of rest) expect([409, 422]).toContain(status);
    const same = crypto.randomUUID();
    const one = () =>
      lead.at(api.putDrive, {
        params: { id: same },
        body: { version: 0, drive: { ...body, name: 'B-98', serial: '' } },
      });
    expect(await statuses(one)).toEqual([200, 409, 409, 409]);
  });

  it('with the same import: one takes it in, the others are told', async () => {
    const { move } = await lead.call(api.addMove, { body: start });
    const document = exportMove({ ...move, id: crypto.randomUUID(), reference: 'MV-7777' }, [
      { at: now, by: 'Odd', kind: 'move-started', sentence: 'Move started.' },
    ]);
    expect(await statuses(() => lead.at(api.importMove, { body: document }))).toEqual([200, 409, 409, 409]);
  });
});

describe('a CSV', () => {
  it('holds no cell that a spreadsheet would calculate with', async () => {
    await house.sql(
      `UPDATE move SET parts = '["=HYPERLINK(\\"x\\")", "+1", "plain"]' 
        WHERE reference = (SELECT min(reference) FROM move WHERE stage NOT IN ('settle', 'hand-over', 'done'))`,
    );
    const { body } = await lead.at(api.shoppingListCsv);
    expect(body).toContain(`"'=HYPERLINK(""x"")"`);
    expect(body).toContain(`"'+1",`);
    for (const line of String(body).split('\r\n')) expect(line).not.toMatch(/^"?[=+\-@]/);
  });
});
