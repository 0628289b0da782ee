const lineFeed = 0x0a;
const carriageReturn = 0x0d;

/**
 * Gives the lines of bytes that come in pieces, without their ends. `onLine` gets each line's bytes
 * (valid only during the call), its number from 1, and whether it ended in CR LF.
 */
export class LineSplitter {
  private rest: Uint8Array = new Uint8Array(0);
  private line = 0;

  constructor(
    private readonly onLine: (bytes: Uint8Array, line: number, carriageReturned: boolean) => void,
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
      this.give(joined);
      this.rest = new Uint8Array(0);
      start = end + 1;
    }
    for (;;) {
      const end = chunk.indexOf(lineFeed, start);
      if (end < 0) break;
      this.give(chunk.subarray(start, end));
      start = end + 1;
    }
    if (start < chunk.length) this.rest = chunk.slice(start);
  }

  end(): void {
    if (this.rest.length > 0) this.give(this.rest);
    this.rest = new Uint8Array(0);
  }

  private give(bytes: Uint8Array): void {
    this.line += 1;
    const carriageReturned = bytes.at(-1) === carriageReturn;
    this.onLine(carriageReturned ? bytes.subarray(0, -1) : bytes, this.line, carriageReturned);
  }
}
