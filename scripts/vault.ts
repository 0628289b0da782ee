import { spawnSync } from 'node:child_process';
import { existsSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { ensureBuild } from './lib/build';
import { Failure, runCommand } from './lib/fail';
import { ensureDatabase, startCluster } from './lib/postgres';
import { vaultKeyFile } from './lib/server';

/** A new key for the vault, every secret sealed with it, the old key left off. */
await runCommand(async () => {
  const dataFolder = resolve(process.env.ULVANE_DATA ?? '.ulvane');
  if (existsSync(join(dataFolder, 'running')) && process.env.DATABASE_URL === undefined)
    throw new Failure(
      'Ulvane is running from this folder: stop it first, rotate the key, and start it again.',
    );
  const cluster = process.env.DATABASE_URL ? undefined : await startCluster(dataFolder, { forTests: false });
  try {
    const databaseUrl =
      process.env.DATABASE_URL ?? (cluster ? await ensureDatabase(cluster, 'ulvane', { fresh: false }) : '');
    ensureBuild();
    const { status } = spawnSync(process.execPath, ['apps/server/dist/main.js', 'rotate-vault'], {
      stdio: 'inherit',
      env: { ...process.env, DATABASE_URL: databaseUrl, ULVANE_VAULT_KEY_FILE: vaultKeyFile(dataFolder) },
    });
    return status ?? 1;
  } finally {
    await cluster?.stop();
  }
});
