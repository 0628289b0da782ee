import { execFileSync } from 'node:child_process';
import { createDecipheriv, randomBytes } from 'node:crypto';
import { mkdtempSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { api, SealedSchema, SecretHeadSchema } from '@ulvane/contract';
import { DataSource } from 'typeorm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { z } from 'zod';
import { createApp } from '../src/createApp';
import { dataSourceOptions } from '../src/database/dataSource';
import { readKeys } from '../src/vault/keyRing';
import { rotateVault } from '../src/vault/rotation';
import { seal, unseal } from '../src/vault/sealing';
import { TestHouse, testSettings, testVault, type Visitor } from './house';

let house: TestHouse;
let technician: Visitor;
beforeAll(async () => {
  house = await TestHouse.open('demo');
  technician = await house.signedIn('technician');
});
afterAll(() => house.close());

const params = { reference: 'MV-0009' };
const HeadsSchema = z.object({ secrets: z.array(SecretHeadSchema) });
const value = 'RK-4471-OPAL-9930-TIDE';

async function added(label: string, text = value) {
  const answer = await technician.at(api.addSecret, {
    params,
    body: { kind: 'recovery-key', label, value: text },
  });
  const head = HeadsSchema.parse(answer.body).secrets.find((secret) => secret.label === label);
  if (!head) throw new Error(JSON.stringify(answer.body));
  return head;
}

describe('the vault', () => {
  it('keeps a secret sealed with AES-256-GCM, which nothing but the key opens', async () => {
    const head = await added('Recovery key');
    const [row] = await house.sql('SELECT move_id, nonce, sealed FROM secret WHERE id = $1', [head.id]);
    const {
      move_id: moveId,
      nonce,
      sealed,
    } = z
      .object({ move_id: z.string(), nonce: z.instanceof(Buffer), sealed: z.instanceof(Buffer) })
      .parse(row);
    expect(sealed.includes(Buffer.from(value))).toBe(false);
    // Opened here by hand: 96-bit nonce, tag of 16 bytes at the end, move and id as additional data.
    const decipher = createDecipheriv('aes-256-gcm', Buffer.alloc(32, 7), nonce)
      .setAAD(Buffer.from(`${moveId} ${head.id}`))
      .setAuthTag(sealed.subarray(-16));
    expect(Buffer.concat([decipher.update(sealed.subarray(0, -16)), decipher.final()]).toString()).toBe(
      value,
    );
  });

  it('shows it on request, and says in the log who saw it; the log does not say what', async () => {
    const head = await added('Shown key');
    const shown = await technician.at(api.showSecret, { params: { ...params, id: head.id } });
    expect(shown.body).toEqual({ value, seconds: 30 });
    expect(shown.headers.get('cache-control')).toBe('no-store');
    const again = HeadsSchema.parse((await technician.at(api.secrets, { params })).body);
    expect(again.secrets.find(({ id }) => id === head.id)).toMatchObject({
      showings: 1,
      lastShownTo: 'technician',
    });
    const events = JSON.stringify((await technician.at(api.events, { params })).body);
    expect(events).toContain('Shown key: shown to technician.');
    expect(events).not.toContain(value);
  });

  it('goes out as it is, where other text goes out compressed: the length of an answer tells nothing', async () => {
    const long = 'RK-4471-'.repeat(400);
    const head = await added('Long key', long);
    const shown = await technician.at(api.showSecret, { params: { ...params, id: head.id } });
    expect(shown.body).toEqual({ value: long, seconds: 30 });
    expect(shown.headers.get('content-encoding')).toBeNull();
    const move = await technician.at(api.move, { params });
    expect(move.headers.get('content-encoding')).toBe('gzip');
  });

  it('is not in the export of a move', async () => {
    await added('Not exported');
    expect(JSON.stringify((await technician.at(api.exportMove, { params })).body)).not.toContain(value);
  });

  it('goes out only under a passphrase, and comes in with the same', async () => {
    await added('Sealed key');
    const sealed = SealedSchema.parse(
      (await technician.at(api.sealSecrets, { params, body: { passphrase: 'harbour lights at noon' } })).body,
    );
    expect(JSON.stringify(sealed)).not.toContain(value);
    expect(JSON.parse(Buffer.from(sealed.jwe.split('.')[0] ?? '', 'base64url').toString())).toMatchObject({
      alg: 'PBES2-HS512+A256KW',
      enc: 'A256GCM',
    });
    const other = { reference: 'MV-0010' };
    const wrong = await technician.at(api.unsealSecrets, {
      params: other,
      body: { passphrase: 'harbour lights at nine', sealed },
    });
    expect(wrong.status).toBe(422);
    await technician.at(api.unsealSecrets, {
      params: other,
      body: { passphrase: 'harbour lights at noon', sealed },
    });
    const heads = HeadsSchema.parse((await technician.at(api.secrets, { params: other })).body).secrets;
    const head = heads.find(({ label }) => label === 'Sealed key');
    expect(
      (await technician.at(api.showSecret, { params: { ...other, id: head?.id ?? '' } })).body,
    ).toMatchObject({ value });
    expect((await technician.at(api.sealSecrets, { params, body: { passphrase: 'short' } })).status).toBe(
      422,
    );
  });

  it('erases a secret when told to', async () => {
    const head = await added('Gone key');
    await technician.at(api.removeSecret, { params: { ...params, id: head.id } });
    expect(await house.sql('SELECT 1 FROM secret WHERE id = $1', [head.id])).toEqual([]);
    expect((await technician.at(api.showSecret, { params: { ...params, id: head.id } })).status).toBe(404);
  });

  it('does not open for a server that has another key, and says so', async () => {
    const head = await added('Old key');
    const other = await createApp({
      ...testSettings(house.databaseUrl),
      now: null,
      vault: { kind: 'environment', keys: [randomBytes(32).toString('base64')] },
    });
    try {
      const server = await other.app.listen(0, '127.0.0.1');
      const address = server.address();
      const port = typeof address === 'object' && address !== null ? address.port : 0;
      const answer = await fetch(`http://127.0.0.1:${port}/api/v1/moves/MV-0009/secrets/${head.id}/show`, {
        method: 'POST',
        headers: { cookie: technician.cookie ?? '', 'content-type': 'application/json' },
        body: '{}',
      });
      expect(answer.status).toBe(503);
      expect(await answer.text()).toContain('sealed with another key');
    } finally {
      await other.close();
    }
  });

  it('leaves no secret in a dump of the database', async () => {
    await added('Dumped key', 'NEVER-IN-A-DUMP-5512');
    const dump = execFileSync('pg_dump', ['--inserts', house.databaseUrl], {
      encoding: 'utf8',
      maxBuffer: 1e9,
    });
    expect(dump).toContain('Dumped key');
    for (const secret of [value, 'NEVER-IN-A-DUMP-5512', testVault.keys[0]]) {
      expect(dump).not.toContain(secret);
      // bytea is dumped in hexadecimal.
      expect(dump).not.toContain(Buffer.from(secret).toString('hex'));
    }
  });
});

describe('sealing', () => {
  const [key] = readKeys(testVault);
  if (!key) throw new Error('no key');

  it('is undone by the same key and context only, and notices every change', () => {
    const sealed = seal('secret', 'move one', key);
    expect(unseal(sealed, 'move one', [key])).toBe('secret');
    expect(unseal(sealed, 'move two', [key])).toBeNull();
    for (let at = 0; at < sealed.sealed.length; at += 1) {
      const changed = Buffer.from(sealed.sealed);
      changed[at] = (changed[at] ?? 0) ^ 1;
      expect(unseal({ ...sealed, sealed: changed }, 'move one', [key])).toBeNull();
    }
  });

  it('never gives the same twice', () => {
    expect(seal('x', 'c', key).sealed.equals(seal('x', 'c', key).sealed)).toBe(false);
  });
});

describe('the vault’s key file', () => {
  let folder: string;
  beforeAll(() => {
    folder = mkdtempSync(join(tmpdir(), 'ulvane-vault-'));
  });
  afterAll(() => rmSync(folder, { recursive: true }));

  it('is made for its owner alone, and refused when others may read it', () => {
    const path = join(folder, 'vault.key');
    const first = readKeys({ kind: 'file', path });
    expect(statSync(path).mode & 0o777).toBe(0o600);
    expect(readKeys({ kind: 'file', path })[0]?.id).toBe(first[0]?.id);
    const open = join(folder, 'open.key');
    writeFileSync(open, readFileSync(path), { mode: 0o644 });
    expect(() => readKeys({ kind: 'file', path: open })).toThrow('can be read by others');
    writeFileSync(join(folder, 'short.key'), 'abcd\n', { mode: 0o600 });
    expect(() => readKeys({ kind: 'file', path: join(folder, 'short.key') })).toThrow('32 bytes');
  });

  it('is rotated: every secret is sealed anew, and the old key opens nothing', async () => {
    const path = join(folder, 'rotated.key');
    writeFileSync(path, `${testVault.keys[0]}\n`, { mode: 0o600 });
    const source = { kind: 'file', path } as const;
    const head = await added('Rotated key');
    const [old] = readKeys(source);
    const dataSource = await new DataSource(dataSourceOptions(house.databaseUrl)).initialize();
    try {
      expect(await rotateVault(dataSource, source)).toBeGreaterThan(0);
    } finally {
      await dataSource.destroy();
    }
    const now = readKeys(source);
    expect(now).toHaveLength(1);
    expect(now[0]?.id).not.toBe(old?.id);
    const [row] = await house.sql(
      'SELECT move_id, key_id AS "keyId", nonce, sealed FROM secret WHERE id = $1',
      [head.id],
    );
    const sealed = z
      .object({
        move_id: z.string(),
        keyId: z.string(),
        nonce: z.instanceof(Buffer),
        sealed: z.instanceof(Buffer),
      })
      .parse(row);
    expect(unseal(sealed, `${sealed.move_id} ${head.id}`, now)).toBe(value);
    expect(unseal(sealed, `${sealed.move_id} ${head.id}`, old ? [old] : [])).toBeNull();
  });
});
