import { randomUUID } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import type { MoveView } from '@ulvane/contract';
import {
  newMove,
  type Change,
  type CommandContext,
  type CommandOutcome,
  type LogEvent,
  type Move,
  type MoveExport,
  type Role,
} from '@ulvane/core';
import { DataSource, In, type EntityManager } from 'typeorm';
import { Clock } from '../clock/clock';
import { HouseService } from '../house/house.service';
import { ProblemError, refuse, statusOf } from '../http/problem';
import { EventEntity } from './event.entity';
import { MoveEntity } from './move.entity';
import { columnsOf, recordOf, type HouseAt } from './row';

type ActingAccount = { readonly name: string; readonly role: Role };
type Command = (move: Move, context: CommandContext) => CommandOutcome;

/** Writes moves: a change and its line of the log stand in one transaction, or neither does. */
@Injectable()
export class MovesWriter {
  constructor(
    private readonly dataSource: DataSource,
    private readonly house: HouseService,
    private readonly clock: Clock,
  ) {}

  /**
   * Applies a command of core to a move. Refused with 409 when the caller saw an older version; the
   * answer then says what has been done in the meantime.
   */
  change(reference: string, version: number, actor: ActingAccount, command: Command): Promise<MoveView> {
    return this.dataSource.transaction((manager) =>
      this.changeIn(manager, reference, version, actor, command),
    );
  }

  /**
   * As `change`, within a transaction of the caller's.
   * @param also done when the command has been let through, with the move as it was before it
   */
  async changeIn(
    manager: EntityManager,
    reference: string,
    version: number,
    actor: ActingAccount,
    command: Command,
    also: (before: Move) => Promise<void> = () => Promise.resolve(),
  ): Promise<MoveView> {
    const house = await this.house.house();
    const context = { ...house, actor, now: this.clock.now() };
    const row = await manager
      .getRepository(MoveEntity)
      .createQueryBuilder('move')
      .setLock('pessimistic_write')
      .where('move.reference = :reference', { reference })
      .getOne();
    const before = row && recordOf(row);
    const { move, kind, sentence } = await this.let(manager, reference, row, version, (current) =>
      command(current, context),
    );
    if (before) await also(before);
    await this.rewrite(manager, move, version, [{ at: context.now, by: actor.name, kind, sentence }], house);
    return { version: version + 1, move };
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
    await this.let(manager, reference, row, version, (current) =>
      command(current, { ...house, actor, now: this.clock.now() }),
    );
  }

  private async let(
    manager: EntityManager,
    reference: string,
    row: MoveEntity | null,
    version: number,
    command: (move: Move) => CommandOutcome,
  ): Promise<Change> {
    if (!row) throw refuse(404, 'no-such-move', `There is no move ${reference}.`);
    const outcome = command(recordOf(row));
    if (row.version !== version) throw await this.conflict(manager, row, outcome);
    if (!outcome.ok) throw new ProblemError(statusOf(outcome.problems), outcome.problems);
    return outcome.value;
  }

  /** A line of a move's log for what changes nothing in its record. */
  logFor(
    manager: EntityManager,
    moveId: string,
    actor: ActingAccount,
    kind: string,
    sentence: string,
  ): Promise<void> {
    return this.log(manager, moveId, [{ at: this.clock.now(), by: actor.name, kind, sentence }]);
  }

  /** Starts a move; with a command (taking a survey), both are one change. */
  async add(
    actor: ActingAccount,
    start: Pick<Move, 'owner' | 'site' | 'dueOn'>,
    command: Command | undefined,
  ): Promise<MoveView> {
    const house = await this.house.house();
    const now = this.clock.now();
    return this.dataSource.transaction(async (manager) => {
      const move = {
        ...newMove({ id: randomUUID(), reference: await this.nextReference(manager), createdAt: now }),
        ...start,
      };
      const events: LogEvent[] = [
        { at: now, by: actor.name, kind: 'move-started', sentence: 'Move started.' },
      ];
      const outcome = command?.(move, { ...house, actor, now });
      if (outcome && !outcome.ok) throw new ProblemError(statusOf(outcome.problems), outcome.problems);
      if (outcome)
        events.push({ at: now, by: actor.name, kind: outcome.value.kind, sentence: outcome.value.sentence });
      return this.insert(manager, outcome?.value.move ?? move, events, house);
    });
  }

  /** Takes in an exported move with its log, as it is. A move that is here already is refused. */
  async takeIn(actor: ActingAccount, { move, events }: MoveExport): Promise<MoveView> {
    const house = await this.house.house();
    return this.dataSource.transaction(async (manager) => {
      const present = await manager.findOneBy(MoveEntity, { id: move.id });
      if (present)
        throw refuse(409, 'move-here', `This move is here already, as ${present.reference}.`, '/move/id');
      const taken = await manager.existsBy(MoveEntity, { reference: move.reference });
      const kept = taken ? { ...move, reference: await this.nextReference(manager) } : move;
      const view = await this.insert(manager, kept, events, house);
      const renamed = taken
        ? ` Its reference ${move.reference} is taken here: it is ${kept.reference} now.`
        : '';
      await this.log(manager, null, [
        {
          at: this.clock.now(),
          by: actor.name,
          kind: 'move-imported',
          sentence: `${kept.reference} taken in from a file.${renamed}`,
        },
      ]);
      return view;
    });
  }

  /** Writes a move that the caller has locked at `version`, with the new lines of its log. */
  async rewrite(
    manager: EntityManager,
    move: Move,
    version: number,
    events: readonly LogEvent[],
    house: HouseAt,
  ): Promise<void> {
    await manager.update(
      MoveEntity,
      { id: move.id },
      { record: move, version: version + 1, ...columnsOf(move, house, this.clock.now().slice(0, 10)) },
    );
    await this.log(manager, move.id, events);
  }

  /** Inserts many moves in one statement. */
  async insertMany(
    manager: EntityManager,
    moves: readonly { readonly move: Move; readonly events: readonly LogEvent[] }[],
    house: HouseAt,
  ): Promise<void> {
    if (moves.length === 0) return;
    const today = this.clock.now().slice(0, 10);
    await manager.insert(
      MoveEntity,
      moves.map(({ move }) => ({
        id: move.id,
        reference: move.reference,
        version: 1,
        record: move,
        ...columnsOf(move, house, today),
      })),
    );
    await manager.insert(
      EventEntity,
      moves.flatMap(({ move, events }) =>
        events.map(({ at, by, kind, sentence }) => ({
          moveId: move.id,
          at: new Date(at),
          by,
          kind,
          sentence,
        })),
      ),
    );
  }

  /** Inserts a move as it is, with its log. */
  async insert(
    manager: EntityManager,
    move: Move,
    events: readonly LogEvent[],
    house: HouseAt,
  ): Promise<MoveView> {
    await this.insertMany(manager, [{ move, events }], house);
    return { version: 1, move };
  }

  private async log(
    manager: EntityManager,
    moveId: string | null,
    events: readonly LogEvent[],
  ): Promise<void> {
    if (events.length > 0)
      await manager.insert(
        EventEntity,
        events.map(({ at, by, kind, sentence }) => ({ moveId, at: new Date(at), by, kind, sentence })),
      );
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
    row: MoveEntity,
    outcome: CommandOutcome,
  ): Promise<ProblemError> {
    const last = await manager.findOne(EventEntity, { where: { moveId: row.id }, order: { id: 'DESC' } });
    const what = last ? ` ${last.by}, ${last.at.toISOString().slice(11, 16)}: ${last.sentence}` : '';
    const own = outcome.ok ? [] : outcome.problems;
    return new ProblemError(409, [
      ...own.filter(({ code }) => code === 'step-conflict' || code === 'already-verified'),
      {
        code: 'version',
        path: '/version',
        sentence: `${row.reference} has changed since you opened it.${what} Nothing of yours was saved: look, then do it again.`,
      },
    ]);
  }
}
