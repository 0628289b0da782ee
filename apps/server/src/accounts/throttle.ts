import { Injectable, type OnApplicationBootstrap, type OnModuleDestroy } from '@nestjs/common';
import { DataSource } from 'typeorm';
import { refuse } from '../http/problem';

/** Tries in a minute, by what is counted. An address may be a whole desk's. */
const tries = { name: 10, browser: 10, address: 100, link: 20 } as const;
/** How often what is long past is taken off. */
const tidyEveryMs = 15 * 60_000;
type Counted = { readonly what: keyof typeof tries; readonly key: string };

/**
 * Counts tries to sign in, in the database, so that it holds over several servers. A throttle is not
 * passed by the right password: else it would tell which one that is.
 */
@Injectable()
export class Throttle implements OnApplicationBootstrap, OnModuleDestroy {
  constructor(private readonly dataSource: DataSource) {}

  private timer: NodeJS.Timeout | undefined;

  onApplicationBootstrap(): void {
    // While the database is away there is nothing to tidy; the next time will do.
    this.timer = setInterval(() => void this.tidy().catch(() => undefined), tidyEveryMs);
    this.timer.unref();
  }

  onModuleDestroy(): void {
    clearInterval(this.timer);
  }

  /** Counts a try under each of the keys. @throws ProblemError 429 when one has had its share of the minute */
  async count(keys: readonly Counted[]): Promise<void> {
    for (const { what, key } of keys) {
      const [row]: { tries: number; wait: number }[] = await this.dataSource.query(
        `INSERT INTO sign_in_throttle AS t (key, since, tries) VALUES ($1, now(), 1)
         ON CONFLICT (key) DO UPDATE SET
           tries = CASE WHEN t.since > now() - interval '1 minute' THEN t.tries + 1 ELSE 1 END,
           since = CASE WHEN t.since > now() - interval '1 minute' THEN t.since ELSE now() END
         RETURNING tries, ceil(extract(epoch FROM since + interval '1 minute' - now()))::int AS wait`,
        [`${what} ${key}`],
      );
      if (row && row.tries > tries[what])
        throw refuse(
          'too-many-tries',
          `Too many tries: wait ${row.wait === 1 ? '1 second' : `${row.wait} seconds`}, then try again. A browser that has signed in before is still let in.`,
        );
    }
  }

  /** What succeeded was no guess. */
  async forgive(keys: readonly Counted[]): Promise<void> {
    await this.dataSource.query(
      `UPDATE sign_in_throttle SET tries = greatest(tries - 1, 0) WHERE key = ANY($1)`,
      [keys.map(({ what, key }) => `${what} ${key}`)],
    );
  }

  /** Takes off what is long past. */
  async tidy(): Promise<void> {
    await this.dataSource.query(`DELETE FROM sign_in_throttle WHERE since < now() - interval '1 hour'`);
  }
}
