/**
 * A hash table from a row's bytes to the row, without a string or an object a row: open addressing
 * over 32-bit hashes (FNV-1a), the bytes compared where hashes are equal.
 */
export class RowTable {
  private readonly slots: Int32Array;
  private readonly hashes: Uint32Array;
  private readonly mask: number;

  /**
   * @param count rows that may be put in
   * @param bytesOf the bytes that rows are told apart by: array, start, end
   */
  constructor(
    count: number,
    private readonly bytes: Uint8Array,
    private readonly startOf: (row: number) => number,
    private readonly endOf: (row: number) => number,
  ) {
    let capacity = 16;
    while (capacity < count * 2) capacity *= 2;
    this.mask = capacity - 1;
    this.slots = new Int32Array(capacity).fill(-1);
    this.hashes = new Uint32Array(capacity);
  }

  /** The row that has these bytes, or -1. */
  find(bytes: Uint8Array, start: number, end: number): number {
    const slot = this.slotOf(bytes, start, end, hashOf(bytes, start, end));
    return this.slots[slot] ?? -1;
  }

  /** Puts a row in; gives the row that is there already with the same bytes, or -1. */
  put(row: number): number {
    const start = this.startOf(row);
    const end = this.endOf(row);
    const hash = hashOf(this.bytes, start, end);
    const slot = this.slotOf(this.bytes, start, end, hash);
    const present = this.slots[slot] ?? -1;
    if (present >= 0) return present;
    this.slots[slot] = row;
    this.hashes[slot] = hash;
    return -1;
  }

  private slotOf(bytes: Uint8Array, start: number, end: number, hash: number): number {
    let slot = hash & this.mask;
    for (;;) {
      const row = this.slots[slot] ?? -1;
      if (row < 0 || (this.hashes[slot] === hash && this.same(row, bytes, start, end))) return slot;
      slot = (slot + 1) & this.mask;
    }
  }

  private same(row: number, bytes: Uint8Array, start: number, end: number): boolean {
    const from = this.startOf(row);
    if (this.endOf(row) - from !== end - start) return false;
    // From the end: paths of one folder differ there.
    for (let back = end - start - 1; back >= 0; back -= 1)
      if (this.bytes[from + back] !== bytes[start + back]) return false;
    return true;
  }
}

function hashOf(bytes: Uint8Array, start: number, end: number): number {
  let hash = 0x811c9dc5;
  for (let index = start; index < end; index += 1) hash = Math.imul(hash ^ (bytes[index] ?? 0), 0x01000193);
  // The low bits choose the slot: let the high ones have a say.
  hash ^= hash >>> 15;
  return hash >>> 0;
}
