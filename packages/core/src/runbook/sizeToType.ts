import { sizeBox } from '../disk/sizeBox';
import type { RunbookInput } from './input';

/** The size box for a system whose size somebody wants; undefined where nobody does, or it cannot be. */
export function wantedSizeBox({ preparation, release }: Pick<RunbookInput, 'preparation' | 'release'>) {
  if (preparation.wantedSystemBytes === null || !release) return undefined;
  const box = sizeBox(
    preparation.wantedSystemBytes,
    release.sizeHoldsOwn ? release.installerPartitions.map(({ sizeBytes }) => sizeBytes) : [],
    release.sizeBoxUnit,
  );
  return box.ok ? box.value : undefined;
}
