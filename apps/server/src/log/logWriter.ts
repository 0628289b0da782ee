import { Injectable } from '@nestjs/common';
import { chainStart, type ChainHead, type LogEvent } from '@ulvane/core/record';
import type { EntityManager } from 'typeorm';
import { Clock } from '../clock/clock';
import { EventEntity } from './event.entity';
import { chain } from './hashing';
import { inParts } from '../database/inParts';

type HeadRow = { readonly log_count: number; readonly log_head: string; readonly record_hash: string };

const nothingWritten: ChainHead = { count: 0, hash: chainStart };

/** Writes lines of the log, each tied to the line before, within the caller's transaction. */
@Injectable()
export class LogWriter {
  constructor(private readonly clock: Clock) {}

  /**
   * Lines of moves that the caller has locked, or has just made; and the new ends of their chains.
   * @param recordHash code of the record after these lines
   * @param importedBy who brings them from elsewhere; null for lines of this house
   * @param version of the move that they come with
   */
  async write(
    manager: EntityManager,
    moves: readonly {
      readonly id: string;
      readonly head: ChainHead;
      readonly events: readonly LogEvent[];
      readonly recordHash: string;
      readonly importedBy: string | null;
      readonly version: number | null;
    }[],
  ): Promise<readonly ChainHead[]> {
    const chained = moves.map(({ id, version, head, events, recordHash, importedBy }) => ({
      id,
      version,
      ...chain(
        head,
        id,
        events.map(({ at, by, kind, sentence }, index) => ({
          at: new Date(at).toISOString(),
          by,
          kind,
          sentence,
          importedBy,
          recordHash: index === events.length - 1 ? recordHash : null,
        })),
      ),
    }));
    const rows = chained.flatMap(({ id, version, lines }) =>
      lines.map((line) => ({ ...line, version, moveId: id, at: new Date(line.at) })),
    );
    for (const some of inParts(rows)) await manager.insert(EventEntity, some);
    return chained.map(({ head }) => head);
  }

  /** Where the chain of a new move begins. */
  get start(): ChainHead {
    return nothingWritten;
  }

  /** Where the chain of a move ends; the row stays locked until the transaction ends. */
  async headOf(
    manager: EntityManager,
    moveId: string,
  ): Promise<{ readonly head: ChainHead; readonly recordHash: string }> {
    const [row]: HeadRow[] = await manager.query(
      'SELECT log_count, log_head, record_hash FROM move WHERE id = $1 FOR UPDATE',
      [moveId],
    );
    return row
      ? { head: { count: row.log_count, hash: row.log_head }, recordHash: row.record_hash }
      : { head: nothingWritten, recordHash: '' };
  }

  /** A line of a move's log for what changes nothing in its record. */
  async writeFor(
    manager: EntityManager,
    moveId: string,
    by: string,
    kind: string,
    sentence: string,
  ): Promise<void> {
    const { head, recordHash } = await this.headOf(manager, moveId);
    const event = { at: this.clock.now(), by, kind, sentence };
    const [next] = await this.write(manager, [
      { id: moveId, head, events: [event], recordHash, importedBy: null, version: null },
    ]);
    await manager.query('UPDATE move SET log_count = $2, log_head = $3 WHERE id = $1', [
      moveId,
      next?.count,
      next?.hash,
    ]);
  }

  /** A line of the house's own log: accounts, house rules, catalogue, imports. */
  async writeHouse(manager: EntityManager, by: string, kind: string, sentence: string): Promise<void> {
    const [row]: { log_count: number; log_head: string }[] = await manager.query(
      'SELECT log_count, log_head FROM organisation WHERE id = 1 FOR UPDATE',
    );
    const { lines, head } = chain(row ? { count: row.log_count, hash: row.log_head } : nothingWritten, null, [
      { at: this.clock.now(), by, kind, sentence, importedBy: null, recordHash: null },
    ]);
    await manager.insert(
      EventEntity,
      lines.map((line) => ({ ...line, moveId: null, at: new Date(line.at) })),
    );
    await manager.query('UPDATE organisation SET log_count = $1, log_head = $2 WHERE id = 1', [
      head.count,
      head.hash,
    ]);
  }
}
