import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { Failure } from './fail';

const sources = ['packages', 'apps', 'data', 'collector', 'package-lock.json'];

function fingerprint(): string {
  const hash = createHash('sha256');
  const walk = (path: string) => {
    const stat = statSync(path);
    if (!stat.isDirectory()) {
      hash.update(`${path} ${stat.size} ${stat.mtimeMs}\n`);
      return;
    }
    for (const name of readdirSync(path).sort())
      if (!['node_modules', 'dist', 'test'].includes(name)) walk(join(path, name));
  };
  sources.forEach(walk);
  return hash.digest('hex');
}

/** Builds page and server when a source has changed since the last build. */
export function ensureBuild(): void {
  const stampFile = join('apps', 'server', 'dist', '.built');
  const now = fingerprint();
  if (
    existsSync(stampFile) &&
    existsSync(join('apps', 'web', 'dist', 'index.html')) &&
    readFileSync(stampFile, 'utf8') === now
  )
    return;
  console.log('Building …');
  const built = spawnSync('npm', ['run', '--silent', 'build'], {
    encoding: 'utf8',
    stdio: ['ignore', 'pipe', 'pipe'],
    // Whatever it is called from: a page built for tests is another one.
    env: { ...process.env, NODE_ENV: 'production' },
  });
  if (built.status !== 0) throw new Failure(`The build failed:\n${built.stdout}\n${built.stderr}`);
  mkdirSync(dirname(stampFile), { recursive: true });
  writeFileSync(stampFile, now);
}
