import { randomUUID } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import type { MoveView } from '@ulvane/contract';
import { printClockIn, printCount } from '@ulvane/core/quantity';
import {
  conflictingParts,
  measuredCopies,
  causesFound,
  newMove,
  partsTouched,
  PartVersionsSchema,
  partWords,
  versionOfChange,
  withTouched,
  type Change,
  type CommandContext,
  type CommandOutcome,
  type LogEvent,
  type Move,
  type MoveExport,
  type PartVersions,
  type Role,
} from '@ulvane/core/record';
import { DataSource, In, type EntityManager } from 'typeorm';
import { Clock } from '../clock/clock';
import { Transactions } from '../database/transactions';
import { HouseService } from '../house/house.service';
import { Breath } from '../http/breath';
import { ProblemError, refuse } from '../http/problem';
import { LogReader } from '../log/logReader';
import { inParts } from '../database/inParts';
import { LogWriter } from '../log/logWriter';
import { dropGone } from './dropGone';
import { MoveEntity } from './move.entity';
import { columnsOf, recordOf, storable, type HouseAt, type Storable } from './row';
import { Turns } from './turns';

type ActingAccount = { readonly name: string; readonly role: Role };
type Command = (move: Move, context: CommandContext) => CommandOutcome;

/**
 * Changes the move that the transaction is for.
 */
type ChangeInTransaction = (version: number, actor: ActingAccount, command: Command) => Promise<MoveView>;

/** Writes moves: a change and its line of the log stand in one transaction, or neither does. */
@Injectable()
export class MovesWriter {
  constructor(
    private readonly dataSource: DataSource,
    private readonly transactions: Transactions,
    private readonly house: HouseService,
    private readonly log: LogWriter,
    private readonly logReader: LogReader,
    private readonly clock: Clock,
  ) {}

  private readonly turns = new Turns();

  /**
   * Applies a command of core to a move. Refused with 409 when the caller saw an older version; the
   * answer then says what has been done in the meantime.
   */
  change(reference: string, version: number, actor: ActingAccount, command: Command): Promise<MoveView> {
    return this.changeWith(reference, (change) => change(version, actor, command));
  }

  /**
   * A transaction in which a move is changed, for callers that store more with it. What is needed of the
   * house is read before, and whoever changes the same move waits without a connection.
   */
  async changeWith<T>(
    reference: string,
    work: (change: ChangeInTransaction, manager: EntityManager) => Promise<T>,
  ): Promise<T> {
    const house = await this.house.house();
    return this.turns.take(reference, () =>
      this.transactions.run((manager) =>
        work(
          (version, actor, command) => this.changeIn(manager, house, reference, version, actor, command),
          manager,
        ),
      ),
    );
  }

  private async changeIn(
    manager: EntityManager,
    house: HouseAt,
    reference: string,
    version: number,
    actor: ActingAccount,
    command: Command,
  ): Promise<MoveView> {
    const context = { ...house, actor, now: this.clock.now() };
    const row = await manager
      .getRepository(MoveEntity)
      .createQueryBuilder('move')
      .setLock('pessimistic_write')
      .where('move.reference = :reference', { reference })
      .getOne();
    const before = row && recordOf(row);
    const {
      change,
      row: locked,
      move: was,
    } = await this.let(manager, reference, row, before, version, house.houseRules.timeZone, (current) =>
      command(current, context),
    );
    const { move, kind, sentence } = change;
    await this.rewrite(
      manager,
      move,
      { ...locked, move: was },
      [{ at: context.now, by: actor.name, kind, sentence }],
      house,
    );
    return { version: locked.version + 1, move };
  }

  /** Refuses what `change` would refuse, and changes nothing: for work that is long and best not begun. */
  async wouldChange(
    reference: string,
    version: number,
    actor: ActingAccount,
    command: Command,
  ): Promise<void> {
    const house = await this.house.house();
    const { manager } = this.dataSource;
    const row = await manager.findOneBy(MoveEntity, { reference });
    await this.let(
      manager,
      reference,
      row,
      row && recordOf(row),
      version,
      house.houseRules.timeZone,
      (current) => command(current, { ...house, actor, now: this.clock.now() }),
    );
  }

  private async let(
    manager: EntityManager,
    reference: string,
    row: MoveEntity | null,
    before: Move | null,
    version: number,
    zone: string,
    command: (move: Move) => CommandOutcome,
  ): Promise<{ readonly change: Change; readonly row: MoveEntity; readonly move: Move }> {
    if (!row || !before) throw refuse('no-such-move', `There is no move ${reference}.`);
    const outcome = command(before);
    if (row.version !== version) {
      // Somebody else was faster: a change of other parts of the move stands all the same.
      const versions = PartVersionsSchema.parse(row.partVersions);
      const parts = outcome.ok ? conflictingParts(before, outcome.value.move, versions, version) : [];
      if (!outcome.ok || parts.length > 0) {
        const between = parts.length > 0 ? versionOfChange(parts, versions) : row.version;
        throw await this.conflict(manager, { row, between, outcome, parts, zone });
      }
    }
    if (!outcome.ok) throw new ProblemError(outcome.problems);
    return { change: outcome.value, row, move: before };
  }

  /** Starts a move; with a command (taking a survey), both are one change. */
  async add(
    actor: ActingAccount,
    start: Pick<Move, 'owner' | 'site' | 'dueOn'>,
    command: Command | undefined,
  ): Promise<MoveView> {
    const house = await this.house.house();
    const now = this.clock.now();
    return this.transactions.run(async (manager) => {
      const move = {
        ...newMove({ id: randomUUID(), reference: await this.nextReference(manager), createdAt: now }),
        ...start,
      };
      const events: LogEvent[] = [
        { at: now, by: actor.name, kind: 'move-started', sentence: 'Move started.' },
      ];
      const outcome = command?.(move, { ...house, actor, now });
      if (outcome && !outcome.ok) throw new ProblemError(outcome.problems);
      if (outcome)
        events.push({ at: now, by: actor.name, kind: outcome.value.kind, sentence: outcome.value.sentence });
      return this.insert(manager, outcome?.value.move ?? move, events, house);
    });
  }

  /**
   * Imports an exported move. Its log comes along, each line marked as imported and by whom; the first line
   * of this house says so. A move that is here already is refused.
   */
  async importMove(actor: ActingAccount, { move, events }: MoveExport): Promise<MoveView> {
    const house = await this.house.house();
    return this.transactions.run(async (manager) => {
      const present = await manager.findOneBy(MoveEntity, { id: move.id });
      if (present)
        throw refuse('move-here', `This move is here already, as ${present.reference}.`, '/move/id');
      const taken = await manager.existsBy(MoveEntity, { reference: move.reference });
      const kept = taken ? { ...move, reference: await this.nextReference(manager) } : move;
      await this.insertMany(manager, [{ move: kept, events }], house, actor.name);
      const renamed = taken
        ? ` Its reference ${move.reference} is taken here: it is ${kept.reference} now.`
        : '';
      await this.log.writeFor(
        manager,
        kept.id,
        actor.name,
        'move-imported',
        `Imported from a file, with ${printCount(events.length, 'line')} of its log.${renamed}`,
      );
      await this.log.writeHouse(
        manager,
        actor.name,
        'move-imported',
        `${kept.reference} imported from a file.${renamed}`,
      );
      return { version: 1, move: kept };
    });
  }

  /** Writes a move that the caller has locked, with the new lines of its log. @param was as it was before */
  async rewrite(
    manager: EntityManager,
    move: Move,
    was: { readonly version: number; readonly partVersions: PartVersions; readonly move: Move },
    events: readonly LogEvent[],
    house: HouseAt,
  ): Promise<void> {
    const stored = storable(move);
    await dropGone(manager, was.move, move);
    const columns = columnsOf(move, house, this.clock.today(house.houseRules.timeZone));
    const { head } = await this.log.headOf(manager, move.id);
    const [next = head] = await this.log.write(manager, [
      {
        id: move.id,
        head,
        events,
        recordHash: stored.recordHash,
        importedBy: null,
        version: was.version + 1,
      },
    ]);
    await manager.update(
      MoveEntity,
      { id: move.id },
      {
        ...stored,
        version: was.version + 1,
        partVersions: withTouched(was.partVersions, partsTouched(was.move, move), was.version + 1),
        logCount: next.count,
        logHead: next.hash,
        unreadable: null,
        ...columns,
      },
    );
    // Also where the last one was taken back.
    if (columns.measured.length + measuredCopies(was.move).length > 0) this.house.copiesTimed();
    if (columns.causesFound.length > causesFound(was.move).length) this.house.causeFound();
  }

  /**
   * Inserts moves as they are, with their logs, in one statement.
   * @param importedBy who brings their logs from elsewhere; null for lines of this house
   */
  async insertMany(
    manager: EntityManager,
    moves: readonly { readonly move: Move; readonly events: readonly LogEvent[] }[],
    house: HouseAt,
    importedBy: string | null = null,
  ): Promise<void> {
    if (moves.length === 0) return;
    const today = this.clock.today(house.houseRules.timeZone);
    const breath = new Breath();
    const rows: (Omit<MoveEntity, 'logCount' | 'logHead' | 'unreadable' | 'record'> & Storable)[] = [];
    for (const { move } of moves) {
      await breath.take();
      rows.push({
        id: move.id,
        reference: move.reference,
        version: 1,
        partVersions: {},
        ...storable(move),
        ...columnsOf(move, house, today),
      });
    }
    for (const some of inParts(rows)) {
      await breath.take();
      await manager.insert(MoveEntity, some);
    }
    const heads = await this.log.write(
      manager,
      moves.map(({ move, events }, index) => ({
        id: move.id,
        head: this.log.start,
        events,
        recordHash: rows[index]?.recordHash ?? '',
        importedBy,
        version: importedBy === null ? 1 : null,
      })),
    );
    await manager.query(
      `UPDATE move SET log_count = made.count, log_head = made.hash
         FROM jsonb_to_recordset($1::jsonb) AS made(id uuid, count int, hash text) WHERE move.id = made.id`,
      [JSON.stringify(heads.map((head, index) => ({ ...head, id: moves[index]?.move.id })))],
    );
  }

  private async insert(
    manager: EntityManager,
    move: Move,
    events: readonly LogEvent[],
    house: HouseAt,
  ): Promise<MoveView> {
    await this.insertMany(manager, [{ move, events }], house);
    return { version: 1, move };
  }

  private async nextReference(manager: EntityManager): Promise<string> {
    const [reference] = await this.nextReferences(manager, 1);
    if (reference === undefined) throw new RangeError('one reference was asked for');
    return reference;
  }

  /** References that no move has, in order. */
  async nextReferences(manager: EntityManager, count: number): Promise<readonly string[]> {
    const free: string[] = [];
    while (free.length < count) {
      const rows: { number: string }[] = await manager.query(
        `SELECT nextval('move_reference') AS number FROM generate_series(1, $1::int)`,
        [count - free.length],
      );
      const made = rows.map(({ number }) => `MV-${number.padStart(4, '0')}`);
      // Imported moves may have taken numbers ahead of the sequence.
      const taken = await manager.find(MoveEntity, {
        select: { id: true, reference: true },
        where: { reference: In(made) },
      });
      free.push(...made.filter((reference) => !taken.some((row) => row.reference === reference)));
    }
    return free;
  }

  private async conflict(
    manager: EntityManager,
    of: {
      readonly row: MoveEntity;
      /** The version with which somebody else changed the same. */
      readonly between: number;
      readonly outcome: CommandOutcome;
      readonly parts: readonly string[];
      readonly zone: string;
    },
  ): Promise<ProblemError> {
    const { row, between, outcome, parts, zone } = of;
    const line = await this.logReader.ofVersion(manager, row.id, between);
    const what = line ? ` ${line.by}, ${printClockIn(zone, line.at.toISOString())}: ${line.sentence}` : '';
    const own = outcome.ok ? [] : outcome.problems;
    const where = [...new Set(parts.map(partWords))].join(', ') || row.reference;
    return new ProblemError([
      ...own.filter(({ code }) => code === 'step-conflict' || code === 'already-verified'),
      {
        code: 'version',
        path: '/version',
        sentence: `${where.charAt(0).toUpperCase()}${where.slice(1)} changed since you opened the page.${what} Your change was not saved: check what is there now, then do it again.`,
      },
    ]);
  }
}
