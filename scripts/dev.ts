import concurrently from 'concurrently';
import { dataFolderOf } from './lib/dataFolder';
import { runCommand } from './lib/fail';
import { webPort } from './lib/port';
import { ensureDatabase, startCluster } from './lib/postgres';
import { databaseEnvironment, vaultKeyFile } from './lib/server';

/** The page with reload on Vite's port, the server rebuilt and restarted at every change. */
await runCommand(async () => {
  const dataFolder = dataFolderOf(process.env);
  const cluster = process.env.DATABASE_URL ? undefined : await startCluster(dataFolder, { forTests: false });
  try {
    if (cluster) await ensureDatabase(cluster, 'ulvane', { fresh: false });
    const port = await webPort(process.env.ULVANE_PORT);
    const env = {
      ...databaseEnvironment(cluster, 'ulvane'),
      ULVANE_PORT: String(port),
      ULVANE_VAULT_KEY_FILE: vaultKeyFile(dataFolder),
      ULVANE_API: `http://127.0.0.1:${port}`,
    };
    const { result } = concurrently(
      [
        { name: 'build', command: 'vite build -c apps/server/vite.config.ts apps/server --watch', env },
        { name: 'server', command: 'node --watch --enable-source-maps apps/server/dist/main.js', env },
        { name: 'page', command: 'vite -c apps/web/vite.config.ts apps/web --host 127.0.0.1', env },
      ],
      { killOthersOn: ['failure', 'success'], prefix: 'name' },
    );
    await result.catch(() => undefined);
    return 0;
  } finally {
    cluster?.stop();
  }
});
