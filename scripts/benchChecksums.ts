import { spawnSync } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { availableParallelism, tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { Failure } from './lib/fail';

const files = 16;
const megabytes = 96;

function secondsOf(command: string, args: readonly string[]): number {
  const since = performance.now();
  const { status, stderr } = spawnSync(command, args, { encoding: 'utf8', maxBuffer: 1 << 26 });
  if (status !== 0) throw new Failure(`${command} failed: ${stderr}`);
  return (performance.now() - since) / 1000;
}

/** The collector’s checksum list on all cores, against one `sha256sum` over the same files. */
export function benchChecksums(): void {
  const folder = mkdtempSync(join(tmpdir(), 'ulvane-bench-sums-'));
  try {
    const names = Array.from({ length: files }, (_none, index) => join(folder, `file ${index}`));
    for (const name of names) writeFileSync(name, randomBytes(megabytes * 1_000_000));
    // Once before, so that both read from memory.
    secondsOf('sha256sum', names);
    const rounds = [1, 2, 3].map((round) => ({
      one: secondsOf('sha256sum', names),
      all: secondsOf('sh', [
        resolve('collector/ulvane-survey.sh'),
        '--checksums',
        folder,
        join(tmpdir(), `ulvane-bench-${process.pid}-${round}.sha256`),
      ]),
    }));
    for (const round of [1, 2, 3]) rmSync(join(tmpdir(), `ulvane-bench-${process.pid}-${round}.sha256`));
    const best = (of: (round: (typeof rounds)[number]) => number) => Math.min(...rounds.map(of));
    const [one, all] = [best((round) => round.one), best((round) => round.all)];
    console.log(
      `collector, checksum list of ${files} files of ${megabytes} MB on ${availableParallelism()} cores: ${all.toFixed(1)} s; one sha256sum ${one.toFixed(1)} s: ${(one / all).toFixed(2)} times (aim 1.8 on two cores)`,
    );
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}
