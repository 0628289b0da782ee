import type { PackedList } from './packed';

/**
 * A hash table of a list's rows, without a string or an object a row: open addressing over 32-bit
 * hashes, the bytes compared where hashes are equal.
 */
export class RowTable {
  private readonly slots: Int32Array;
  private readonly mask: number;

  /** @param list the list whose rows are put in and found */
  constructor(
    private readonly list: PackedList,
    private readonly key: RowKey,
  ) {
    let capacity = 16;
    while (capacity < list.count * 2) capacity *= 2;
    this.mask = capacity - 1;
    // Zero stands for empty: rows are kept plus one.
    this.slots = new Int32Array(capacity);
  }

  /** The first row put in that equals a row of another list (or of the same one), or -1. */
  find(other: PackedList, row: number): number {
    return (this.slots[this.slotOf(other, row)] ?? 0) - 1;
  }

  /** Puts a row in; gives the row that is there already and equals it, or -1. */
  put(row: number): number {
    const slot = this.slotOf(this.list, row);
    const present = this.slots[slot] ?? 0;
    if (present === 0) this.slots[slot] = row + 1;
    return present - 1;
  }

  private slotOf(other: PackedList, otherRow: number): number {
    const { list, key, slots, mask } = this;
    const hash = key.hashOf(other, otherRow);
    // The low bits choose the slot: let the high ones have a say.
    let slot = (hash ^ (hash >>> 15)) & mask;
    for (;;) {
      const present = slots[slot] ?? 0;
      if (present === 0) return slot;
      const row = present - 1;
      if (key.hashOf(list, row) === hash && key.same(list, row, other, otherRow)) return slot;
      slot = (slot + 1) & mask;
    }
  }
}

/** What rows are told apart by. */
type RowKey = {
  readonly hashOf: (list: PackedList, row: number) => number;
  readonly same: (a: PackedList, rowA: number, b: PackedList, rowB: number) => boolean;
};

export const byPath: RowKey = {
  hashOf: (list, row) => list.hashes[row] ?? 0,
  same: (a, rowA, b, rowB) => {
    const startA = a.pathStarts[rowA] ?? 0;
    const startB = b.pathStarts[rowB] ?? 0;
    const length = (a.pathStarts[rowA + 1] ?? 0) - startA;
    if ((b.pathStarts[rowB + 1] ?? 0) - startB !== length) return false;
    const bytesA = a.pathBytes;
    const bytesB = b.pathBytes;
    for (let index = 0; index < length; index += 1)
      if (bytesA[startA + index] !== bytesB[startB + index]) return false;
    return true;
  },
};

export function sameDigest(a: PackedList, rowA: number, b: PackedList, rowB: number): boolean {
  const wordsA = a.digestWords;
  const wordsB = b.digestWords;
  const startA = rowA * 8;
  const startB = rowB * 8;
  for (let index = 0; index < 8; index += 1)
    if (wordsA[startA + index] !== wordsB[startB + index]) return false;
  return true;
}

/** A checksum is as good a hash as any: its first four bytes. */
export const byDigest: RowKey = {
  hashOf: ({ digests }, row) => {
    const start = row * 32;
    return (
      (((digests[start] ?? 0) << 24) |
        ((digests[start + 1] ?? 0) << 16) |
        ((digests[start + 2] ?? 0) << 8) |
        (digests[start + 3] ?? 0)) >>>
      0
    );
  },
  same: sameDigest,
};
