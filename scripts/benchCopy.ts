import { execFileSync } from 'node:child_process';
import { closeSync, mkdirSync, mkdtempSync, openSync, rmSync, writeFileSync, writeSync } from 'node:fs';
import { cpus, tmpdir } from 'node:os';
import { join } from 'node:path';
import { copyTime, learntCopyTime, type MeasuredCopy } from '@ulvane/core/backup';
import { printBytes } from '@ulvane/core/quantity';

const smallFiles = 20_000;
const smallBytes = 20_000;
const largeBytes = 2_000_000_000;
const piece = Buffer.alloc(4_000_000, 'ulvane');

function writeSmall(folder: string): void {
  for (let year = 0; year < 100; year += 1) mkdirSync(join(folder, `folder ${year}`), { recursive: true });
  for (let index = 0; index < smallFiles; index += 1)
    writeFileSync(join(folder, `folder ${index % 100}`, `${index}.txt`), piece.subarray(0, smallBytes));
}

function writeLarge(folder: string): void {
  mkdirSync(folder, { recursive: true });
  const file = openSync(join(folder, 'film.bin'), 'w');
  for (let left = largeBytes; left > 0; left -= piece.length)
    writeSync(file, piece, 0, Math.min(left, piece.length));
  closeSync(file);
}

/** Seconds to copy a folder and have it on the disk; the source has been read once before. */
function copySeconds(from: string, into: string): number {
  execFileSync('sync');
  const start = performance.now();
  execFileSync('cp', ['-r', from, into]);
  execFileSync('sync');
  return (performance.now() - start) / 1000;
}

/**
 * The model of copy times beside two real copies on this machine's own disk: one of many small files, one of a single
 * large one; and what the second time is estimated at once the first was timed.
 */
export function benchCopy(): void {
  console.log(
    `\nCopy times: ${cpus()[0]?.model ?? 'unknown processor'}, the disk of ${tmpdir()}, cp and sync`,
  );
  const folder = mkdtempSync(join(tmpdir(), 'ulvane-copy-'));
  const here = { link: 'sata', medium: 'solid-state', serial: 'BENCH' } as const;
  const measured: MeasuredCopy[] = [];
  try {
    const cases = [
      ['20,000 small files', smallFiles * smallBytes, smallFiles, writeSmall],
      ['one large file', largeBytes, 1, writeLarge],
    ] as const;
    for (const [name, sizeBytes, fileCount, write] of cases) {
      write(join(folder, name));
      const seconds = copySeconds(join(folder, name), join(folder, `${name}, copied`));
      const { low, likely, high } = copyTime({ sizeBytes, fileCount }, 'solid-state', here).minutes;
      const [from, usual, to] = [low, likely, high].map((minutes) => (minutes * 60).toFixed(1));
      console.log(
        `  ${name}, ${printBytes(sizeBytes, 'decimal')}: model ${usual} s (${from} to ${to}), copied in ${seconds.toFixed(1)} s`,
      );
      // What a house would note, as if it were a thousand times as much: a copy of seconds teaches nothing.
      measured.push({
        at: '2026-03-02T10:00:00.000Z',
        serial: here.serial,
        source: 'solid-state',
        link: here.link,
        medium: here.medium,
        sizeBytes: sizeBytes * 1000,
        fileCount: fileCount * 1000,
        minutes: (seconds * 1000) / 60,
      });
    }
    for (const [name, sizeBytes, fileCount] of cases) {
      const { minutes } = learntCopyTime({ sizeBytes, fileCount }, 'solid-state', here, measured);
      console.log(`  ${name}, once both were timed: ${(minutes.likely * 60).toFixed(1)} s`);
    }
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}
