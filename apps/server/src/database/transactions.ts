import { Injectable } from '@nestjs/common';
import { DataSource, type EntityManager, type QueryRunner } from 'typeorm';
import { DatabaseDown, faultOf, OutcomeUnknown } from './faults';
import { whileTransactionOpen } from './housePool';

type Limits = {
  /** How long a lock is waited for; else as the connection says. */
  readonly lockMs?: number;
};

/** The one way to open a transaction. */
@Injectable()
export class Transactions {
  constructor(private readonly dataSource: DataSource) {}

  /**
   * Runs work in one transaction: all of it is stored, or nothing. Inside, only `manager` speaks to the
   * database; what asks the pool for another connection is refused.
   * @throws OutcomeUnknown when the connection breaks between COMMIT and its answer
   */
  async run<T>(work: (manager: EntityManager) => Promise<T>, { lockMs }: Limits = {}): Promise<T> {
    const runner = this.dataSource.createQueryRunner();
    try {
      await runner.connect();
      return await whileTransactionOpen(async () => {
        await runner.startTransaction();
        if (lockMs !== undefined) await runner.query(`SET LOCAL lock_timeout = ${Math.round(lockMs)}`);
        const value = await work(runner.manager);
        await commit(runner);
        return value;
      });
    } catch (error) {
      await rollBack(runner);
      throw error;
    } finally {
      await runner.release();
    }
  }
}

async function commit(runner: QueryRunner): Promise<void> {
  // The connection went before COMMIT was sent: nothing was saved.
  if (runner.isReleased) throw new DatabaseDown();
  try {
    await runner.commitTransaction();
  } catch (error) {
    // A refusal by the database itself (a deferred constraint, a full disk) is an answer.
    throw faultOf(error)?.kind === 'down' ? new OutcomeUnknown() : error;
  }
}

/** A connection that cannot even roll back is broken, and the pool has noticed. */
async function rollBack(runner: QueryRunner): Promise<void> {
  if (!runner.isTransactionActive || runner.isReleased) return;
  await runner.rollbackTransaction().catch(() => undefined);
}
