import { existsSync, mkdirSync, openSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { createInterface } from 'node:readline/promises';
import { parseArgs } from 'node:util';
import { ensureBuild } from './lib/build';
import { Failure, runCommand } from './lib/fail';
import { webPort } from './lib/port';
import { ensureDatabase, startCluster } from './lib/postgres';
import { startServer, vaultKeyFile } from './lib/server';

const usage = `npm start [-- options]
  --fresh   start over: erases Ulvane's own database, after asking (--yes answers)
  --empty   a new database starts empty, with a one-time link for the first lead
Environment: DATABASE_URL, ULVANE_PORT, ULVANE_DATA, ULVANE_NOW`;

function readOptions() {
  const options = {
    fresh: { type: 'boolean' },
    empty: { type: 'boolean' },
    yes: { type: 'boolean' },
    help: { type: 'boolean' },
  } as const;
  try {
    return parseArgs({ options, args: process.argv.slice(2) }).values;
  } catch (error) {
    throw new Failure(`${error instanceof Error ? error.message : String(error)}\n\n${usage}`);
  }
}

function isAlive(pid: number): boolean {
  try {
    process.kill(pid, 0);
    return true;
  } catch {
    return false;
  }
}

/** One start a data folder; a lock whose owner is gone is taken over, one just killed is waited for. */
async function takeLock(dataFolder: string): Promise<() => void> {
  const file = join(dataFolder, 'running');
  mkdirSync(dataFolder, { recursive: true });
  for (let tries = 0; existsSync(file); tries += 1) {
    const [pid, address] = readFileSync(file, 'utf8').split('\n');
    if (!isAlive(Number(pid)) || Number(pid) === process.pid) break;
    if (tries > 20)
      throw new Failure(
        `Ulvane is running already from this folder${address ? `, at ${address}` : ''}. Stop it first, or set ULVANE_DATA to another folder.`,
      );
    await new Promise((done) => setTimeout(done, 300));
  }
  writeFileSync(file, `${process.pid}\n`);
  return () => rmSync(file, { force: true });
}

async function sureToErase(yes: boolean): Promise<void> {
  if (yes) return;
  if (!process.stdin.isTTY)
    throw new Failure('--fresh erases the database and there is nobody to ask: add --yes if that is meant.');
  const lines = createInterface({ input: process.stdin, output: process.stdout });
  const answer = await lines.question(
    'This erases every move, account and setting in Ulvane’s own database. Type yes to go on: ',
  );
  lines.close();
  if (answer.trim().toLowerCase() !== 'yes') throw new Failure('Nothing was erased.');
}

await runCommand(async () => {
  const values = readOptions();
  if (values.help) {
    console.log(usage);
    return 0;
  }
  const own = process.env.DATABASE_URL;
  if (values.fresh && own)
    throw new Failure(
      '--fresh does not touch a database of your own (DATABASE_URL): empty it yourself, then start.',
    );
  if (values.fresh) await sureToErase(values.yes === true);
  const dataFolder = resolve(process.env.ULVANE_DATA ?? '.ulvane');
  const release = await takeLock(dataFolder);
  const undo: (() => void | Promise<void>)[] = [release];
  const tidy = async () => {
    for (const step of undo.splice(0).reverse()) await step();
  };
  // Until the server runs, a signal only has to undo what has been started.
  let asked = false;
  let stopServer: (() => Promise<void>) | undefined;
  const onSignal = () => {
    if (asked) return;
    asked = true;
    console.log('\nStopping …');
    void (stopServer?.() ?? tidy().then(() => process.exit(0)));
  };
  for (const signal of ['SIGINT', 'SIGTERM', 'disconnect'] as const) process.on(signal, onSignal);

  try {
    const port = await webPort(process.env.ULVANE_PORT);
    let databaseUrl = own;
    if (databaseUrl === undefined) {
      const cluster = await startCluster(dataFolder, { forTests: false });
      undo.push(cluster.stop);
      databaseUrl = await ensureDatabase(cluster, 'ulvane', { fresh: values.fresh === true });
    }
    ensureBuild();
    console.log('Starting the server …');
    const log = openSync(join(dataFolder, 'server.log'), 'a');
    const server = await startServer(
      {
        DATABASE_URL: databaseUrl,
        ULVANE_PORT: String(port),
        ULVANE_SEED: values.empty ? 'empty' : 'demo',
        ULVANE_VAULT_KEY_FILE: vaultKeyFile(dataFolder),
      },
      log,
    );
    stopServer = server.stop;
    writeFileSync(join(dataFolder, 'running'), `${process.pid}\n${server.ready.ready}\n`);
    announce(server.ready, values.empty === true, join(dataFolder, 'server.log'));
    const code = await server.ended;
    if (!asked)
      throw new Failure(
        `The server stopped by itself (code ${code}): the last lines of ${join(dataFolder, 'server.log')} say why.`,
      );
    return 0;
  } finally {
    await tidy();
  }
});

function announce(
  ready: Awaited<ReturnType<typeof startServer>>['ready'],
  empty: boolean,
  logFile: string,
): void {
  console.log(`\n  Ulvane  ${ready.ready}`);
  if (ready.demo) {
    console.log(
      `  This is the demo. Sign in as ${ready.demo.accounts.join(', ')}, each with the password ${ready.demo.password}`,
    );
    if (empty)
      console.log(
        '  The database held the demo already: npm start -- --empty --fresh starts over without it.',
      );
  }
  if (ready.setUpLink) console.log(`  Set the organisation up, once, with this link:\n  ${ready.setUpLink}`);
  console.log(`  API  ${ready.ready}/api/docs   Log  ${logFile}\n  Ctrl-C stops it.\n`);
}
