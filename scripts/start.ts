import { existsSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { createInterface } from 'node:readline/promises';
import { parseArgs } from 'node:util';
import { ensureBuild } from './lib/build';
import { dataFolderOf } from './lib/dataFolder';
import { Failure, runCommand } from './lib/fail';
import { webPort } from './lib/port';
import { ensureDatabase, startCluster } from './lib/postgres';
import { databaseEnvironment, startServer, vaultKeyFile, type Server } from './lib/server';
import { ServerLog } from './lib/serverLog';
import { Restarts } from './lib/supervise';

const usage = `npm start [-- options]
  --fresh   start over: erases Ulvane's own database, after asking (--yes answers)
  --empty   a new database starts empty, with a one-time link for the first lead
Environment: DATABASE_URL, ULVANE_OWNER_URL, ULVANE_PORT, ULVANE_DATA, ULVANE_HOSTS, ULVANE_PROXIES, ULVANE_NOW`;

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

/** How often it is looked whether the database still runs. */
const lookEveryMs = 1000;

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
  const dataFolder = dataFolderOf(process.env);
  const release = await takeLock(dataFolder);
  const undo: (() => void | Promise<void>)[] = [release];
  const tidy = async () => {
    for (const step of undo.splice(0).reverse()) await step();
  };
  // Until the server runs, a signal only has to undo what has been started.
  let asked = false;
  let running: Server | undefined;
  const onSignal = () => {
    if (asked) return;
    asked = true;
    console.log('\nStopping …');
    void (running?.stop() ?? tidy().then(() => process.exit(0)));
  };
  for (const signal of ['SIGINT', 'SIGTERM', 'disconnect'] as const) process.on(signal, onSignal);

  try {
    const port = await webPort(process.env.ULVANE_PORT);
    let revive: (() => boolean) | undefined;
    let cluster: Awaited<ReturnType<typeof startCluster>> | undefined;
    if (own === undefined) {
      cluster = await startCluster(dataFolder, { forTests: false });
      undo.push(cluster.stop);
      ({ revive } = cluster);
      await ensureDatabase(cluster, 'ulvane', { fresh: values.fresh === true });
    }
    ensureBuild();
    console.log('Starting the server …');
    const log = new ServerLog(dataFolder);
    undo.push(() => log.close());
    const environment = {
      ...databaseEnvironment(cluster, 'ulvane'),
      ULVANE_PORT: String(port),
      ULVANE_SEED: values.empty ? 'empty' : 'demo',
      ULVANE_VAULT_KEY_FILE: vaultKeyFile(dataFolder),
    };
    const launch = () => startServer(environment, 'pipe', (child) => log.follow(child.stdout, child.stderr));
    running = await launch();
    undo.push(async () => running?.stop());
    writeFileSync(join(dataFolder, 'running'), `${process.pid}\n${running.ready.ready}\n`);
    announce(running.ready, values.empty === true, log.path);
    if (revive) undo.push(keepDatabase(revive));
    const restarts = new Restarts();
    for (;;) {
      await running.ended;
      if (asked) return 0;
      await restarts.pause('The server', `the last lines of ${log.path} say why`);
      if (asked) return 0;
      const next = await launch().catch((error: unknown) => {
        if (!(error instanceof Failure)) throw error;
        console.log(error.message);
        return undefined;
      });
      if (next) {
        running = next;
        console.log(`The server runs again, at ${running.ready.ready}`);
      }
    }
  } finally {
    await tidy();
  }
});

/** Starts the database again when it has stopped, with growing pauses. @returns ends that */
function keepDatabase(revive: () => boolean): () => void {
  const restarts = new Restarts();
  let ended = false;
  const look = async (): Promise<void> => {
    if (ended) return;
    try {
      if (revive()) console.log('The database had stopped; it runs again.');
    } catch {
      try {
        await restarts.pause('The database', 'its log, beside its data, says why');
      } catch (error) {
        // The server answers that the database is down, and the health says so: it stays for that.
        console.error(error instanceof Error ? error.message : error);
        return;
      }
    }
    setTimeout(() => void look(), lookEveryMs).unref();
  };
  setTimeout(() => void look(), lookEveryMs).unref();
  return () => {
    ended = true;
  };
}

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
  if (ready.unopenable > 0)
    console.log(
      `  The vault’s key is not the one that ${ready.unopenable === 1 ? '1 secret was' : `${ready.unopenable} secrets were`} sealed with: put that key back (README, “The vault’s key”), and start again.`,
    );
  if (ready.setUpLink) console.log(`  Set the organisation up, once, with this link:\n  ${ready.setUpLink}`);
  console.log(`  API  ${ready.ready}/api/docs   Log  ${logFile}\n  Ctrl-C stops it.\n`);
}
