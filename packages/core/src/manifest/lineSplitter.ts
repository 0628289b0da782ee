const lineFeed = 0x0a;
const carriageReturn = 0x0d;

type OnLine = (
  bytes: Uint8Array,
  start: number,
  end: number,
  line: number,
  carriageReturned: boolean,
) => void;

/**
 * Gives the lines of bytes that come in pieces, without their ends. `onLine` gets each line's bytes
 * (from `start` to `end` of the array, valid only during the call), its number from 1, and whether it
 * ended in CR LF.
 */
export class LineSplitter {
  private rest: Uint8Array = new Uint8Array(0);
  private line = 0;

  /**
   * @param quick reads one line that begins at `start` in one go, if it is of the simple kind: gives
   * where the next one begins, or -1 when `onLine` has to look at it (or its end is not there yet)
   */
  constructor(
    private readonly onLine: OnLine,
    private readonly quick: (bytes: Uint8Array, start: number) => number = () => -1,
  ) {}

  push(chunk: Uint8Array): void {
    let start = 0;
    if (this.rest.length > 0) {
      const end = chunk.indexOf(lineFeed);
      const head = end < 0 ? chunk : chunk.subarray(0, end);
      const joined = new Uint8Array(this.rest.length + head.length);
      joined.set(this.rest);
      joined.set(head, this.rest.length);
      if (end < 0) {
        this.rest = joined;
        return;
      }
      this.give(joined, 0, joined.length);
      this.rest = new Uint8Array(0);
      start = end + 1;
    }
    for (;;) {
      const next = this.quick(chunk, start);
      if (next >= 0) {
        this.line += 1;
        start = next;
        continue;
      }
      const end = chunk.indexOf(lineFeed, start);
      if (end < 0) break;
      this.give(chunk, start, end);
      start = end + 1;
    }
    // A copy: the caller may fill the same array again (and Node's Buffer gives a view for `slice`).
    if (start < chunk.length) this.rest = Uint8Array.from(chunk.subarray(start));
  }

  end(): void {
    if (this.rest.length > 0) this.give(this.rest, 0, this.rest.length);
    this.rest = new Uint8Array(0);
  }

  private give(bytes: Uint8Array, start: number, end: number): void {
    this.line += 1;
    const carriageReturned = end > start && bytes[end - 1] === carriageReturn;
    this.onLine(bytes, start, carriageReturned ? end - 1 : end, this.line, carriageReturned);
  }
}
