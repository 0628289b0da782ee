import 'reflect-metadata';
import { DataSource } from 'typeorm';
import { createApp } from './createApp';
import { dataSourceOptions } from './database/dataSource';
import { verifyLog } from './log/verifyLog';
import { readSettings } from './settings';
import { demoAccounts, demoPassword } from './seed/seed';
import { rotateVault } from './vault/rotation';

/** Says to whoever started the server that it is ready, over the pipe between the two processes. */
function tell(message: unknown): void {
  process.send?.(message);
}

/** `main.js verify-log`: checks the log of the house and of every move; exits with 1 when one does not fit. */
async function verify(): Promise<void> {
  const settings = readSettings(process.env);
  const dataSource = await new DataSource(dataSourceOptions(settings.ownerUrl)).initialize();
  try {
    process.exitCode = (await verifyLog(dataSource, (line) => console.log(line))) ? 0 : 1;
  } finally {
    await dataSource.destroy();
  }
}

/** `main.js rotate-vault`: a new key for the vault, and every secret sealed with it. */
async function rotate(): Promise<void> {
  const settings = readSettings(process.env);
  const dataSource = await new DataSource(dataSourceOptions(settings.databaseUrl)).initialize();
  try {
    const count = await rotateVault(dataSource, settings.vault);
    console.log(
      `${count} ${count === 1 ? 'secret is' : 'secrets are'} sealed with ${settings.vault.kind === 'file' ? `a new key, in ${settings.vault.path}` : 'the first key of ULVANE_VAULT_KEY'}. Servers that run have to be started again.`,
    );
  } finally {
    await dataSource.destroy();
  }
}

async function main(): Promise<void> {
  if (process.argv[2] === 'rotate-vault') return rotate();
  if (process.argv[2] === 'verify-log') return verify();
  const settings = readSettings(process.env);
  const { app, seeded, unopenable, close } = await createApp(settings);
  const server = await app.listen(settings.port, '127.0.0.1');
  const bound = server.address();
  const port = typeof bound === 'object' && bound !== null ? bound.port : settings.port;
  const address = `http://127.0.0.1:${port}`;
  tell({
    ready: address,
    demo: seeded.kind === 'demo' ? { accounts: [...demoAccounts], password: demoPassword } : null,
    setUpLink: seeded.setUpToken === null ? null : `${address}/set-up?token=${seeded.setUpToken}`,
    loaded: seeded.loaded,
    unopenable,
  });

  let closing = false;
  const stop = () => {
    if (closing) return;
    closing = true;
    // Requests under way get five seconds; then, after a grace, the connections are cut.
    setTimeout(() => process.exit(0), 8000).unref();
    close().then(
      () => process.exit(0),
      () => process.exit(1),
    );
  };
  process.on('SIGINT', stop);
  process.on('SIGTERM', stop);
  // The starter died without a word: nobody is left to stop this process.
  process.on('disconnect', stop);
}

main().catch((error: unknown) => {
  tell({ failed: error instanceof Error ? error.message : String(error) });
  console.error(error instanceof Error ? error.message : error);
  process.exit(1);
});
