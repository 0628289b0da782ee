import { spawnSync } from 'node:child_process';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { ensureBuild } from './lib/build';
import { dataFolderOf } from './lib/dataFolder';
import { Failure, runCommand } from './lib/fail';
import { ensureDatabase, startCluster } from './lib/postgres';
import { databaseEnvironment, vaultKeyFile } from './lib/server';

/** A new key for the vault, every secret sealed with it, the old key left off. */
await runCommand(async () => {
  const dataFolder = dataFolderOf(process.env);
  if (existsSync(join(dataFolder, 'running')) && process.env.DATABASE_URL === undefined)
    throw new Failure(
      'Ulvane is running from this folder: stop it first, rotate the key, and start it again.',
    );
  const cluster = process.env.DATABASE_URL ? undefined : await startCluster(dataFolder, { forTests: false });
  try {
    if (cluster) await ensureDatabase(cluster, 'ulvane', { fresh: false });
    ensureBuild();
    const { status } = spawnSync(process.execPath, ['apps/server/dist/main.js', 'rotate-vault'], {
      stdio: 'inherit',
      env: {
        ...process.env,
        ...databaseEnvironment(cluster, 'ulvane'),
        ULVANE_VAULT_KEY_FILE: vaultKeyFile(dataFolder),
      },
    });
    return status ?? 1;
  } finally {
    await cluster?.stop();
  }
});
