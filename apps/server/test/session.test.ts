import { api } from '@ulvane/contract';
import { z } from 'zod';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { cookieOf, TestHouse, Visitor } from './house';

const OpenApiSchema = z.object({
  paths: z.record(z.string(), z.record(z.string(), z.looseObject({}))),
  components: z.looseObject({ securitySchemes: z.record(z.string(), z.unknown()) }),
});

let house: TestHouse;
beforeAll(async () => {
  house = await TestHouse.open('demo');
});
afterAll(() => house.close());

describe('signing in', () => {
  it('sets a cookie that scripts cannot read and other sites do not send', async () => {
    const { headers } = await house
      .visitor()
      .raw('POST', '/session', { name: 'Lead', password: 'marram-pier-five' });
    const cookies = headers.getSetCookie();
    expect(cookies.map((cookie) => cookie.split('=')[0])).toEqual(['ulvane-browser', 'ulvane']);
    for (const cookie of cookies) expect(cookie).toMatch(/HttpOnly; SameSite=Strict/);
  });

  it('refuses a wrong password and an unknown name alike', async () => {
    const wrong = await house.visitor().raw('POST', '/session', { name: 'lead', password: 'not this one' });
    const unknown = await house
      .visitor()
      .raw('POST', '/session', { name: 'nobody', password: 'not this one' });
    expect([wrong.status, unknown.status]).toEqual([401, 401]);
    expect((wrong.body as { detail: string }).detail).toBe((unknown.body as { detail: string }).detail);
  });

  it('keeps sessions in the database, with no password in them', async () => {
    await house.signedIn('technician');
    const rows = await house.sql('SELECT sess::text AS text FROM session');
    expect(rows.length).toBeGreaterThan(0);
    for (const { text } of rows) expect(text).not.toContain('marram');
    const [{ hash } = { hash: '' }] = await house.sql(
      `SELECT password_hash AS hash FROM account WHERE name = 'lead'`,
    );
    expect(hash).toMatch(/^\$argon2id\$/);
  });

  it('ends with signing out: the cookie is worth nothing afterwards', async () => {
    const visitor = await house.signedIn('technician');
    await visitor.call(api.today);
    await visitor.call(api.signOut);
    expect((await visitor.at(api.today)).status).toBe(401);
  });

  it('ends at once for an account that is disabled', async () => {
    const lead = await house.signedIn('lead');
    const { id, version } = await lead.call(api.addAccount, {
      body: { name: 'Ines', role: 'technician', password: 'a long password' },
    });
    const ines = await house.signedIn('ines', 'a long password');
    await ines.call(api.today);
    await lead.call(api.setAccount, { params: { id }, body: { version, disabled: true } });
    expect((await ines.at(api.today)).status).toBe(401);
    await expect(house.signedIn('ines', 'a long password')).rejects.toThrow('401');
  });

  it('does not let two accounts share a name, nor a lead lock themselves out', async () => {
    const lead = await house.signedIn('lead');
    expect(
      (await lead.at(api.addAccount, { body: { name: 'LEAD', role: 'lead', password: 'a long password' } }))
        .status,
    ).toBe(409);
    const { accounts } = await lead.call(api.accounts);
    const own = accounts.find(({ name }) => name === 'lead');
    expect(
      (
        await lead.at(api.setAccount, {
          params: { id: own?.id ?? '' },
          body: { version: own?.version, disabled: true },
        })
      ).status,
    ).toBe(422);
  });

  it('is throttled: the eleventh try in a minute for one name is refused, another name is not', async () => {
    const tries = [];
    for (let count = 0; count < 11; count += 1)
      tries.push((await house.visitor().raw('POST', '/session', { name: 'guessed', password: 'x' })).status);
    expect(tries).toEqual([...Array<number>(10).fill(401), 429]);
    expect(
      (await house.visitor().raw('POST', '/session', { name: 'somebody else', password: 'x' })).status,
    ).toBe(401);
  });
});

describe('writing from elsewhere', () => {
  it('is refused from another origin, from another site, and as anything but JSON', async () => {
    const lead = await house.signedIn('lead');
    const body = { owner: '', site: '', dueOn: null, surveyText: null };
    expect((await lead.raw('POST', '/moves', body, { origin: 'http://elsewhere.example' })).status).toBe(403);
    expect((await lead.raw('POST', '/moves', body, { 'sec-fetch-site': 'cross-site' })).status).toBe(403);
    expect(
      (await lead.raw('POST', '/moves', JSON.stringify(body), { 'content-type': 'text/plain' })).status,
    ).toBe(415);
    expect((await lead.raw('POST', '/moves', body)).status).toBe(200);
  });
});

describe('the page', () => {
  it('comes with a strict content security policy', async () => {
    const response = await fetch(`${house.address}/api/v1/health`);
    const policy = response.headers.get('content-security-policy') ?? '';
    expect(policy).toContain("script-src 'self'");
    // WebAssembly that comes with the page may run; nothing inline, and nothing out of a text.
    expect(policy.replace("'wasm-unsafe-eval'", '')).not.toContain('unsafe');
    expect(response.headers.get('x-content-type-options')).toBe('nosniff');
    expect(response.headers.get('cache-control')).toBe('no-store');
  });

  it('leads from /api/health to the health of this version', async () => {
    const response = await fetch(`${house.address}/api/health`);
    expect(await response.json()).toEqual({
      status: 'ok',
      database: 'up',
      migrations: { done: 13, pending: 0 },
      vault: { state: 'ok', unopenable: 0 },
    });
  });

  it('browses its own API, and hands out its description, to those who may use it', async () => {
    const headers = { cookie: (await house.signedIn('observer')).cookie ?? '' };
    for (const path of ['/api/docs', '/api/openapi.json'])
      expect((await fetch(`${house.address}${path}`)).status).toBe(401);
    expect((await fetch(`${house.address}/api/docs`, { headers })).status).toBe(200);
    const description = OpenApiSchema.parse(
      await (await fetch(`${house.address}/api/openapi.json`, { headers })).json(),
    );
    expect(Object.keys(description.components.securitySchemes)).toEqual(['session', 'token']);
    expect(description.paths['/api/v1/moves']?.post).toMatchObject({
      security: [{ session: [] }, { token: [] }],
      'x-roles': ['technician', 'lead'],
    });
    expect(description.paths['/api/v1/session']?.post).toMatchObject({ security: [], 'x-roles': [] });
  });
});

describe('an empty house', () => {
  it('is set up once, with the one-time link, by its first lead', async () => {
    const empty = await TestHouse.open('empty');
    try {
      const token = empty.running.seeded.setUpToken ?? '';
      const visitor = empty.visitor();
      expect(await visitor.call(api.session)).toMatchObject({ setUp: false, account: null, demo: false });
      const body = { token, organisation: 'Ebbing Help Desk', name: 'Maud', password: 'a long password' };
      expect((await visitor.at(api.setUp, { body: { ...body, token: 'guessed' } })).status).toBe(403);
      const answer = await visitor.at(api.setUp, { body });
      expect(answer.status).toBe(200);
      const maud = new Visitor(empty.address, cookieOf(answer.headers));
      expect(await maud.call(api.session)).toMatchObject({
        setUp: true,
        organisation: 'Ebbing Help Desk',
        account: { name: 'Maud', role: 'lead' },
      });
      expect((await visitor.at(api.setUp, { body: { ...body, name: 'Odd' } })).status).toBe(403);
      expect((await maud.call(api.moves)).total).toBe(0);
    } finally {
      await empty.close();
    }
  });
});
