import type { FileEntry } from '@ulvane/core/manifest';
import { proxy, wrap } from 'comlink';
import type { HashOutcome, HashWork } from '../workers/hash.worker';

/** A file that a folder was found to hold; without a file where the folder itself could not be read. */
export type FoundFile = {
  readonly path: string;
  readonly file: File | null;
  /** As the browser saw them when the file was found; asking the file itself again costs a millisecond each time. */
  readonly sizeBytes: number;
  readonly modifiedMs: number | null;
};

export type HashState = 'running' | 'paused' | 'drive-gone' | 'finished' | 'stopped';

export type HashProgress = {
  readonly state: HashState;
  readonly filesDone: number;
  readonly filesTotal: number;
  readonly bytesDone: number;
  readonly bytesTotal: number;
  /** Bytes a second over the time that it ran. */
  readonly rate: number;
  readonly secondsLeft: number | null;
  /** Files without a checksum so far. */
  readonly troubled: readonly { readonly path: string; readonly trouble: string }[];
};

const batchFiles = 200;
const batchBytes = 48 * 1024 * 1024;
const tellEveryMilliseconds = 250;
/** So many files not found one after the other: the drive is gone, not the files. */
const goneInARow = 10;

/** A place where files are hashed: a worker of its own, unless a test puts something else there. */
export type HashPlace = { readonly hash: HashWork['hash']; readonly close: () => void };

function openWorker(): HashPlace {
  const worker = new Worker(new URL('../workers/hash.worker.ts', import.meta.url), { type: 'module' });
  const remote = wrap<HashWork>(worker);
  return {
    hash: (files, onBytes) => remote.hash(files, proxy(onBytes)),
    close: () => worker.terminate(),
  };
}

type Batch = { readonly index: number; readonly found: readonly FoundFile[] };

const bytesOf = ({ found }: Batch) => found.reduce((sum, { sizeBytes }) => sum + sizeBytes, 0);

function* batchesOf(files: readonly FoundFile[]): Generator<readonly FoundFile[]> {
  let batch: FoundFile[] = [];
  let bytes = 0;
  for (const found of files) {
    const size = found.sizeBytes;
    if (batch.length > 0 && (batch.length >= batchFiles || bytes + size > batchBytes)) {
      yield batch;
      batch = [];
      bytes = 0;
    }
    batch.push(found);
    bytes += size;
  }
  if (batch.length > 0) yield batch;
}

function entryOf(
  { path, file, sizeBytes, modifiedMs }: FoundFile,
  outcome: HashOutcome | undefined,
): FileEntry {
  return {
    path,
    sizeBytes: file ? sizeBytes : null,
    sha256: outcome?.sha256 ?? null,
    modifiedMs,
    trouble: outcome ? outcome.trouble : 'unreadable',
  };
}

/**
 * Computes the SHA-256 of many files in a pool of workers: with progress, to be paused, gone on with
 * and stopped. When the drive goes away it waits, and the files that were missed are read again.
 */
export class HashRun {
  private readonly batches: Batch[];
  private readonly lines: (string | undefined)[];
  private readonly places: HashPlace[] = [];
  private state: HashState = 'running';
  private next = 0;
  private readonly busy = new Set<number>();
  private missingIsLost = false;
  private toldState: HashState | undefined;
  private toldAt = 0;
  private filesDone = 0;
  private bytesDone = 0;
  private readonly troubled = new Map<string, string>();
  private again: Batch[] = [];
  private gone = 0;
  /** How often it was gone on with. */
  private era = 0;
  private ranMilliseconds = 0;
  private runningSince = performance.now();
  private readonly filesTotal: number;
  private readonly bytesTotal: number;

  constructor(
    files: readonly FoundFile[],
    private readonly onChange: (progress: HashProgress) => void,
    workers = Math.max(2, Math.min(8, navigator.hardwareConcurrency || 2)),
    open: () => HashPlace = openWorker,
  ) {
    // The largest first: else one worker is left alone with the last one.
    this.batches = [...batchesOf(files)]
      .map((found, index) => ({ index, found }))
      .sort((a, b) => bytesOf(b) - bytesOf(a));
    this.lines = new Array<string | undefined>(this.batches.length);
    this.filesTotal = files.length;
    this.bytesTotal = files.reduce((sum, { sizeBytes }) => sum + sizeBytes, 0);
    for (let count = 0; count < Math.min(workers, this.batches.length); count += 1) {
      this.places.push(open());
    }
    this.tell();
    this.places.forEach((_worker, index) => void this.serve(index));
    if (this.batches.length === 0) this.end('finished');
  }

  pause(): void {
    if (this.state !== 'running') return;
    this.rest('paused');
  }

  goOn(): void {
    if (this.state !== 'paused' && this.state !== 'drive-gone') return;
    this.state = 'running';
    this.gone = 0;
    this.era += 1;
    this.runningSince = performance.now();
    this.tell();
    this.places.forEach((_worker, index) => {
      if (!this.busy.has(index)) void this.serve(index);
    });
  }

  /** Files that are not there any more are listed as unreadable, and the rest is read. */
  goOnWithout(): void {
    this.missingIsLost = true;
    this.goOn();
  }

  stop(): void {
    if (this.state === 'finished') return;
    this.end('stopped');
  }

  /** The list as JSON Lines, in the order of the files. Only when finished. */
  list(): Blob {
    return new Blob(
      this.lines.map((text) => text ?? ''),
      { type: 'application/x-ndjson' },
    );
  }

  private rest(state: 'paused' | 'drive-gone'): void {
    this.ranMilliseconds += performance.now() - this.runningSince;
    this.state = state;
    this.tell();
  }

  private end(state: 'finished' | 'stopped'): void {
    if (this.state === 'running') this.ranMilliseconds += performance.now() - this.runningSince;
    this.state = state;
    for (const { close } of this.places) close();
    this.tell();
  }

  private takeBatch(): Batch | undefined {
    const again = this.again.pop();
    if (again) return again;
    const batch = this.batches[this.next];
    if (batch) this.next += 1;
    return batch;
  }

  private async serve(index: number): Promise<void> {
    const place = this.places[index];
    if (!place) return;
    this.busy.add(index);
    while (this.state === 'running') {
      const batch = this.takeBatch();
      if (!batch) break;
      await this.hash(place, batch);
    }
    this.busy.delete(index);
    if (this.busy.size === 0 && this.state === 'running' && this.again.length === 0) this.end('finished');
  }

  private async hash(place: HashPlace, batch: Batch): Promise<void> {
    const { era } = this;
    let added = 0;
    const files = batch.found.flatMap(({ file, sizeBytes }) => (file ? [{ file, sizeBytes }] : []));
    const outcomes = await place.hash(files, (bytes) => {
      added += bytes;
      this.bytesDone += bytes;
      this.tell();
    });
    if (this.state === 'stopped') return;
    if (this.seesDriveGone(outcomes)) {
      // Read again when the drive is back: nothing of this batch counts.
      this.bytesDone -= added;
      this.again.push(batch);
      // What was begun before somebody went on says nothing of the drive as it is now.
      if (era !== this.era) this.gone = 0;
      else if (this.state === 'running') this.rest('drive-gone');
      return;
    }
    let at = 0;
    const entries = batch.found.map((found) => {
      const outcome = found.file ? outcomes[at] : undefined;
      if (found.file) at += 1;
      return entryOf(found, outcome);
    });
    for (const { path, trouble } of entries) if (trouble) this.troubled.set(path, trouble);
    this.lines[batch.index] = entries.map((entry) => `${JSON.stringify(entry)}\n`).join('');
    this.filesDone += batch.found.length;
    this.tell();
  }

  private seesDriveGone(outcomes: readonly HashOutcome[]): boolean {
    if (this.missingIsLost) return false;
    for (const { gone } of outcomes) {
      this.gone = gone ? this.gone + 1 : 0;
      if (this.gone >= goneInARow) return true;
    }
    return false;
  }

  private tell(): void {
    // Drawing it more often would take from the hashing; a change of state is told at once.
    const now = performance.now();
    if (this.toldState === this.state && now - this.toldAt < tellEveryMilliseconds) return;
    this.toldState = this.state;
    this.toldAt = now;
    const ran = this.ranMilliseconds + (this.state === 'running' ? performance.now() - this.runningSince : 0);
    const rate = ran > 0 ? this.bytesDone / (ran / 1000) : 0;
    this.onChange({
      state: this.state,
      filesDone: this.filesDone,
      filesTotal: this.filesTotal,
      bytesDone: Math.min(this.bytesDone, this.bytesTotal),
      bytesTotal: this.bytesTotal,
      rate,
      secondsLeft: rate > 0 ? (this.bytesTotal - this.bytesDone) / rate : null,
      troubled: [...this.troubled].map(([path, trouble]) => ({ path, trouble })),
    });
  }
}
