import { randomUUID } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import type { api, ChoiceOutcome, FileOutcome, RowOutcome } from '@ulvane/contract';
import { findRelease, releaseTitle } from '@ulvane/core/catalogue';
import type { Problem } from '@ulvane/core/outcome';
import {
  chooseRoute,
  deviceTitle,
  newMove,
  rowChanged,
  takeRow,
  takeSurvey,
  type CommandContext,
  type CommandOutcome,
  type LogEvent,
  type Move,
  type RouteChoice,
} from '@ulvane/core/record';
import { routes } from '@ulvane/core/route';
import { factsFromSurvey, importSurvey, readListRow, type ListRow } from '@ulvane/core/survey';
import type { EntityManager } from 'typeorm';
import { Clock } from '../../clock/clock';
import { Transactions } from '../../database/transactions';
import { HouseService } from '../../house/house.service';
import { Breath } from '../../http/breath';
import type { InputOf } from '../../http/serves';
import { MoveEntity } from '../move.entity';
import { MovesWriter } from '../moves.writer';
import { readRecord, reasonOf, recordOf, type HouseAt } from '../row';

type Context = CommandContext & HouseAt;
type Actor = CommandContext['actor'];
type GivenRows = InputOf<typeof api.takeRows>['body'];
type Asked = Pick<RouteChoice, 'routeId' | 'releaseId' | 'reason'>;

/** A move that is to be stored, with the lines of its log. */
type Pending = {
  readonly move: Move;
  /** As it was before; null for a new one. */
  readonly was: Parameters<MovesWriter['rewrite']>[2] | null;
  readonly events: readonly LogEvent[];
};

/** Changes many moves at once: a batch stands in one transaction, and a dry run stores nothing. */
@Injectable()
export class FleetWriter {
  constructor(
    private readonly transactions: Transactions,
    private readonly house: HouseService,
    private readonly moves: MovesWriter,
    private readonly clock: Clock,
  ) {}

  /** Rows of a list: the device of a known serial is updated, any other is new. */
  async takeRows({ rows, mapping, marks, dryRun }: GivenRows, actor: Actor): Promise<RowOutcome[]> {
    const context = await this.context(actor);
    return this.inTurn(async (manager) => {
      if (!dryRun) {
        await oneAtATime(manager);
        await this.house.keepListMapping(manager, mapping);
      }
      const house = context.houseRules.writtenNumbers;
      const every = Object.fromEntries(
        Object.keys(mapping).map((header) => [header, marks[header] ?? house]),
      );
      const read = rows.map(({ row, cells, sameAsRow }) => ({
        row,
        sameAsRow,
        read: readListRow(cells, mapping, context.catalogue, every),
      }));
      const serials = read.flatMap((one) => (one.read.ok ? [one.read.value.serial] : []));
      const known = await this.bySerial(manager, serials, !dryRun);
      const isNew = ({ serial }: ListRow) => !known.has(serial.toLowerCase());
      const fresh = dryRun ? 0 : read.filter((one) => one.read.ok && isNew(one.read.value)).length;
      const references = [...(await this.moves.nextReferences(manager, fresh))];
      const seen = new Map<string, number>();
      const pending: Pending[] = [];
      const outcomes: RowOutcome[] = [];
      const breath = new Breath();
      for (const { row, sameAsRow, read: given } of read) {
        await breath.take();
        if (!given.ok) {
          outcomes.push(refused(row, given.problems));
          continue;
        }
        const key = given.value.serial.toLowerCase();
        const before = seen.get(key) ?? sameAsRow;
        seen.set(key, before ?? row);
        const found = known.get(key) ?? [];
        const wrong = before === undefined ? tooMany(given.value, found) : twice(given.value, before);
        if (wrong) {
          outcomes.push(refused(row, [wrong]));
          continue;
        }
        const present = found[0];
        const outcome = takeRow(
          present ? recordOf(present) : blank(references.shift(), context),
          given.value,
          context,
        );
        outcomes.push(...this.collect(row, present, outcome, pending, context));
      }
      if (!dryRun) await this.store(manager, pending, context);
      return outcomes;
    });
  }

  /** Survey files: each goes to the open move of its serial, or to a new one. */
  async takeSurveys(
    files: readonly { readonly name: string; readonly text: string }[],
    dryRun: boolean,
    actor: Actor,
  ): Promise<FileOutcome[]> {
    const context = await this.context(actor);
    return this.inTurn(async (manager) => {
      if (!dryRun) await oneAtATime(manager);
      const outcomes: FileOutcome[] = [];
      const breath = new Breath();
      for (const { name, text } of files) {
        await breath.take();
        const survey = importSurvey(text);
        if (!survey.ok) {
          outcomes.push({
            name,
            outcome: 'refused',
            device: '',
            reference: null,
            problems: [...survey.problems],
          });
          continue;
        }
        const serial = survey.value.device?.serial;
        const found =
          serial === undefined
            ? []
            : ((await this.bySerial(manager, [serial], !dryRun)).get(serial.toLowerCase()) ?? []);
        const present = found.findLast(({ stage }) => stage !== 'done');
        const move = present
          ? recordOf(present)
          : blank(dryRun ? undefined : (await this.moves.nextReferences(manager, 1))[0], context);
        const outcome = takeSurvey(
          move,
          survey.value,
          survey.value.collector ? 'collector' : 'imported',
          context,
        );
        const device = deviceTitle(factsFromSurvey(survey.value, 'collector'));
        if (!outcome.ok) {
          outcomes.push({
            name,
            outcome: 'refused',
            device,
            reference: present?.reference ?? null,
            problems: [...outcome.problems],
          });
          continue;
        }
        // One by one: two files of the same device meet in the database.
        if (!dryRun) await this.store(manager, [pendingOf(present, outcome.value, context)], context);
        outcomes.push({
          name,
          outcome: present ? 'updated' : 'new',
          device,
          reference: present?.reference ?? (dryRun ? null : outcome.value.move.reference),
          problems: [],
        });
      }
      return outcomes;
    });
  }

  /** One route for many devices; each that cannot take it says why, and the others take it all the same. */
  async choose(
    references: readonly string[],
    asked: Asked,
    dryRun: boolean,
    actor: Actor,
  ): Promise<ChoiceOutcome[]> {
    const context = await this.context(actor);
    return this.inTurn(async (manager) => {
      const rows = await this.lockable(manager, !dryRun)
        .where('move.reference IN (:...references)', { references })
        .orderBy('move.reference')
        .getMany();
      const pending: Pending[] = [];
      const breath = new Breath();
      const chooseFor = (reference: string): ChoiceOutcome => {
        const row = rows.find((one) => one.reference === reference);
        if (!row)
          return { reference, device: '', outcome: 'refused', sentence: `There is no move ${reference}.` };
        const read = readRecord(row.record);
        if (!read.ok)
          return {
            reference,
            device: row.device,
            outcome: 'refused',
            sentence: `The record cannot be read: ${reasonOf(read.problems)}.`,
          };
        const move = read.value;
        const outcome = chooseRoute(move, asked, context);
        if (!outcome.ok)
          return {
            reference,
            device: row.device,
            outcome: 'refused',
            sentence: outcome.problems.map(({ sentence }) => sentence).join(' '),
          };
        pending.push(pendingOf(row, outcome.value, context));
        return {
          reference,
          device: row.device,
          outcome: 'chosen',
          sentence: worthALook(move, context, outcome.value.sentence),
        };
      };
      const outcomes: ChoiceOutcome[] = [];
      for (const reference of references) {
        await breath.take();
        outcomes.push(chooseFor(reference));
      }
      if (!dryRun) await this.store(manager, pending, context);
      return outcomes;
    });
  }

  /** Batches wait longer for their turn than a single change. */
  private inTurn<T>(work: (manager: EntityManager) => Promise<T>): Promise<T> {
    return this.transactions.run(work, { lockMs: batchLockMs });
  }

  private async context(actor: Actor): Promise<Context> {
    return { ...(await this.house.house()), actor, now: this.clock.now() };
  }

  private lockable(manager: EntityManager, locked: boolean) {
    const select = manager.getRepository(MoveEntity).createQueryBuilder('move');
    return locked ? select.setLock('pessimistic_write') : select;
  }

  private async bySerial(
    manager: EntityManager,
    serials: readonly string[],
    locked: boolean,
  ): Promise<Map<string, MoveEntity[]>> {
    const found = new Map<string, MoveEntity[]>();
    if (serials.length === 0) return found;
    const rows = await this.lockable(manager, locked)
      .where('lower(move.serial) = ANY(:serials)', { serials: serials.map((serial) => serial.toLowerCase()) })
      .orderBy('move.reference')
      .getMany();
    for (const row of rows) {
      const key = row.serial.toLowerCase();
      found.set(key, [...(found.get(key) ?? []), row]);
    }
    return found;
  }

  private collect(
    row: number,
    present: MoveEntity | undefined,
    outcome: CommandOutcome,
    pending: Pending[],
    context: Context,
  ): RowOutcome[] {
    if (!outcome.ok) return [refused(row, outcome.problems, present?.reference)];
    if (present && !rowChanged(recordOf(present), outcome.value.move))
      return [{ row, outcome: 'unchanged', reference: present.reference, problems: [] }];
    pending.push(pendingOf(present, outcome.value, context));
    return [
      { row, outcome: present ? 'updated' : 'new', reference: present?.reference ?? null, problems: [] },
    ];
  }

  private async store(manager: EntityManager, pending: readonly Pending[], context: Context): Promise<void> {
    const breath = new Breath();
    for (const { move, was, events } of pending) {
      await breath.take();
      if (was !== null) await this.moves.rewrite(manager, move, was, events, context);
    }
    await this.moves.insertMany(
      manager,
      pending.filter(({ was }) => was === null),
      context,
    );
  }
}

/** How long a batch waits for another one. */
const batchLockMs = 30_000;

/** Any fixed number: two people who import the same new serial at once would otherwise start two moves. */
const importLock = 4311;

/** Lists and surveys are imported one after the other, until the end of the transaction. */
async function oneAtATime(manager: EntityManager): Promise<void> {
  await manager.query('SELECT pg_advisory_xact_lock($1)', [importLock]);
}

/** A move of which nothing is known yet; one for a dry run has no reference of its own. */
function blank(reference: string | undefined, { now }: Context): Move {
  return newMove({ id: randomUUID(), reference: reference ?? 'MV-0000', createdAt: now });
}

function pendingOf(
  present: MoveEntity | undefined,
  { move, kind, sentence }: { readonly move: Move; readonly kind: string; readonly sentence: string },
  { actor, now }: Context,
): Pending {
  const event = (kindOf: string, said: string) => ({ at: now, by: actor.name, kind: kindOf, sentence: said });
  return {
    move,
    was: present ? { ...present, move: recordOf(present) } : null,
    events: [...(present ? [] : [event('move-started', 'Move started.')]), event(kind, sentence)],
  };
}

function refused(row: number, problems: readonly Problem[], reference: string | null = null): RowOutcome {
  return { row, outcome: 'refused', reference, problems: [...problems] };
}

function twice({ serial }: ListRow, before: number): Problem {
  return {
    code: 'serial-twice',
    path: 'serial',
    sentence: `Serial ${serial} is in row ${before} already.`,
  };
}

function tooMany({ serial }: ListRow, found: readonly MoveEntity[]): Problem | undefined {
  const open = found.filter(({ stage }) => stage !== 'done');
  return open.length > 1
    ? {
        code: 'serial-of-several',
        path: 'serial',
        sentence: `Serial ${serial} belongs to ${open.map(({ reference }) => reference).join(' and ')}: close one of them first.`,
      }
    : undefined;
}

/** What somebody who chooses for many should know of this one. */
function worthALook({ decision, plan }: Move, { catalogue }: Context, sentence: string): string {
  if (!decision) return sentence;
  const release = findRelease(catalogue, decision.releaseId ?? undefined);
  const before = `${routes[decision.routeId].title}${release ? ` to ${releaseTitle(release)}` : ''}`;
  return `${before} was chosen by ${decision.by}${plan ? ', and a runbook has been made' : ''}. ${sentence}`;
}
