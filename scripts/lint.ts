import { spawnSync } from 'node:child_process';
import { runCommand } from './lib/fail';

/** All linters; through the bootstrap, so that a fresh clone has its packages first. */
await runCommand(async () => spawnSync('npm', ['run', '--silent', 'lint'], { stdio: 'inherit' }).status ?? 1);
