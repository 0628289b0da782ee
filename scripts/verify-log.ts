import { spawnSync } from 'node:child_process';
import { ensureBuild } from './lib/build';
import { dataFolderOf } from './lib/dataFolder';
import { runCommand } from './lib/fail';
import { ensureDatabase, startCluster } from './lib/postgres';
import { databaseEnvironment } from './lib/server';

/** Checks that the log is the one that was written; names the first line of each move that does not fit. */
await runCommand(async () => {
  const cluster = process.env.DATABASE_URL
    ? undefined
    : await startCluster(dataFolderOf(process.env), { forTests: false });
  try {
    if (cluster) await ensureDatabase(cluster, 'ulvane', { fresh: false });
    ensureBuild();
    const { status } = spawnSync(process.execPath, ['apps/server/dist/main.js', 'verify-log'], {
      stdio: 'inherit',
      env: { ...process.env, ...databaseEnvironment(cluster, 'ulvane') },
    });
    return status ?? 1;
  } finally {
    cluster?.stopIfStarted();
  }
});
