import pg, { type Client, type PoolConfig } from 'pg';

const everyMs = 250;
/** A database that has not answered the smallest question for so long is held to be down. */
const patienceMs = 1100;
/** A loop that was held up reads what has arrived meanwhile before the patience ends. */
const graceMs = 50;

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

  /** @param onDown called each time when the database stops answering */
  constructor(
    private readonly options: PoolConfig,
    private readonly onDown: () => void,
  ) {
    this.next();
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
    const answered = await this.ask();
    if (this.stopped) return;
    if (!answered) {
      this.drop();
      const was = this.state;
      this.state = 'down';
      if (was === 'up') this.onDown();
    } else this.state = 'up';
    this.next();
  }

  private async ask(): Promise<boolean> {
    let timer: NodeJS.Timeout | undefined;
    const late = new Promise<false>((resolve) => {
      timer = setTimeout(() => setTimeout(() => resolve(false), graceMs), patienceMs);
    });
    try {
      return await Promise.race([this.answer(), late]);
    } finally {
      clearTimeout(timer);
    }
  }

  private async answer(): Promise<boolean> {
    try {
      if (!this.client) {
        const { connectionString, application_name: name } = this.options;
        const client = new pg.Client({ connectionString, application_name: `${name ?? 'ulvane'} pulse` });
        client.on('error', () => this.drop());
        this.client = client;
        await client.connect();
      }
      await this.client.query('SELECT 1');
      return true;
    } catch {
      return false;
    }
  }

  private drop(): void {
    const { client } = this;
    this.client = undefined;
    void client?.end().catch(() => undefined);
  }
}
