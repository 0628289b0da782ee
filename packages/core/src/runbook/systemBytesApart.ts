import type { RunbookInput } from './input';

/**
 * Bytes that the system gets where data have a partition of their own: what was asked for, else three times what the
 * release takes. Undefined without a release.
 */
export function systemBytesApart({
  preparation,
  release,
}: Pick<RunbookInput, 'preparation' | 'release'>): number | undefined {
  return release && (preparation.wantedSystemBytes ?? release.systemBytes * 3);
}
