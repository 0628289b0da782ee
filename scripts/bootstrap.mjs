/**
 * The first thing that every command runs, with nothing but Node: checks Node's version, installs
 * the packages when the lock file has changed, then hands over to the TypeScript script of that name.
 */
import { spawn, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

const root = join(dirname(fileURLToPath(import.meta.url)), '..');
const [command = 'start', ...rest] = process.argv.slice(2);

const [major = 0, minor = 0] = process.versions.node.split('.').map(Number);
if (major < 20 || (major === 20 && minor < 19)) {
  console.error(
    `Ulvane needs Node.js 20.19 or newer; this is ${process.versions.node}. Install a newer one and try again.`,
  );
  process.exit(1);
}

const lock = createHash('sha256')
  .update(readFileSync(join(root, 'package-lock.json')))
  .digest('hex');
const stamp = join(root, 'node_modules', '.ulvane-lock');
if (!existsSync(stamp) || readFileSync(stamp, 'utf8') !== lock) {
  console.log('Installing packages (once; about a minute) …');
  const install = spawnSync('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'], {
    cwd: root,
    stdio: ['ignore', 'ignore', 'inherit'],
  });
  if (install.status !== 0) {
    console.error(
      'The packages could not be installed: see the lines above, check that the package registry can be reached, and try again.',
    );
    process.exit(1);
  }
  mkdirSync(dirname(stamp), { recursive: true });
  writeFileSync(stamp, lock);
}

// Both signals of a Ctrl-C arrive at both processes; this one waits for the other to tidy up.
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'])
  process.on(signal, () => child.kill(signal === 'SIGHUP' ? 'SIGTERM' : signal));
const child = spawn(process.execPath, ['--import', 'tsx', join('scripts', `${command}.ts`), ...rest], {
  cwd: root,
  stdio: ['inherit', 'inherit', 'inherit', 'ipc'],
});
child.on('exit', (code, signal) => process.exit(code ?? (signal ? 1 : 0)));

// npm was killed without a word: nobody is left to press Ctrl-C, so stop. Between npm and this process
// there is mostly a shell, which would go on; so the parent's own parent is watched too.
function ancestors() {
  try {
    const grandparent = readFileSync(`/proc/${process.ppid}/stat`, 'utf8')
      .replace(/^.*\) /s, '')
      .split(' ')[1];
    return `${process.ppid} ${grandparent}`;
  } catch {
    return String(process.ppid);
  }
}
if (process.env.npm_lifecycle_event) {
  const first = ancestors();
  setInterval(() => {
    if (ancestors() !== first) child.kill('SIGTERM');
  }, 1000).unref();
}
