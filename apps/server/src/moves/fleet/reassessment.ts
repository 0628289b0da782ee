import { setImmediate as nextTurn } from 'node:timers/promises';
import { Injectable, type BeforeApplicationShutdown, type OnApplicationBootstrap } from '@nestjs/common';
import type { Reassessment as ReassessmentView } from '@ulvane/contract';
import { Logger } from 'nestjs-pino';
import { DataSource, IsNull, Not, type EntityMetadata } from 'typeorm';
import { Transactions } from '../../database/transactions';
import { faultOf } from '../../database/faults';
import { Clock } from '../../clock/clock';
import { HouseService } from '../../house/house.service';
import { MoveEntity } from '../move.entity';
import { Quarantine } from '../quarantine';
import { assessedFor, columnsOf, type DerivedColumns } from '../row';

/** So many rows are locked at once; other servers take others. */
const rowsAtOnce = 100;
/** Between so many devices, requests get their turn. */
const devicesAtOnce = 5;
const lookEveryMs = 60_000;

/** Values by the names that their columns have in the database. */
function inColumns(
  { columns }: EntityMetadata,
  values: DerivedColumns & { readonly id: string },
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
 * to lose, several servers share it, and a stop in the middle is taken up again.
 */
@Injectable()
export class Reassessment implements OnApplicationBootstrap, BeforeApplicationShutdown {
  constructor(
    private readonly dataSource: DataSource,
    private readonly transactions: Transactions,
    private readonly quarantine: Quarantine,
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

  /** Brings a batch of rows up to date; gives how many there were. */
  private async batch(): Promise<number> {
    const house = await this.house.house();
    const today = this.clock.today(house.houseRules.timeZone);
    return this.transactions.run(async (manager) => {
      const rows = await manager
        .getRepository(MoveEntity)
        .createQueryBuilder('move')
        .select(['move.id', 'move.record'])
        .where('move.assessed_for <> :key', { key: assessedFor(house, today) })
        // One that cannot be read is looked at again once it has been repaired or rolled back.
        .andWhere('move.unreadable IS NULL')
        .limit(rowsAtOnce)
        .setLock('pessimistic_write')
        .setOnLocked('skip_locked')
        .getMany();
      const metadata = this.dataSource.getMetadata(MoveEntity);
      const made: Readonly<Record<string, unknown>>[] = [];
      const read = await this.quarantine.readable(rows, manager);
      for (const [index, { row, move }] of read.entries()) {
        if (index % devicesAtOnce === 0) await nextTurn();
        made.push(inColumns(metadata, { id: row.id, ...columnsOf(move, house, today) }));
      }
      const [first] = made;
      if (first) {
        const names = Object.keys(first).filter((name) => name !== 'id');
        await manager.query(
          `UPDATE move SET (${names.join(', ')}) = (${names.map((name) => `made.${name}`).join(', ')})
             FROM jsonb_populate_recordset(null::move, $1::jsonb) AS made
            WHERE move.id = made.id`,
          [JSON.stringify(made)],
        );
      }
      return rows.length;
    });
  }
}
