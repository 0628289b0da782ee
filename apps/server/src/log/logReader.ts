import { Injectable } from '@nestjs/common';
import {
  ChainLineSchema,
  checkChain,
  type ChainCheck,
  type ChainHead,
  type ChainLine,
} from '@ulvane/core/record';
import { DataSource, IsNull, type EntityManager } from 'typeorm';
import { EventEntity } from './event.entity';
import { hashOfRecord, sha256 } from './hashing';

type MoveHead = { readonly id: string; readonly reference: string } & HouseHead;
type HouseHead = { readonly log_count: number; readonly log_head: string };

const movesAtOnce = 50;

type LogCheck = {
  /** Null: the log of the house. */
  readonly reference: string | null;
} & ChainCheck;

/** Reads the log, and checks that it is the one that was written. */
@Injectable()
export class LogReader {
  constructor(private readonly dataSource: DataSource) {}

  async linesOf(moveId: string | null): Promise<readonly ChainLine[]> {
    const rows = await this.dataSource.getRepository(EventEntity).find({
      where: { moveId: moveId ?? IsNull() },
      order: { number: 'ASC', id: 'ASC' },
    });
    return rows.map(({ id: _id, moveId: _moveId, version: _version, at, ...line }) =>
      ChainLineSchema.parse({ ...line, at: at.toISOString() }),
    );
  }

  /** Where the chain of a move ends by the move's own row. */
  async headOf(moveId: string): Promise<ChainHead> {
    const [row]: HouseHead[] = await this.dataSource.query(
      'SELECT log_count, log_head FROM move WHERE id = $1',
      [moveId],
    );
    return { count: row?.log_count ?? 0, hash: row?.log_head ?? '' };
  }

  /** What was written with a version of a move; null where that is not known. */
  async ofVersion(
    manager: EntityManager,
    moveId: string,
    version: number,
  ): Promise<{ by: string; at: Date; sentence: string } | null> {
    return manager.findOne(EventEntity, { where: { moveId, version }, order: { number: 'DESC' } });
  }

  /** Checks the log of one move against its record. */
  async check(moveId: string, reference: string): Promise<LogCheck> {
    const [row]: (MoveHead & { record: unknown })[] = await this.dataSource.query(
      'SELECT id, reference, log_count, log_head, record FROM move WHERE id = $1',
      [moveId],
    );
    if (!row) return { reference, lines: 0, head: '', fault: null };
    return {
      reference,
      ...checkChain(
        moveId,
        await this.linesOf(moveId),
        { count: row.log_count, hash: row.log_head },
        hashOfRecord(row.record),
        sha256,
      ),
    };
  }

  /** Checks the log of the house, then that of every move in the order of their references. */
  async *checkAll(): AsyncGenerator<LogCheck> {
    const [house]: HouseHead[] = await this.dataSource.query(
      'SELECT log_count, log_head FROM organisation WHERE id = 1',
    );
    const head = { count: house?.log_count ?? 0, hash: house?.log_head ?? '' };
    yield { reference: null, ...checkChain(null, await this.linesOf(null), head, null, sha256) };
    for (let after = ''; ;) {
      const rows: { id: string; reference: string }[] = await this.dataSource.query(
        'SELECT id, reference FROM move WHERE reference > $1 ORDER BY reference LIMIT $2',
        [after, movesAtOnce],
      );
      for (const { id, reference } of rows) yield await this.check(id, reference);
      const last = rows.at(-1);
      if (!last) return;
      after = last.reference;
    }
  }
}
