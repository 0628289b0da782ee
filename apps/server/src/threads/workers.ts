import { existsSync } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { availableParallelism, tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { randomUUID } from 'node:crypto';
import { Injectable, type OnApplicationShutdown } from '@nestjs/common';
import type { PackedList } from '@ulvane/core/manifest';
import { Piscina } from 'piscina';
import { busy } from '../http/problem';
import { valueOfAnswer, type Answer } from './answer';
import type * as tasks from './worker';

type Tasks = typeof tasks;
type TaskName = keyof Tasks;
type InputOf<N extends TaskName> = Parameters<Tasks[N]>[0];
type ValueOf<N extends TaskName> = Awaited<ReturnType<Tasks[N]>> extends Answer<infer T> ? T : never;

const here = (path: string) => fileURLToPath(new URL(path, import.meta.url));
/** Beside the built server; the sources are run against the last build. */
const workerFile = existsSync(here('./worker.js')) ? here('./worker.js') : here('../../dist/worker.js');

/** So many tasks may wait for a thread; more are asked to come again. */
const maxWaiting = 40;

/** Threads for what would hold up every other request: long lists, comparisons, paper, the whole fleet. */
@Injectable()
export class Workers implements OnApplicationShutdown {
  /** Two at least: while a thread works, the loop of the server mostly waits. */
  readonly count = Math.max(2, Math.min(4, availableParallelism() - 1));

  private pool: Piscina | undefined;
  private folder: Promise<string> | undefined;

  private get threads(): Piscina {
    this.pool ??= new Piscina({
      filename: workerFile,
      minThreads: 0,
      maxThreads: this.count,
      idleTimeout: 30_000,
      maxQueue: maxWaiting,
    });
    return this.pool;
  }

  /** How many tasks wait for a thread. */
  get waiting(): number {
    return this.pool?.queueSize ?? 0;
  }

  /** @throws ProblemError the task's own refusal, or 503 when too many wait */
  async run<N extends TaskName>(
    name: N,
    input: InputOf<N>,
    transferList: readonly ArrayBuffer[] = [],
  ): Promise<ValueOf<N>> {
    if (this.waiting >= maxWaiting) throw busy();
    const given: Answer<ValueOf<N>> = await this.threads.run(input, {
      name,
      transferList: [...transferList],
    });
    return valueOfAnswer(given);
  }

  /** Runs work with the path of a file of its own, which is gone afterwards. */
  async withFile<T>(work: (path: string) => Promise<T>): Promise<T> {
    this.folder ??= mkdtemp(join(tmpdir(), 'ulvane-'));
    const path = join(await this.folder, randomUUID());
    try {
      return await work(path);
    } finally {
      await rm(path, { force: true });
    }
  }

  /** After everything else: what still runs in the background may be waiting for a thread. */
  async onApplicationShutdown(): Promise<void> {
    await this.pool?.destroy();
    if (this.folder) await rm(await this.folder, { recursive: true, force: true });
  }
}

/** The memory of packed lists, to be handed over instead of copied. */
export function memoryOf(...lists: readonly PackedList[]): ArrayBuffer[] {
  const buffers = lists.flatMap((list) =>
    [list.pathBytes, list.pathStarts, list.sizes, list.times, list.digests, list.marks, list.hashes].map(
      ({ buffer }) => buffer,
    ),
  );
  return [...new Set(buffers)].filter((buffer): buffer is ArrayBuffer => buffer instanceof ArrayBuffer);
}
