import type { PackedList } from '@ulvane/core/manifest';

/** The memory of a list, for handing it from worker to worker without a copy; checksums and their words are one. */
export function buffersOf({
  pathBytes,
  pathStarts,
  sizes,
  times,
  digests,
  marks,
  hashes,
}: PackedList): ArrayBuffer[] {
  return [pathBytes, pathStarts, sizes, times, digests, marks, hashes].map(
    ({ buffer }) => buffer as ArrayBuffer,
  );
}
