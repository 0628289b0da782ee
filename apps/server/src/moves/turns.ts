import { E_TIMEOUT, Mutex, withTimeout, type MutexInterface } from 'async-mutex';
import { limits } from '../database/dataSource';
import { busy } from '../http/problem';

type Queue = { readonly mutex: MutexInterface; waiting: number };

/**
 * Who changes the same move waits here, without a connection: waiting in the database would hold one
 * each, and a single move could take the whole pool. The row's lock stays what decides between servers.
 */
export class Turns {
  private readonly queues = new Map<string, Queue>();

  async take<T>(key: string, work: () => Promise<T>): Promise<T> {
    const queue = this.queues.get(key) ?? {
      mutex: withTimeout(new Mutex(), limits.lockMs),
      waiting: 0,
    };
    this.queues.set(key, queue);
    queue.waiting += 1;
    try {
      return await queue.mutex.runExclusive(work);
    } catch (error) {
      throw error === E_TIMEOUT ? busy() : error;
    } finally {
      queue.waiting -= 1;
      if (queue.waiting === 0) this.queues.delete(key);
    }
  }
}
