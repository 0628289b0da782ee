import { spawnSync } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { existsSync, readFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { ask } from './lib/ask';
import {
  dumpName,
  packBackup,
  sha256OfFile,
  unpackBackup,
  withScratch,
  type BackupManifest,
} from './lib/backupFile';
import { ensureBuild } from './lib/build';
import { dataFolderOf } from './lib/dataFolder';
import { dump, restoreDump, rowsOf, withClient } from './lib/dump';
import { Failure, runCommand } from './lib/fail';
import { ensureDatabase, startCluster } from './lib/postgres';
import { vaultKeyFile } from './lib/server';

/** Restores a backup into a database of its own, compares every table, checks the log, and drops it again. */
async function verify(file: string, ownerUrl: string): Promise<void> {
  const name = `ulvane_check_${randomBytes(4).toString('hex')}`;
  const scratch = new URL(ownerUrl);
  scratch.pathname = `/${name}`;
  await withClient(ownerUrl, (client) => client.query(`CREATE DATABASE ${name}`)).catch((error: unknown) => {
    throw new Failure(
      `${file} is written, but could not be verified: the role may not make a database to restore it into (${error instanceof Error ? error.message : String(error)}). Give it CREATEDB, and back up again.`,
    );
  });
  try {
    await withScratch(async (folder) => {
      const manifest = await unpackBackup(file, folder);
      restoreDump(scratch.href, join(folder, dumpName));
      const found = await withClient(scratch.href, rowsOf);
      for (const [table, count] of Object.entries(manifest.rows))
        if (found[table] !== count)
          throw new Failure(
            `${file} is not whole: ${table} has ${count} rows, and ${found[table] ?? 0} came back.`,
          );
      const checked = spawnSync(process.execPath, ['apps/server/dist/main.js', 'verify-log'], {
        encoding: 'utf8',
        env: { ...process.env, DATABASE_URL: scratch.href, ULVANE_OWNER_URL: scratch.href },
      });
      if (checked.status !== 0)
        console.log(
          `The backup is as the database is, but its log does not fit:\n${checked.stdout}${checked.stderr}`,
        );
    });
  } finally {
    await withClient(ownerUrl, (client) => client.query(`DROP DATABASE ${name} WITH (FORCE)`));
  }
}

/** One file with everything that is needed to go on elsewhere. */
await runCommand(async () => {
  const [given] = process.argv.slice(2);
  const file = resolve(
    given ?? `ulvane-${new Date().toISOString().slice(0, 16).replace(/[:T]/g, '-')}.backup`,
  );
  if (existsSync(file)) throw new Failure(`${file} is there already: name another file.`);
  const dataFolder = dataFolderOf(process.env);
  const cluster = process.env.DATABASE_URL ? undefined : await startCluster(dataFolder, { forTests: false });
  try {
    const ownerUrl = cluster
      ? await ensureDatabase(cluster, 'ulvane', { fresh: false })
      : (process.env.ULVANE_OWNER_URL ?? process.env.DATABASE_URL ?? '');
    ensureBuild();
    const keyFile = vaultKeyFile(dataFolder);
    const keys =
      process.env.ULVANE_VAULT_KEY?.split(',').join('\n') ??
      (existsSync(keyFile) ? readFileSync(keyFile, 'utf8') : null);
    const passphrase =
      process.env.ULVANE_BACKUP_PASSPHRASE ??
      (keys === null
        ? null
        : await ask(
            'A passphrase for the vault’s key (12 characters or more; empty: the key stays apart): ',
          ));
    if (passphrase && passphrase.length < 12) throw new Failure('A passphrase has 12 characters or more.');
    await withScratch(async (folder) => {
      const into = join(folder, dumpName);
      const { rows, migrations, vaultKeys } = await dump(ownerUrl, into);
      const manifest: BackupManifest = {
        format: 'ulvane-backup',
        version: 1,
        madeAt: new Date().toISOString(),
        migrations,
        rows,
        dumpSha256: sha256OfFile(into),
        vaultKeys,
        keysInside: Boolean(keys && passphrase),
      };
      await packBackup(folder, manifest, keys && passphrase ? { text: keys, passphrase } : null, file);
    });
    await verify(file, ownerUrl);
    console.log(`${file}: written, restored into a scratch database, and the same there.`);
    if (!passphrase)
      console.log(
        `The vault’s key is not inside: keep a copy of ${process.env.ULVANE_VAULT_KEY ? 'ULVANE_VAULT_KEY' : keyFile} apart from it. Without the key the secrets in the vault are gone.`,
      );
    return 0;
  } finally {
    cluster?.stopIfStarted();
  }
});
