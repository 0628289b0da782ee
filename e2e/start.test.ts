import { spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { chmodSync, existsSync, mkdtempSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { freePort } from '../scripts/lib/port';

const folder = mkdtempSync(join(tmpdir(), 'ulvane-start-'));
// As root the cluster runs under an account of its own, which must be able to reach the folder.
chmodSync(folder, 0o755);
const children: ChildProcess[] = [];

type Started = {
  readonly child: ChildProcess;
  readonly output: () => string;
  readonly ended: Promise<number | null>;
};

/** `npm start` as a person would type it, on a data folder of its own. */
function start(port: number, ...options: string[]): Started {
  const { DATABASE_URL: _own, ...environment } = process.env;
  const child = spawn('npm', ['start', '--silent', '--', ...options], {
    env: { ...environment, ULVANE_DATA: folder, ULVANE_PORT: String(port) },
    stdio: ['ignore', 'pipe', 'pipe'],
    detached: true,
  });
  children.push(child);
  let text = '';
  const keep = (chunk: Buffer) => {
    text += chunk.toString();
  };
  child.stdout?.on('data', keep);
  child.stderr?.on('data', keep);
  return { child, output: () => text, ended: new Promise((resolve) => child.on('exit', resolve)) };
}

async function says({ output }: Started, text: string): Promise<void> {
  for (let tries = 0; tries < 1200; tries += 1) {
    if (output().includes(text)) return;
    await new Promise((resolve) => setTimeout(resolve, 150));
  }
  throw new Error(`npm start never said “${text}”; it said: ${output()}`);
}

/** Sends a signal to npm and all that it started but PostgreSQL, as Ctrl-C in a terminal does. */
function signal({ child }: Pick<Started, 'child'>, name: NodeJS.Signals): void {
  try {
    if (child.pid !== undefined) process.kill(-child.pid, name);
  } catch {
    // The whole group has ended already.
  }
}

/** Process id of the postmaster, from its own lock file. */
function postmaster(): number {
  const file = join(folder, 'postgres', 'data', 'postmaster.pid');
  return existsSync(file) ? Number(readFileSync(file, 'utf8').split('\n')[0]) : 0;
}

/** Process id of the server that listens at a port: the one child of the start script that was told the port. */
function serverOf(port: number): number {
  const { stdout } = spawnSync('pgrep', ['-f', 'apps/server/dist/main.js'], { encoding: 'utf8' });
  const found = stdout
    .split('\n')
    .map(Number)
    .find((pid) => pid > 0 && environmentOf(pid).includes(`ULVANE_PORT=${port}\0`));
  return found ?? 0;
}

/** The environment of a process; empty once it has ended, as servers of other tests may meanwhile. */
function environmentOf(pid: number): string {
  try {
    return readFileSync(`/proc/${pid}/environ`, 'utf8');
  } catch {
    return '';
  }
}

function isAlive(pid: number): boolean {
  return pid > 0 && existsSync(`/proc/${pid}`);
}

/** Waits until neither server nor PostgreSQL of this folder is left; npm itself may be gone before them. */
async function allGone(port: number): Promise<void> {
  const answers = () =>
    fetch(`http://127.0.0.1:${port}/api/health`).then(
      () => true,
      () => false,
    );
  for (let tries = 0; tries < 400; tries += 1) {
    if (!isAlive(postmaster()) && !existsSync(join(folder, 'running')) && !(await answers())) return;
    await new Promise((resolve) => setTimeout(resolve, 150));
  }
  throw new Error('something that npm start started is still running');
}

afterAll(async () => {
  for (const child of children) signal({ child }, 'SIGKILL');
  if (isAlive(postmaster())) process.kill(postmaster(), 'SIGINT');
  await new Promise((resolve) => setTimeout(resolve, 1500));
  rmSync(folder, { recursive: true, force: true, maxRetries: 5 });
});

describe('npm start', () => {
  it('serves the demo, is found running by a second start, survives kill -9, and stops all it started', async () => {
    const port = await freePort();
    const first = start(port);
    await says(first, 'Ctrl-C stops it');
    expect(first.output()).toContain(`http://127.0.0.1:${port}`);
    expect(first.output()).toContain('Sign in as technician, lead, observer');
    expect(await (await fetch(`http://127.0.0.1:${port}/api/health`)).json()).toMatchObject({
      status: 'ok',
      database: 'up',
    });
    expect(await (await fetch(`http://127.0.0.1:${port}/moves/MV-0042`)).text()).toContain('<div id="root">');

    const second = start(await freePort());
    expect(await second.ended).toBe(1);
    expect(second.output()).toContain('Ulvane is running already from this folder');

    signal(first, 'SIGKILL');
    const third = start(port, '--empty');
    await says(third, 'The database held the demo already');
    expect(third.output()).not.toContain('Making the database cluster');

    expect(isAlive(postmaster())).toBe(true);
    signal(third, 'SIGINT');
    await allGone(port);
  });

  it('starts again what is killed, server or database, and says so', async () => {
    const port = await freePort();
    const started = start(port);
    await says(started, 'Ctrl-C stops it');
    process.kill(serverOf(port), 'SIGKILL');
    await says(started, 'The server stopped; starting it again in 1 second');
    await says(started, `The server runs again, at http://127.0.0.1:${port}`);
    process.kill(postmaster(), 'SIGKILL');
    await says(started, 'The database had stopped; it runs again.');
    for (let tries = 0; tries < 400; tries += 1) {
      const health = await fetch(`http://127.0.0.1:${port}/api/health`).catch(() => undefined);
      if (health?.status === 200) break;
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
    expect((await fetch(`http://127.0.0.1:${port}/api/health`)).status).toBe(200);
    expect(statSync(join(folder, 'server.log')).mode & 0o777).toBe(0o600);
    signal(started, 'SIGINT');
    await allGone(port);
  });

  it('says in one sentence that a folder cannot be written', () => {
    const file = join(folder, 'in-the-way');
    writeFileSync(file, '');
    const { status, stdout, stderr } = spawnSync('npm', ['start', '--silent'], {
      encoding: 'utf8',
      env: { ...process.env, ULVANE_DATA: join(file, 'data') },
    });
    expect(status).toBe(1);
    expect(`${stdout}${stderr}`).toContain(
      'cannot be written (ENOTDIR): make it writable for this account, or set ULVANE_DATA',
    );
    expect(`${stdout}${stderr}`).not.toContain('    at ');
  });
});

describe('backup and restore', () => {
  const file = join(folder, 'house.backup');
  const command = (name: string, args: readonly string[], environment: Record<string, string> = {}) => {
    const { DATABASE_URL: _own, ...own } = process.env;
    const { status, stdout, stderr } = spawnSync('npm', ['run', '--silent', name, '--', ...args], {
      encoding: 'utf8',
      input: '',
      env: { ...own, ULVANE_DATA: folder, ...environment },
    });
    return { status, said: `${stdout}${stderr}` };
  };
  const passphrase = { ULVANE_BACKUP_PASSPHRASE: 'the tide turns at nine' };

  it('are one file, verified when it is made, from which a whole house comes back elsewhere', async () => {
    const made = command('backup', [file], passphrase);
    expect([made.status, made.said]).toEqual([
      0,
      `${file}: written, restored into a scratch database, and the same there.\n`,
    ]);
    expect(statSync(file).mode & 0o777).toBe(0o600);
    expect(command('backup', [file], passphrase)).toMatchObject({
      status: 1,
      said: expect.stringContaining('is there already'),
    });
    const raw = readFileSync(file);
    // Neither the vault's key nor what cookies are signed with is to be read in it.
    expect(raw.includes(readFileSync(join(folder, 'vault.key')).subarray(0, 40))).toBe(false);

    const elsewhere = mkdtempSync(join(tmpdir(), 'ulvane-restored-'));
    chmodSync(elsewhere, 0o755);
    const there = { ULVANE_DATA: elsewhere };
    try {
      expect(
        command('restore', [file], { ...there, ULVANE_BACKUP_PASSPHRASE: 'another passphrase' }),
      ).toMatchObject({
        status: 1,
        said: expect.stringContaining('The passphrase does not open the vault’s keys'),
      });
      expect(command('restore', [file], { ...there, ...passphrase })).toMatchObject({ status: 0 });
      expect(readFileSync(join(elsewhere, 'vault.key'), 'utf8')).toBe(
        readFileSync(join(folder, 'vault.key'), 'utf8'),
      );
      expect(command('restore', [file], { ...there, ...passphrase }).said).toContain(
        'there is nobody to ask: add --yes',
      );
      const log = command('verify-log', [], there);
      expect([log.status, log.said]).toMatchObject([
        0,
        expect.stringMatching(/^All [\d,]+ lines in \d+ chains fit\./),
      ]);
      expect(log.said).toBe(command('verify-log', []).said);
      writeFileSync(file, raw.subarray(0, raw.length - 70_000));
      expect(command('restore', [file, '--yes'], { ...there, ...passphrase })).toMatchObject({ status: 1 });
    } finally {
      rmSync(elsewhere, { recursive: true, force: true, maxRetries: 5 });
    }
  });
});

describe('npm start with other wishes', () => {
  it('does not erase anything while there is nobody to ask', async () => {
    const asked = start(await freePort(), '--fresh');
    expect(await asked.ended).toBe(1);
    expect(asked.output()).toContain('add --yes if that is meant');
  });

  it('starts over when that is meant, empty, with a one-time link', async () => {
    const port = await freePort();
    const fresh = start(port, '--fresh', '--yes', '--empty');
    await says(fresh, '/set-up?token=');
    signal(fresh, 'SIGINT');
    await allGone(port);
  });

  it('says which option it does not know, and which it does', async () => {
    const wrong = start(await freePort(), '--florid');
    expect(await wrong.ended).toBe(1);
    expect(wrong.output()).toContain('--fresh');
  });
});
