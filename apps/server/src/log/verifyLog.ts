import { createHash } from 'node:crypto';
import { printCount } from '@ulvane/core/quantity';
import type { DataSource } from 'typeorm';
import { LogReader } from './logReader';

/**
 * Checks every chain of the log and says which line of which move does not fit.
 * @param say gets what is found, a line each
 * @returns whether all of it fits
 */
export async function verifyLog(dataSource: DataSource, say: (line: string) => void): Promise<boolean> {
  const reader = new LogReader(dataSource);
  const heads = createHash('sha256');
  let chains = 0;
  let lines = 0;
  let faults = 0;
  for await (const check of reader.checkAll()) {
    chains += 1;
    lines += check.lines;
    heads.update(`${check.reference ?? 'house'} ${check.head}\n`);
    if (!check.fault) continue;
    faults += 1;
    say(`${check.reference ?? 'The house'}: ${check.fault.sentence}`);
  }
  say(
    faults === 0
      ? `All ${printCount(lines, 'line')} in ${printCount(chains, 'chain')} fit.`
      : `${printCount(faults, 'chain')} of ${chains} ${faults === 1 ? 'does' : 'do'} not fit.`,
  );
  // Whoever keeps this code elsewhere can tell later whether whole ends of the log are gone.
  say(`Code of all ends: ${heads.digest('hex')}`);
  return faults === 0;
}
