import { createHash } from 'node:crypto';
import { chmodSync, existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { basename, dirname, join, resolve } from 'node:path';
import { compactDecrypt, CompactEncrypt } from 'jose';
import { create, extract } from 'tar';
import { z } from 'zod';
import { Failure } from './fail';

export const dumpName = 'database.dump';
const manifestName = 'manifest.json';
const vaultName = 'vault.json';
/** The work factor that OWASP recommends for PBKDF2 with SHA-512. */
const rounds = 210_000;

/** What a backup says of itself; see docs/formats.md. */
export const BackupManifestSchema = z.strictObject({
  format: z.literal('ulvane-backup'),
  version: z.literal(1),
  madeAt: z.iso.datetime(),
  migrations: z.array(z.string()),
  /** Rows of every table that the backup holds. */
  rows: z.record(z.string(), z.int().min(0)),
  /** SHA-256 of the database's dump. */
  dumpSha256: z.string(),
  /** Which keys the vault's secrets need; whether they are in the backup, encrypted with a passphrase. */
  vaultKeys: z.array(z.string()),
  keysInside: z.boolean(),
});

export type BackupManifest = z.infer<typeof BackupManifestSchema>;

const VaultSchema = z.strictObject({ jwe: z.string() });

export function sha256OfFile(path: string): string {
  return createHash('sha256').update(readFileSync(path)).digest('hex');
}

/** A folder that only this account reads, gone afterwards. */
export async function withScratch<T>(work: (folder: string) => Promise<T>): Promise<T> {
  const folder = mkdtempSync(join(tmpdir(), 'ulvane-backup-'));
  try {
    return await work(folder);
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

/** The vault's key file as one JSON Web Encryption (RFC 7516) under a passphrase. */
async function wrap(keys: string, passphrase: string): Promise<string> {
  return new CompactEncrypt(new TextEncoder().encode(keys))
    .setProtectedHeader({ alg: 'PBES2-HS512+A256KW', enc: 'A256GCM' })
    .setKeyManagementParameters({ p2c: rounds })
    .encrypt(new TextEncoder().encode(passphrase));
}

/** Packs dump, manifest and, with a passphrase, the vault's keys into one file of mode 0600. */
export async function packBackup(
  folder: string,
  manifest: BackupManifest,
  keys: { readonly text: string; readonly passphrase: string } | null,
  into: string,
): Promise<void> {
  writeFileSync(join(folder, manifestName), `${JSON.stringify(manifest, null, 2)}\n`);
  if (keys)
    writeFileSync(
      join(folder, vaultName),
      JSON.stringify(VaultSchema.parse({ jwe: await wrap(keys.text, keys.passphrase) })),
    );
  await create({ file: into, cwd: folder, portable: true }, [
    manifestName,
    dumpName,
    ...(keys ? [vaultName] : []),
  ]);
  chmodSync(into, 0o600);
}

/** Unpacks a backup into a folder and reads its manifest; what is damaged or no backup is refused. */
export async function unpackBackup(file: string, folder: string): Promise<BackupManifest> {
  const path = resolve(file);
  if (!existsSync(path)) throw new Failure(`There is no file ${path}.`);
  const refused = new Failure(
    `${basename(path)} in ${dirname(path)} is no backup of Ulvane, or it is damaged.`,
  );
  try {
    await extract({ file: path, cwd: folder });
  } catch {
    throw refused;
  }
  if (!existsSync(join(folder, manifestName)) || !existsSync(join(folder, dumpName))) throw refused;
  const manifest = BackupManifestSchema.safeParse(
    JSON.parse(readFileSync(join(folder, manifestName), 'utf8')),
  );
  if (!manifest.success) throw refused;
  if (sha256OfFile(join(folder, dumpName)) !== manifest.data.dumpSha256)
    throw new Failure(`${basename(path)} is damaged: the database in it is not the one that was backed up.`);
  return manifest.data;
}

/** The vault's key file out of an unpacked backup; null when it is not inside. */
export async function keysOf(folder: string, passphrase: string): Promise<string | null> {
  const path = join(folder, vaultName);
  if (!existsSync(path)) return null;
  const { jwe } = VaultSchema.parse(JSON.parse(readFileSync(path, 'utf8')));
  try {
    const { plaintext } = await compactDecrypt(jwe, new TextEncoder().encode(passphrase), {
      keyManagementAlgorithms: ['PBES2-HS512+A256KW'],
      contentEncryptionAlgorithms: ['A256GCM'],
      maxPBES2Count: rounds,
    });
    return new TextDecoder().decode(plaintext);
  } catch {
    throw new Failure('The passphrase does not open the vault’s keys in the backup.');
  }
}
