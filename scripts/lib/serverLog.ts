import { chmodSync, existsSync } from 'node:fs';
import { join } from 'node:path';
import type { Readable } from 'node:stream';
import { createStream } from 'rotating-file-stream';

const eachBytes = '10M';
const kept = 5;

/** The server's log: five files of ten megabytes, for this account's eyes only. */
export class ServerLog {
  readonly path: string;
  private readonly stream;

  constructor(dataFolder: string) {
    this.path = join(dataFolder, 'server.log');
    // A log of before may have been readable by others.
    if (existsSync(this.path)) chmodSync(this.path, 0o600);
    this.stream = createStream('server.log', {
      path: dataFolder,
      size: eachBytes,
      maxFiles: kept,
      mode: 0o600,
    });
    this.stream.on('error', (error) =>
      console.error(`The log ${this.path} cannot be written: ${error.message}`),
    );
  }

  /** Takes down what a process says. */
  follow(...outputs: readonly (Readable | null)[]): void {
    for (const output of outputs) output?.pipe(this.stream, { end: false });
  }

  async close(): Promise<void> {
    await new Promise<void>((resolve) => this.stream.end(resolve));
  }
}
