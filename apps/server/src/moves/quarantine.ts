import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import type { UnreadableMove } from '@ulvane/contract';
import type { Move } from '@ulvane/core/record';
import { z } from 'zod';
import { IsNull, Not, Repository, type EntityManager } from 'typeorm';
import { Clock } from '../clock/clock';
import { Transactions } from '../database/transactions';
import { HouseService } from '../house/house.service';
import { Breath } from '../http/breath';
import { ProblemError, refuse } from '../http/problem';
import { LogWriter } from '../log/logWriter';
import { MoveEntity } from './move.entity';
import { columnsOf, readRecord, reasonOf, storable } from './row';

type Past = { readonly id: string; readonly version: number; readonly record: unknown; readonly until: Date };

/**
 * Records that cannot be read: set aside with the reason, so that nobody else's list stops at one of
 * them; exported as they are, repaired, or rolled back to the last version that can be read.
 */
@Injectable()
export class Quarantine {
  constructor(
    @InjectRepository(MoveEntity) private readonly moves: Repository<MoveEntity>,
    private readonly transactions: Transactions,
    private readonly house: HouseService,
    private readonly log: LogWriter,
    private readonly clock: Clock,
  ) {}

  /** The moves of rows whose records can be read; the others are noted, with the reason. */
  async readable<R extends Pick<MoveEntity, 'id' | 'record'>>(
    rows: readonly R[],
    manager: EntityManager = this.moves.manager,
  ): Promise<readonly { readonly row: R; readonly move: Move }[]> {
    const breath = new Breath();
    const read: { row: R; move: Move }[] = [];
    for (const row of rows) {
      await breath.take();
      const move = readRecord(row.record);
      if (move.ok) read.push({ row, move: move.value });
      else await manager.update(MoveEntity, { id: row.id }, { unreadable: reasonOf(move.problems) });
    }
    return read;
  }

  /** Every move that is known to be unreadable, with the version that it can be rolled back to. */
  async list(): Promise<UnreadableMove[]> {
    const rows = await this.moves.find({
      where: { unreadable: Not(IsNull()) },
      select: { id: true, reference: true, device: true, unreadable: true, version: true },
      order: { reference: 'ASC' },
      take: 500,
    });
    const listed: UnreadableMove[] = [];
    for (const { id, reference, device, unreadable, version } of rows) {
      const last = await this.lastReadable(this.moves.manager, id);
      listed.push({
        reference,
        device,
        version,
        reason: unreadable ?? '',
        rollBackTo: last ? { version: last.past.version, until: last.past.until.toISOString() } : null,
      });
    }
    return listed;
  }

  /** The record as it is in the database, readable or not. */
  async raw(reference: string): Promise<z.core.util.JSONType> {
    const row = await this.moves.findOneBy({ reference });
    if (!row) throw refuse('no-such-move', `There is no move ${reference}.`);
    return z.json().parse(row.record);
  }

  /** Puts a repaired record in place of one that cannot be read. */
  async repair(reference: string, record: unknown, by: string): Promise<void> {
    const move = readRecord(record);
    if (!move.ok) throw new ProblemError(move.problems);
    await this.replace(reference, by, (row) => {
      if (move.value.id !== row.id || move.value.reference !== row.reference)
        throw refuse(
          'other-move',
          `This is the record of ${move.value.reference}: id and reference have to stay those of ${reference}.`,
          '/record/reference',
        );
      return {
        move: move.value,
        kind: 'record-repaired',
        sentence: 'The record could not be read and was repaired by hand.',
      };
    });
  }

  /** Goes back to the last version that can be read. */
  async rollBack(reference: string, by: string): Promise<void> {
    await this.replace(reference, by, async (row, manager) => {
      const last = await this.lastReadable(manager, row.id);
      if (!last)
        throw refuse(
          'nothing-readable',
          `No earlier version of ${reference} can be read: export the record, repair it, and import it again.`,
        );
      return {
        move: last.move,
        kind: 'record-rolled-back',
        sentence: `The record could not be read and was rolled back to version ${last.past.version}.`,
      };
    });
  }

  private async replace(
    reference: string,
    by: string,
    find: (
      row: MoveEntity,
      manager: EntityManager,
    ) =>
      | Promise<{ readonly move: Move; readonly kind: string; readonly sentence: string }>
      | { readonly move: Move; readonly kind: string; readonly sentence: string },
  ): Promise<void> {
    const house = await this.house.house();
    await this.transactions.run(async (manager) => {
      const row = await manager.findOne(MoveEntity, {
        where: { reference },
        lock: { mode: 'pessimistic_write' },
      });
      if (!row) throw refuse('no-such-move', `There is no move ${reference}.`);
      if (readRecord(row.record).ok)
        throw refuse('readable', `${reference} can be read: there is nothing to repair.`);
      const { move, kind, sentence } = await find(row, manager);
      const stored = storable(move);
      const [head] = await this.log.write(manager, [
        {
          id: row.id,
          head: { count: row.logCount, hash: row.logHead },
          events: [{ at: this.clock.now(), by, kind, sentence }],
          recordHash: stored.recordHash,
          importedBy: null,
          version: row.version + 1,
        },
      ]);
      await manager.update(
        MoveEntity,
        { id: row.id },
        {
          ...stored,
          version: row.version + 1,
          partVersions: { '*': row.version + 1 },
          unreadable: null,
          ...(head ? { logCount: head.count, logHead: head.hash } : {}),
          ...columnsOf(move, house, this.clock.today(house.houseRules.timeZone)),
        },
      );
    });
  }

  private async lastReadable(
    manager: EntityManager,
    moveId: string,
  ): Promise<{ readonly past: Past; readonly move: Move } | null> {
    const rows: Past[] = await manager.query(
      'SELECT id, version, record, until FROM move_past WHERE move_id = $1 ORDER BY id DESC',
      [moveId],
    );
    for (const past of rows) {
      const move = readRecord(past.record);
      if (move.ok) return { past, move: move.value };
    }
    return null;
  }
}
