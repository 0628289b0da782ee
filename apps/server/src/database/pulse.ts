import pg, { type Client, type PoolConfig } from 'pg';
import { late, patienceMs } from './patience';

const everyMs = 250;
/** Making a connection takes longer on a busy machine than answering over one: so many tries may fail to. */
const connectionTries = 3;
/**
 * Asks the database a small question all the time, over a connection of its own: one taken from the
 * pool would wait where everybody waits. So a database that hangs without breaking its connections (a
 * stopped process, a dead disk) is told from one that is busy with a long statement.
 */
export class Pulse {
  state: 'up' | 'down' = 'up';
  private client: Client | undefined;
  private timer: NodeJS.Timeout | undefined;
  private stopped = false;
  private connecting = false;
  private lateConnections = 0;
  private heardAt = 0;

  /** @param onDown called each time when the database stops answering */
  constructor(
    private readonly options: PoolConfig,
    private readonly onDown: () => void,
  ) {
    this.next();
  }

  /** The database has answered somebody just now. */
  heard(): void {
    this.heardAt = performance.now();
  }

  stop(): void {
    this.stopped = true;
    clearTimeout(this.timer);
    this.drop();
  }

  private next(): void {
    if (this.stopped) return;
    this.timer = setTimeout(() => void this.beat(), everyMs);
    this.timer.unref();
  }

  private async beat(): Promise<void> {
    const answer = await this.ask();
    if (this.stopped) return;
    if (answer === 'yes') {
      this.lateConnections = 0;
      this.state = 'up';
    } else {
      this.drop();
      if (this.state === 'up' && !this.isOnlyBusy(answer)) {
        this.state = 'down';
        this.onDown();
      }
    }
    this.next();
  }

  /** A busy machine is no dead one: others are answered, or only making a connection takes so long. */
  private isOnlyBusy(answer: 'no' | 'late'): boolean {
    if (answer === 'no') return false;
    if (performance.now() - this.heardAt < patienceMs) return true;
    if (!this.connecting) return false;
    this.lateConnections += 1;
    return this.lateConnections < connectionTries;
  }

  private async ask(): Promise<'yes' | 'no' | 'late'> {
    const patience = new AbortController();
    try {
      return await Promise.race([this.answer(), late(patience.signal)]);
    } finally {
      patience.abort();
    }
  }

  private async answer(): Promise<'yes' | 'no'> {
    try {
      if (!this.client) {
        const { connectionString, application_name: name } = this.options;
        const client = new pg.Client({ connectionString, application_name: `${name ?? 'ulvane'} pulse` });
        client.on('error', () => this.drop());
        this.client = client;
        this.connecting = true;
        await client.connect();
        this.connecting = false;
      }
      await this.client.query('SELECT 1');
      return 'yes';
    } catch {
      return 'no';
    }
  }

  private drop(): void {
    const { client } = this;
    this.client = undefined;
    void client?.end().catch(() => undefined);
  }
}
