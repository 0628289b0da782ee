import { api, ProblemDetailsSchema } from '@ulvane/contract';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Throttle } from '../src/accounts/throttle';
import { createApp } from '../src/createApp';
import { TestHouse, testSettings, Visitor } from './house';

let house: TestHouse;
let lead: Visitor;
beforeAll(async () => {
  house = await TestHouse.open('demo');
  lead = await house.signedIn('lead');
});
afterAll(() => house.close());

const codeOf = (body: unknown) => ProblemDetailsSchema.parse(body).problems[0]?.code;
const good = 'four words of no kin';
const other = 'six other words that rhyme';

async function account(name: string): Promise<{ id: string; version: number }> {
  return lead.call(api.addAccount, { body: { name, role: 'technician', password: good } });
}

describe('the throttle', () => {
  const tryAs = (
    name: string,
    password: string,
    headers: Record<string, string> = {},
    address = house.address,
  ) => new Visitor(address, undefined).raw('POST', '/session', { name, password }, headers);

  it('counts the same name that signs in, however it is written, and is not passed by the right password', async () => {
    await account('Íngrid Vale');
    const spellings = ['Íngrid Vale', '  íngrid   vale ', 'I\u0301NGRID VALE', 'ｉ\u0301ngrid vale'];
    expect((await tryAs(spellings[2] ?? '', good)).status).toBe(200);
    const statuses = [];
    for (let time = 0; time < 11; time += 1)
      statuses.push((await tryAs(spellings[time % spellings.length] ?? '', 'wrong one')).status);
    expect(statuses).toEqual([...Array<number>(10).fill(401), 429]);
    const right = await tryAs('Íngrid Vale', good);
    expect([right.status, codeOf(right.body), right.headers.get('retry-after')]).toEqual([
      429,
      'too-many-tries',
      '60',
    ]);
  });

  it('holds at every server of the house, and lets in a browser that signed in before', async () => {
    await account('Tamsin Reef');
    const before = await tryAs('Tamsin Reef', good);
    const mark =
      before.headers
        .getSetCookie()
        .find((cookie) => cookie.startsWith('ulvane-browser='))
        ?.split(';')[0] ?? '';
    const second = await createApp(testSettings(house.databaseUrl));
    try {
      const server = await second.app.listen(0, '127.0.0.1');
      const bound = server.address();
      const elsewhere = `http://127.0.0.1:${typeof bound === 'object' && bound !== null ? bound.port : 0}`;
      for (let time = 0; time < 10; time += 1)
        await tryAs('Tamsin Reef', 'wrong one', {}, time % 2 === 0 ? house.address : elsewhere);
      expect((await tryAs('Tamsin Reef', good, {}, elsewhere)).status).toBe(429);
      expect((await tryAs('Tamsin Reef', good)).status).toBe(429);
      expect((await tryAs('Tamsin Reef', good, { cookie: mark }, elsewhere)).status).toBe(200);
      // The mark is that account's own, and cannot be made up.
      expect((await tryAs('Tamsin Reef', good, { cookie: `${mark.slice(0, -3)}abc` })).status).toBe(429);
      await account('Wystan Lock');
      for (let time = 0; time < 10; time += 1) await tryAs('Wystan Lock', 'wrong one');
      expect((await tryAs('Wystan Lock', good, { cookie: mark })).status).toBe(429);
    } finally {
      await second.close();
    }
  });

  it('forgets what is long past', async () => {
    await house.sql(
      `INSERT INTO sign_in_throttle VALUES ('name long past', now() - interval '2 hours', 99), ('name just now', now(), 1)`,
    );
    await house.running.app.get(Throttle).tidy();
    expect(await house.sql(`SELECT key FROM sign_in_throttle WHERE key LIKE 'name % %'`)).toContainEqual({
      key: 'name just now',
    });
    expect(await house.sql(`SELECT 1 FROM sign_in_throttle WHERE key = 'name long past'`)).toEqual([]);
  });

  it('takes nobody’s word on an address but a proxy’s that is configured', async () => {
    const pretended = await Promise.all(
      Array.from({ length: 101 }, (_none, index) =>
        tryAs(`nobody ${index}`, 'x', { 'x-forwarded-for': `10.0.0.${index}` }),
      ),
    );
    expect(pretended.some(({ status }) => status === 429)).toBe(true);
    await house.sql(`DELETE FROM sign_in_throttle WHERE key LIKE 'address%'`);
    const behind = await createApp({ ...testSettings(house.databaseUrl), proxies: ['loopback'] });
    try {
      const server = await behind.app.listen(0, '127.0.0.1');
      const bound = server.address();
      const address = `http://127.0.0.1:${typeof bound === 'object' && bound !== null ? bound.port : 0}`;
      await tryAs('nobody behind', 'x', { 'x-forwarded-for': '10.9.8.7' }, address);
      expect(await house.sql(`SELECT key FROM sign_in_throttle WHERE key LIKE 'address%'`)).toEqual([
        { key: 'address 10.9.8.7' },
      ]);
    } finally {
      await behind.close();
    }
  });
});

describe('passwords', () => {
  it.each(['password12', 'qwertyuiop', 'iloveyou123', 'aaaaaaaaaaaa', 'lead lead lead', 'short'])(
    '%s is refused',
    async (password) => {
      const name = password.startsWith('lead') ? 'lead lead lead' : 'Somebody';
      const answer = await lead.at(api.addAccount, { body: { name, role: 'observer', password } });
      expect(answer.status).toBe(422);
    },
  );

  it('are changed by their owner, which ends every other session; the old one fits no more', async () => {
    await account('Odd Fennick');
    const here = await house.signedIn('Odd Fennick', good);
    const there = await house.signedIn('Odd Fennick', good);
    const change = (present: string, next: string) =>
      here.at(api.changePassword, { body: { present, next } });
    const wrong = await change('not this one', other);
    expect([wrong.status, ProblemDetailsSchema.parse(wrong.body).problems[0]?.path]).toEqual([
      422,
      '/present',
    ]);
    expect((await change(good, 'password12')).status).toBe(422);
    expect((await change(good, other)).status).toBe(200);
    expect((await here.at(api.today)).status).toBe(200);
    expect((await there.at(api.today)).status).toBe(401);
    await expect(house.signedIn('Odd Fennick', good)).rejects.toThrow('401');
    await house.signedIn('Odd Fennick', other);
  });

  it('are reset with a one-time link that a lead makes, once, within its day; sessions end', async () => {
    const { id, version } = await account('Ines Carrow');
    const before = await house.signedIn('Ines Carrow', good);
    const offer = await lead.call(api.offerReset, { params: { id }, body: { version } });
    const token = offer.path.replace('/new-password?token=', '');
    expect(offer.until).toBe('2026-03-03T10:00:00.000Z');
    expect(await house.sql('SELECT 1 FROM account WHERE reset_hash = $1', [token])).toEqual([]);
    const reset = (given: string, password: string) =>
      house.visitor().at(api.resetPassword, { body: { token: given, password } });
    expect((await reset('made up', other)).status).toBe(403);
    expect((await reset(token, 'password12')).status).toBe(422);
    expect((await reset(token, other)).status).toBe(200);
    expect((await reset(token, good)).status).toBe(403);
    expect((await before.at(api.today)).status).toBe(401);
    await house.signedIn('Ines Carrow', other);
    const late = await lead.call(api.offerReset, { params: { id }, body: { version: version + 2 } });
    await house.sql(`UPDATE account SET reset_until = '2026-03-02T09:59:00Z' WHERE id = $1`, [id]);
    expect((await reset(late.path.replace('/new-password?token=', ''), good)).status).toBe(403);
  });

  it('of a disabled account let nobody in, and its sessions end; enabled again it is as before', async () => {
    const { id, version } = await account('Bram Quill');
    const bram = await house.signedIn('Bram Quill', good);
    await lead.call(api.setAccount, { params: { id }, body: { version, disabled: true } });
    expect((await bram.at(api.today)).status).toBe(401);
    expect(await house.sql(`SELECT 1 FROM session WHERE sess -> 'account' ->> 'id' = $1`, [id])).toEqual([]);
    const stale = await lead.at(api.setAccount, { params: { id }, body: { version, disabled: false } });
    expect([stale.status, codeOf(stale.body)]).toEqual([409, 'version']);
    await lead.call(api.setAccount, { params: { id }, body: { version: version + 1, disabled: false } });
    await house.signedIn('Bram Quill', good);
  });

  it('of two accounts of one name added at once: one is added, the other refused', async () => {
    const add = () =>
      lead.at(api.addAccount, { body: { name: 'Twice At Once', role: 'observer', password: good } });
    const answers = await Promise.all([add(), add(), add()]);
    expect(answers.map(({ status }) => status).sort()).toEqual([200, 409, 409]);
  });
});

describe('an API token', () => {
  const withToken = (token: string) => ({
    ask: (method: string, path: string, body?: unknown) =>
      house.visitor().raw(method, path, body, { authorization: `Bearer ${token}` }),
  });

  it('lets a program in without a cookie, as far as its scope and its person go', async () => {
    const technician = await house.signedIn('technician');
    const { token } = await technician.call(api.addApiToken, {
      body: { name: 'Nightly list', scope: 'read' },
    });
    const program = withToken(token);
    const listed = await program.ask('GET', '/moves');
    expect([listed.status, listed.headers.getSetCookie()]).toEqual([200, []]);
    const start = { owner: '', site: '', dueOn: null, surveyText: null };
    const write = await program.ask('POST', '/moves', start);
    expect([write.status, codeOf(write.body)]).toEqual([403, 'scope']);
    const { token: writing } = await technician.call(api.addApiToken, {
      body: { name: 'Intake', scope: 'write' },
    });
    expect((await withToken(writing).ask('POST', '/moves', start)).status).toBe(200);
    // A technician's token is no lead's, shows no secret, and makes no tokens.
    expect((await withToken(writing).ask('GET', '/metrics')).status).toBe(403);
    const show = await withToken(writing).ask('POST', '/moves/MV-0009/secrets/seal', {
      passphrase: 'twelve and more',
    });
    expect([show.status, codeOf(show.body)]).toEqual([403, 'scope']);
    const more = await withToken(writing).ask('POST', '/tokens', { name: 'Child', scope: 'vault' });
    expect([more.status, codeOf(more.body)]).toEqual([403, 'not-with-token']);
  });

  it('is kept as a hash, has a last use, is seen by its person and by leads, and can be revoked', async () => {
    const technician = await house.signedIn('technician');
    const made = await technician.call(api.addApiToken, { body: { name: 'To revoke', scope: 'read' } });
    const { token } = made;
    const row = made.tokens.find(({ name }) => name === 'To revoke');
    expect(row).toMatchObject({ account: 'technician', lastUsedAt: null, ends: token.slice(-4) });
    const dump = JSON.stringify(await house.sql('SELECT * FROM api_token'));
    expect(dump).not.toContain(token);
    await withToken(token).ask('GET', '/today');
    const seen = (await lead.call(api.apiTokens)).tokens.find(({ id }) => id === row?.id);
    expect(seen?.lastUsedAt).toBe('2026-03-02T10:00:00.000Z');
    const observer = await house.signedIn('observer');
    expect((await observer.call(api.apiTokens)).tokens).toEqual([]);
    expect((await observer.at(api.revokeApiToken, { params: { id: row?.id ?? '' } })).status).toBe(404);
    await technician.call(api.revokeApiToken, { params: { id: row?.id ?? '' } });
    expect((await withToken(token).ask('GET', '/today')).status).toBe(401);
    expect((await withToken('ulv_made-up').ask('GET', '/today')).status).toBe(401);
  });
});

describe('the address', () => {
  it('has to be one of this house’s: another name that points here is refused', async () => {
    const { request } = await import('node:http');
    const status = (host: string) =>
      new Promise<number>((resolve, reject) => {
        const call = request(`${house.address}/api/v1/health`, { headers: { host } }, (response) => {
          response.resume();
          resolve(response.statusCode ?? 0);
        });
        call.on('error', reject);
        call.end();
      });
    expect(await status('127.0.0.1:4310')).toBe(200);
    expect(await status('localhost')).toBe(200);
    expect(await status('elsewhere.example')).toBe(421);
  });

  it('of a visitor who is not signed in does not make the server read a long body', async () => {
    const long = JSON.stringify({ owner: 'x'.repeat(3 * 1024 * 1024) });
    expect((await house.visitor().raw('POST', '/moves', long)).status).toBe(401);
    const name = 'x'.repeat(100 * 1024);
    const answer = await house.visitor().raw('POST', '/session', { name, password: 'x' });
    expect([answer.status, codeOf(answer.body)]).toEqual([413, 'too-large']);
    expect((await lead.raw('POST', '/moves', long)).status).toBe(413);
    expect((await lead.raw('POST', '/moves', JSON.stringify({ owner: 'x'.repeat(100_000) }))).status).toBe(
      422,
    );
  });

  it('keeps a connection longer than proxies leave theirs idle, so that none is closed under a request', async () => {
    const { headers } = await house.visitor().raw('GET', '/health');
    const seconds = Number(/timeout=(\d+)/.exec(headers.get('keep-alive') ?? '')?.[1]);
    expect(seconds).toBeGreaterThan(60);
  });
});
