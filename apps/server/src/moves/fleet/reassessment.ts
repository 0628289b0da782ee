import { setImmediate as nextTurn } from 'node:timers/promises';
import { Injectable, type BeforeApplicationShutdown, type OnApplicationBootstrap } from '@nestjs/common';
import type { Reassessment as ReassessmentView } from '@ulvane/contract';
import type { Move } from '@ulvane/core/record';
import { Logger } from 'nestjs-pino';
import { DataSource, IsNull, Not, type EntityMetadata } from 'typeorm';
import { z } from 'zod';
import { Transactions } from '../../database/transactions';
import { faultOf } from '../../database/faults';
import { Clock } from '../../clock/clock';
import { HouseService } from '../../house/house.service';
import { MoveEntity } from '../move.entity';
import { Workers } from '../../threads/workers';
import { Quarantine } from '../quarantine';
import { assessedFor, columnsOf, type DerivedColumns, type HouseAt } from '../row';

/** So many rows are taken at once. */
const rowsAtOnce = 100;
/** So few are assessed before a thread has started. */
const fewDevices = 5;
const lookEveryMs = 60_000;

type RowRead = Pick<MoveEntity, 'id' | 'version'>;

/** What the driver says of an UPDATE: rows, and how many there were. */
const UpdatedSchema = z.tuple([z.unknown(), z.int()]);

/** Values by the names that their columns have in the database. */
function inColumns(
  { columns }: EntityMetadata,
  values: Partial<DerivedColumns> & RowRead,
): Readonly<Record<string, unknown>> {
  const given = new Map<string, unknown>(Object.entries(values));
  return Object.fromEntries(
    columns
      .filter(({ propertyName }) => given.has(propertyName))
      .map(({ databaseName, propertyName }) => [databaseName, given.get(propertyName)]),
  );
}

/**
 * Keeps every derived column of the lists up to date, in the background. The work is the rows
 * themselves: those made with another catalogue, house rules or day than today's. So there is no queue
 * to lose, and a stop in the middle is taken up again. Two servers may do the same rows, with the same result.
 */
@Injectable()
export class Reassessment implements OnApplicationBootstrap, BeforeApplicationShutdown {
  constructor(
    private readonly dataSource: DataSource,
    private readonly transactions: Transactions,
    private readonly quarantine: Quarantine,
    private readonly workers: Workers,
    private readonly house: HouseService,
    private readonly clock: Clock,
    private readonly logger: Logger,
  ) {}

  private timer: NodeJS.Timeout | undefined;
  private running: Promise<void> | undefined;
  private again = false;
  private stopped = false;

  onApplicationBootstrap(): void {
    this.timer = setInterval(() => this.wake(), lookEveryMs);
    this.timer.unref();
    this.wake();
  }

  async beforeApplicationShutdown(): Promise<void> {
    this.stopped = true;
    clearInterval(this.timer);
    await this.running;
  }

  /** Looks for work now; returns at once. */
  wake(): void {
    if (this.stopped) return;
    if (this.running) {
      this.again = true;
      return;
    }
    this.running = this.work()
      .catch((error: unknown) =>
        // The database being away is said once, by the health and by what starts it.
        faultOf(error)
          ? this.logger.warn('reassessing was interrupted; it is tried again in a minute')
          : this.logger.error(error, 'reassessing failed; it is tried again in a minute'),
      )
      .finally(() => {
        this.running = undefined;
        if (this.again) {
          this.again = false;
          this.wake();
        }
      });
  }

  async state(): Promise<ReassessmentView> {
    const moves = this.dataSource.getRepository(MoveEntity);
    const house = await this.house.house();
    const key = assessedFor(house, this.clock.today(house.houseRules.timeZone));
    const [total, waiting] = await Promise.all([
      moves.count(),
      moves.countBy({ assessedFor: Not(key), unreadable: IsNull() }),
    ]);
    if (waiting > 0) this.wake();
    return { total, waiting };
  }

  private async work(): Promise<void> {
    while (!this.stopped && (await this.batch()) > 0) await nextTurn();
  }

  /** In threads, each its share of the moves. */
  private async assess(
    moves: readonly Move[],
    house: HouseAt,
    today: string,
  ): Promise<readonly DerivedColumns[]> {
    if (moves.length <= fewDevices) return moves.map((move) => columnsOf(move, house, today));
    const share = Math.ceil(moves.length / this.workers.count);
    const shares = Array.from({ length: this.workers.count }, (_none, index) =>
      moves.slice(index * share, (index + 1) * share),
    ).filter(({ length }) => length > 0);
    const made = await Promise.all(
      shares.map((some) => this.workers.run('assessTask', { moves: some, house, today })),
    );
    return made.flat();
  }

  /**
   * Brings some rows up to date; gives how many. No connection and no lock is held while they are assessed: what
   * somebody changed meanwhile is up to date by that change, and stays.
   */
  private async batch(): Promise<number> {
    const house = await this.house.house();
    const today = this.clock.today(house.houseRules.timeZone);
    const rows = await this.dataSource
      .getRepository(MoveEntity)
      .createQueryBuilder('move')
      .select(['move.id', 'move.version', 'move.record'])
      .where('move.assessed_for <> :key', { key: assessedFor(house, today) })
      // One that cannot be read is looked at again once it has been repaired or rolled back.
      .andWhere('move.unreadable IS NULL')
      .limit(rowsAtOnce)
      .getMany();
    const read = await this.quarantine.readable(rows);
    const columns = await this.assess(
      read.map(({ move }) => move),
      house,
      today,
    );
    const setAside = rows.length - read.length;
    return (
      setAside +
      (await this.write(
        read.map(({ row }, index) => ({
          id: row.id,
          version: row.version,
          ...columns[index],
        })),
      ))
    );
  }

  /** Writes what follows from rows that are still as they were read, and that nobody is writing; gives how many. */
  private async write(rows: readonly (Partial<DerivedColumns> & RowRead)[]): Promise<number> {
    const [first] = rows;
    if (!first) return 0;
    const metadata = this.dataSource.getMetadata(MoveEntity);
    const made = rows.map((row) => inColumns(metadata, row));
    const names = Object.keys(made[0] ?? {}).filter((name) => name !== 'id' && name !== 'version');
    const raw: unknown = await this.transactions.run((manager) =>
      manager.query(
        `WITH made AS (SELECT * FROM jsonb_populate_recordset(null::move, $1::jsonb)),
              free AS (SELECT move.id FROM move JOIN made USING (id, version) FOR UPDATE OF move SKIP LOCKED)
         UPDATE move SET (${names.join(', ')}) = (${names.map((name) => `made.${name}`).join(', ')})
           FROM made JOIN free USING (id)
          WHERE move.id = made.id`,
        [JSON.stringify(made)],
      ),
    );
    return UpdatedSchema.parse(raw)[1];
  }
}
