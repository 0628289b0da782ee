import { AsyncLocalStorage } from 'node:async_hooks';
import pg, { type Client, type ClientBase, type PoolClient, type PoolConfig } from 'pg';
import { DatabaseDown, SecondConnection } from './faults';
import { Pulse } from './pulse';

/** Set for everything that runs while a transaction is open. */
const transactionOpen = new AsyncLocalStorage<true>();

/** Runs work that has a transaction open: whatever asks the pool for another connection in it is refused. */
export function whileTransactionOpen<T>(work: () => Promise<T>): Promise<T> {
  return transactionOpen.run(true, work);
}

type Connected = (error: Error | undefined, client: PoolClient | undefined, release: () => void) => void;

/**
 * The one pool of connections, for TypeORM and for sessions alike. It refuses a second connection
 * inside a transaction (a pool in which every holder waits for one more never moves again), refuses at once
 * while the database does not answer, and cuts what hangs when that is noticed.
 */
export class HousePool extends pg.Pool {
  readonly pulse: Pulse;
  private readonly connected = new Set<ClientBase>();
  /** Those who wait for a connection: told when the database is found to be down. */
  private readonly waiting = new Set<() => void>();

  constructor(options: PoolConfig) {
    super(options);
    this.on('connect', (client: PoolClient) => {
      this.connected.add(client);
      // A connection that breaks while somebody holds it says so to its query; that is enough.
      client.on('error', () => undefined);
      client.on('drain', () => this.pulse.heard());
    });
    this.on('remove', (client: PoolClient) => this.connected.delete(client));
    this.pulse = new Pulse(options, () => this.cut());
  }

  override connect(): Promise<PoolClient>;
  override connect(connected: Connected): void;
  override connect(connected?: Connected): Promise<PoolClient> | undefined {
    const refusal = transactionOpen.getStore()
      ? new SecondConnection()
      : this.pulse.state === 'down'
        ? new DatabaseDown()
        : undefined;
    if (!connected)
      return new Promise((resolve, reject) => {
        this.connect((error, client) => (client ? resolve(client) : reject(error ?? new DatabaseDown())));
      });
    if (refusal) {
      connected(refusal, undefined, () => undefined);
      return undefined;
    }
    let told = false;
    const tell: Connected = (error, client, release) => {
      this.waiting.delete(giveUp);
      // Somebody who was told that the database is down does not wait for this connection any more.
      if (told) return release();
      told = true;
      connected(error, client, release);
    };
    const giveUp = () => tell(new DatabaseDown(), undefined, () => undefined);
    this.waiting.add(giveUp);
    super.connect(tell);
    return undefined;
  }

  override end(): Promise<void>;
  override end(ended: () => void): void;
  override end(ended?: () => void): Promise<void> | undefined {
    this.pulse.stop();
    if (!ended) return super.end();
    super.end(ended);
    return undefined;
  }

  /** Refuses those who wait, and ends every connection, so that queries without an answer are refused now. */
  private cut(): void {
    for (const giveUp of [...this.waiting]) giveUp();
    for (const client of this.connected) void (client as Client).end().catch(() => undefined);
  }
}
