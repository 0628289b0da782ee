import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import type { MoveList, MoveListQuery, MoveView } from '@ulvane/contract';
import { findRelease, supportedUntil } from '@ulvane/core/catalogue';
import { FitSchema } from '@ulvane/core/decide';
import { exportMove, type ChainLine, type Move, type MoveExport } from '@ulvane/core/record';
import { Repository, type SelectQueryBuilder } from 'typeorm';
import { HouseService } from '../house/house.service';
import { refuse } from '../http/problem';
import { LogReader } from '../log/logReader';
import { MoveEntity } from './move.entity';
import { Quarantine } from './quarantine';
import { recordOf } from './row';

/** What a row of a list needs: never the whole record. */
const listed = [
  'reference',
  'device',
  'serial',
  'owner',
  'site',
  'stage',
  'route',
  'target',
  'present',
  'dueOn',
  'next',
  'verdict',
  'advice',
  'unlock',
  'unreadable',
] as const;

/** What the list of hands needs of a move. */
const handColumns = [
  'id',
  'reference',
  'device',
  'site',
  'dueOn',
  'next',
  'begun',
  'blockedBecause',
  'waitTitle',
  'waitStartedAt',
  'waitMinutes',
] as const;
const notBegunShown = 200;
/** So many devices of one owner are looked through. */
const ownerMoves = 20;
/** So many moves ahead the shelf looks. */
const shelfMoves = 60;

/** One page of a list, in its order; every order has an index that runs its way. */
function page(select: SelectQueryBuilder<MoveEntity>, query: MoveListQuery): SelectQueryBuilder<MoveEntity> {
  const order = query.order === 'asc' ? 'ASC' : 'DESC';
  // MV-10000 comes after MV-9999: the shorter ones first.
  const byNumber = query.sort === 'reference';
  return select
    .select(['move.id', ...listed.map((column) => `move.${column}`)])
    .addSelect(query.fit === 'yes' ? ['move.fit'] : [])
    .addSelect('length(move.reference)', 'digits')
    .orderBy(
      byNumber ? 'digits' : `move.${query.sort}`,
      order,
      query.sort === 'dueOn' ? 'NULLS LAST' : undefined,
    )
    .addOrderBy('move.reference', order)
    .offset((query.page - 1) * query.pageSize)
    .limit(query.pageSize);
}

@Injectable()
export class MovesReader {
  constructor(
    @InjectRepository(MoveEntity) private readonly moves: Repository<MoveEntity>,
    private readonly house: HouseService,
    private readonly log: LogReader,
    private readonly quarantine: Quarantine,
  ) {}

  async one(reference: string): Promise<MoveView> {
    const row = await this.row(reference);
    return { version: row.version, move: recordOf(row) };
  }

  /** The id of a move, without reading its record. */
  async idOf(reference: string): Promise<string> {
    const row = await this.moves.findOne({ where: { reference }, select: { id: true } });
    if (!row) throw refuse('no-such-move', `There is no move ${reference}.`);
    return row.id;
  }

  /** The log of a move; also of one whose record cannot be read. */
  async linesOf(reference: string): Promise<readonly ChainLine[]> {
    return this.log.linesOf(await this.idOf(reference));
  }

  async document(reference: string): Promise<MoveExport> {
    const { move } = await this.one(reference);
    const lines = await this.log.linesOf(move.id);
    return exportMove(
      move,
      lines.map(({ at, by, kind, sentence, importedBy }) => ({
        at,
        by,
        kind,
        sentence,
        ...(importedBy === null ? {} : { importedBy }),
      })),
    );
  }

  async withSerial(serial: string): Promise<string | null> {
    const row = await this.moves
      .createQueryBuilder('move')
      .where('lower(move.serial) = lower(:serial)', { serial })
      .orderBy('move.reference', 'DESC')
      .getOne();
    return row?.reference ?? null;
  }

  /** The moves that a list has, whatever its page. */
  selected(
    query: Omit<MoveListQuery, 'fit' | 'sort' | 'order' | 'page' | 'pageSize'>,
  ): SelectQueryBuilder<MoveEntity> {
    const select = this.moves.createQueryBuilder('move');
    for (const word of query.search.split(/\s+/).filter((part) => part !== '')) {
      const key = `word${select.expressionMap.wheres.length}`;
      const pattern = `%${word.replace(/[\\%_]/g, (sign) => `\\${sign}`)}%`;
      // One column with an index by trigrams; see docs/decisions.
      select.andWhere(`move.search ILIKE :${key}`, { [key]: pattern });
    }
    if (query.present !== '') select.andWhere('move.presentId = :present', { present: query.present });
    for (const filter of ['stage', 'site', 'route', 'device', 'verdict', 'unlock'] as const)
      if (query[filter] !== '') select.andWhere(`move.${filter} = :${filter}`, { [filter]: query[filter] });
    return select;
  }

  async references(query: MoveListQuery): Promise<string[]> {
    const rows = await this.selected(query)
      .select('move.reference', 'reference')
      .orderBy('move.reference')
      .getRawMany<{ reference: string }>();
    return rows.map(({ reference }) => reference);
  }

  async list(query: MoveListQuery): Promise<MoveList> {
    const select = this.selected(query);
    // What a device would take is asked of those that are still to move, unless others are asked for.
    if (query.fit === 'yes' && query.stage === '') select.andWhere(`move.stage <> 'done'`);
    // Typed as a number of rows and nothing else: TypeORM's own count asks for distinct keys, which takes longer.
    const count = select.clone().select('count(*)::int', 'total').getRawOne<{ total: number }>();
    const [rows, counted, catalogue, facets] = await Promise.all([
      page(select, query).getMany(),
      count,
      this.house.catalogue(),
      this.facets(query.page),
    ]);
    const total = counted?.total ?? 0;
    return {
      total,
      rows: rows.map((row) => {
        const release = findRelease(catalogue, row.presentId);
        return {
          reference: row.reference,
          device: row.device,
          serial: row.serial,
          owner: row.owner,
          site: row.site,
          stage: row.stage,
          route: row.route,
          target: row.target,
          present: row.present,
          dueOn: row.dueOn,
          next: row.next,
          verdict: row.verdict,
          advice: row.advice,
          unlock: row.unlock,
          unreadable: row.unreadable,
          supportedUntil: release ? supportedUntil(release) : null,
          fit: query.fit === 'yes' ? FitSchema.parse(row.fit) : null,
        };
      }),
      ...facets,
    };
  }

  /**
   * Moves that may need a hand next: all that are under way, and of the others those that are due
   * first. A fleet has thousands that nobody has begun, and only the first few of them are shown.
   */
  async forHands(): Promise<readonly MoveEntity[]> {
    const open = () =>
      this.moves
        .createQueryBuilder('move')
        .where(`move.stage <> 'done'`)
        .select(handColumns.map((column) => `move.${column}`));
    const underWay = `(move.begun OR move.wait_title IS NOT NULL)`;
    const [begun, waiting] = await Promise.all([
      open().andWhere(underWay).getMany(),
      open()
        .andWhere(`NOT ${underWay}`)
        .addSelect('move.blocked_because IS NOT NULL', 'blocked')
        .orderBy('blocked')
        .addOrderBy('move.dueOn', 'ASC', 'NULLS LAST')
        .addOrderBy('move.reference')
        .limit(notBegunShown)
        .getMany(),
    ]);
    return [...begun, ...waiting];
  }

  /** How many moves are not done, and how many of these run by themselves. @param now ISO instant */
  async openCounts(now: string): Promise<{ readonly open: number; readonly running: number }> {
    const row = await this.moves
      .createQueryBuilder('move')
      .select('count(*)::int', 'open')
      .addSelect(
        `(count(*) FILTER (WHERE move.wait_started_at + move.wait_minutes * interval '1 minute' > :now))::int`,
        'running',
      )
      .where(`move.stage <> 'done'`, { now })
      .getRawOne<{ open: number; running: number }>();
    return { open: row?.open ?? 0, running: row?.running ?? 0 };
  }

  /**
   * Moves with a day on which somebody has to look again, the first one in front: open ones always, those that are
   * handed over from some weeks before that day on. @param today ISO date
   */
  async daysAhead(today: string): Promise<readonly MoveEntity[]> {
    return this.moves
      .createQueryBuilder('move')
      .where('move.day_ahead IS NOT NULL')
      .andWhere(`(move.stage <> 'done' OR abs(move.day_ahead - :today::date) <= :shownDays)`, {
        today,
        shownDays: 60,
      })
      .select(['move.id', 'move.reference', 'move.device', 'move.site', 'move.dayAhead', 'move.dayReason'])
      .orderBy('move.dayAhead')
      .addOrderBy('move.reference')
      .limit(notBegunShown)
      .getMany();
  }

  /** Moves with a backup that is to be wiped by a day, the first one in front. @param by ISO date */
  async toWipe(by: string): Promise<readonly { readonly device: string; readonly move: Move }[]> {
    const rows = await this.moves
      .createQueryBuilder('move')
      .where('move.wipe_on <= :by', { by })
      .orderBy('move.wipeOn')
      .addOrderBy('move.reference')
      .limit(notBegunShown)
      .getMany();
    const read = await this.quarantine.readable(rows);
    return read.map(({ row, move }) => ({ device: row.device, move }));
  }

  /** Moves that may need an installer medium next: decided, and not across the Line; the first due in front. */
  async forShelf(): Promise<readonly Move[]> {
    const rows = await this.moves
      .createQueryBuilder('move')
      .where(`move.stage IN ('save', 'prepare', 'cross')`)
      .andWhere(`move.route <> ''`)
      .orderBy('move.dueOn', 'ASC', 'NULLS LAST')
      .addOrderBy('move.reference')
      .limit(shelfMoves)
      .getMany();
    return (await this.quarantine.readable(rows)).map(({ move }) => move);
  }

  /** Other moves of the same owner at the same site that have a route, the latest first. */
  async ofOwner({ id, owner, site }: Pick<Move, 'id' | 'owner' | 'site'>): Promise<readonly Move[]> {
    if (owner.trim() === '') return [];
    const rows = await this.moves
      .createQueryBuilder('move')
      .where('lower(trim(move.owner)) = lower(trim(:owner))', { owner })
      .andWhere(`move.site = :site AND move.id <> :id AND move.route <> ''`, { site, id })
      .select(['move.id', 'move.record'])
      .orderBy('length(move.reference)', 'DESC')
      .addOrderBy('move.reference', 'DESC')
      .limit(ownerMoves)
      .getMany();
    return (await this.quarantine.readable(rows)).map(({ move }) => move);
  }

  /** Moves that have, or are to have, backups on any of these drives. */
  async onDrives(driveIds: readonly string[]): Promise<readonly Move[]> {
    if (driveIds.length === 0) return [];
    const rows = await this.moves
      .createQueryBuilder('move')
      .where('move.drive_ids ?| array[:...driveIds]', { driveIds })
      .select(['move.id', 'move.reference', 'move.record'])
      .orderBy('move.reference')
      .getMany();
    return (await this.quarantine.readable(rows)).map(({ move }) => move);
  }

  /** How many open moves run each present system, by its id. */
  async presentCounts(): Promise<ReadonlyMap<string, number>> {
    const rows = await this.moves
      .createQueryBuilder('move')
      .select('move.presentId', 'present')
      .addSelect('count(*)::int', 'count')
      .where(`move.stage <> 'done' AND move.presentId <> ''`)
      .groupBy('move.presentId')
      .getRawMany<{ present: string; count: number }>();
    return new Map(rows.map(({ present, count }) => [present, count]));
  }

  async stageCounts(): Promise<ReadonlyMap<string, number>> {
    const rows = await this.moves
      .createQueryBuilder('move')
      .select('move.stage', 'stage')
      .addSelect('count(*)::int', 'count')
      .groupBy('move.stage')
      .getRawMany<{ stage: string; count: number }>();
    return new Map(rows.map(({ stage, count }) => [stage, count]));
  }

  /** What a list can be narrowed to; asked once a list, with its first page. */
  private async facets(pageNumber: number): Promise<Pick<MoveList, 'sites' | 'routes'>> {
    if (pageNumber > 1) return { sites: [], routes: [] };
    const [sites, routes] = await Promise.all([this.distinct('site'), this.distinct('route')]);
    return { sites, routes };
  }

  /** The values of a column, hopping from one to the next along its index instead of reading every row. */
  private async distinct(column: 'site' | 'route'): Promise<string[]> {
    const rows: { value: string }[] = await this.moves.query(`
      WITH RECURSIVE hop AS (
        (SELECT ${column} AS value FROM move WHERE ${column} > '' ORDER BY ${column} LIMIT 1)
        UNION ALL
        SELECT (SELECT ${column} FROM move WHERE ${column} > hop.value ORDER BY ${column} LIMIT 1)
          FROM hop WHERE hop.value IS NOT NULL
      )
      SELECT value FROM hop WHERE value IS NOT NULL`);
    return rows.map(({ value }) => value);
  }

  private async row(reference: string): Promise<MoveEntity> {
    const row = await this.moves.findOneBy({ reference });
    if (!row) throw refuse('no-such-move', `There is no move ${reference}.`);
    return row;
  }
}
