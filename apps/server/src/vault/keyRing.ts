import { createHash, randomBytes } from 'node:crypto';
import { chmodSync, existsSync, mkdirSync, readFileSync, renameSync, statSync, writeFileSync } from 'node:fs';
import { dirname } from 'node:path';

export type VaultKey = {
  /** First eight hexadecimal digits of the key's SHA-256: says which key without saying the key. */
  readonly id: string;
  readonly bytes: Buffer;
};

/** Where the vault's keys come from: a file of mode 0600, or the environment. The first one seals. */
export type KeySource =
  | { readonly kind: 'file'; readonly path: string }
  | { readonly kind: 'environment'; readonly keys: readonly string[] };

function keyOf(text: string, where: string): VaultKey {
  const bytes = Buffer.from(text.trim(), 'base64');
  if (bytes.length !== 32)
    throw new Error(`${where} has to be 32 bytes in base64, as "openssl rand -base64 32" gives them`);
  return { id: createHash('sha256').update(bytes).digest('hex').slice(0, 8), bytes };
}

/** Whether there are keys to be read. */
export function keysThere(source: KeySource): boolean {
  return source.kind === 'environment' || existsSync(source.path);
}

/** The keys, the one that seals first. A file that is not there is made; one that others may read is refused. */
export function readKeys(source: KeySource): readonly VaultKey[] {
  if (source.kind === 'environment') return source.keys.map((key) => keyOf(key, 'ULVANE_VAULT_KEY'));
  if (!existsSync(source.path)) writeKeys(source.path, [randomBytes(32)]);
  if ((statSync(source.path).mode & 0o077) !== 0)
    throw new Error(
      `the vault’s key file ${source.path} can be read by others: make it yours alone (chmod 600), and change the keys it guarded`,
    );
  return readFileSync(source.path, 'utf8')
    .split('\n')
    .filter((line) => line.trim() !== '')
    .map((line) => keyOf(line, `every line of ${source.path}`));
}

/** Writes a key file whole or not at all. */
export function writeKeys(path: string, keys: readonly Buffer[]): void {
  mkdirSync(dirname(path), { recursive: true });
  const beside = `${path}.new`;
  writeFileSync(beside, keys.map((key) => `${key.toString('base64')}\n`).join(''), { mode: 0o600 });
  chmodSync(beside, 0o600);
  renameSync(beside, path);
}
