import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { ask } from './lib/ask';
import { dumpName, keysOf, unpackBackup, withScratch } from './lib/backupFile';
import { dataFolderOf } from './lib/dataFolder';
import { restoreDump, withClient } from './lib/dump';
import { Failure, runCommand } from './lib/fail';
import { ensureDatabase, startCluster, type Cluster } from './lib/postgres';
import { vaultKeyFile } from './lib/server';

async function isEmpty(url: string): Promise<boolean> {
  return withClient(url, async (client) => {
    const { rowCount } = await client.query(`SELECT 1 FROM pg_tables WHERE schemaname = 'public' LIMIT 1`);
    return rowCount === 0;
  });
}

/** The database that the backup goes into: empty, or Ulvane's own, emptied after asking. */
async function target(cluster: Cluster | undefined, yes: boolean): Promise<string> {
  const url = cluster
    ? await ensureDatabase(cluster, 'ulvane', { fresh: false })
    : (process.env.ULVANE_OWNER_URL ?? process.env.DATABASE_URL ?? '');
  if (await isEmpty(url)) return url;
  if (!cluster)
    throw new Failure('The database of DATABASE_URL is not empty: make an empty one, and restore into that.');
  const answer = yes
    ? 'yes'
    : await ask(
        'This replaces every move, account and setting in Ulvane’s own database. Type yes to go on: ',
      );
  if (answer === null)
    throw new Failure(
      'The database is not empty and there is nobody to ask: add --yes if it is to be replaced.',
    );
  if (answer.toLowerCase() !== 'yes') throw new Failure('Nothing was replaced.');
  return ensureDatabase(cluster, 'ulvane', { fresh: true });
}

/** Puts the vault's keys back, unless there are others already. */
async function restoreKeys(
  folder: string,
  inside: boolean,
  needed: readonly string[],
  keyFile: string,
): Promise<void> {
  if (!inside) {
    if (needed.length > 0)
      console.log(
        `The vault’s key is not in the backup: put the key ${needed.join(' and ')} back as ${keyFile} before starting.`,
      );
    return;
  }
  const passphrase =
    process.env.ULVANE_BACKUP_PASSPHRASE ?? (await ask('The passphrase of the vault’s key: '));
  if (passphrase === null)
    throw new Failure('The backup holds the vault’s key under a passphrase: set ULVANE_BACKUP_PASSPHRASE.');
  const keys = await keysOf(folder, passphrase);
  if (keys === null)
    throw new Failure('The backup says that it holds the vault’s key, and does not: it is damaged.');
  if (existsSync(keyFile) && readFileSync(keyFile, 'utf8').trim() !== keys.trim())
    throw new Failure(
      `${keyFile} holds another key than the backup: move it away (it may be needed for something else), and restore again. Nothing was restored.`,
    );
  writeFileSync(keyFile, `${keys.trim()}\n`, { mode: 0o600 });
}

/** Brings a backup back. Everybody signs in anew afterwards. */
await runCommand(async () => {
  const { positionals, values } = parseArgs({
    allowPositionals: true,
    options: { yes: { type: 'boolean' } },
    args: process.argv.slice(2),
  });
  const [file] = positionals;
  if (file === undefined) throw new Failure('npm run restore -- FILE [--yes]: name the backup.');
  const dataFolder = dataFolderOf(process.env);
  if (!process.env.DATABASE_URL && existsSync(join(dataFolder, 'running')))
    throw new Failure('Ulvane is running from this folder: stop it first, then restore.');
  return withScratch(async (folder) => {
    const manifest = await unpackBackup(file, folder);
    const cluster = process.env.DATABASE_URL
      ? undefined
      : await startCluster(dataFolder, { forTests: false });
    try {
      await restoreKeys(folder, manifest.keysInside, manifest.vaultKeys, vaultKeyFile(dataFolder));
      restoreDump(await target(cluster, values.yes === true), join(folder, dumpName));
      console.log(
        `Restored from the backup of ${manifest.madeAt}: ${manifest.rows.move ?? 0} moves. Start Ulvane; everybody signs in anew.`,
      );
      return 0;
    } finally {
      cluster?.stopIfStarted();
    }
  });
});
