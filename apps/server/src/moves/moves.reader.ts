import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import type { MoveList, MoveListQuery, MoveView } from '@ulvane/contract';
import { exportMove, releaseTitle, supportedUntil, type LogEvent, type MoveExport } from '@ulvane/core';
import { Brackets, Repository } from 'typeorm';
import { HouseService } from '../house/house.service';
import { refuse } from '../http/problem';
import { EventEntity } from './event.entity';
import { MoveEntity } from './move.entity';
import { recordOf } from './row';

const searched = ['reference', 'device', 'serial', 'owner', 'site', 'present', 'target'] as const;

@Injectable()
export class MovesReader {
  constructor(
    @InjectRepository(MoveEntity) private readonly moves: Repository<MoveEntity>,
    @InjectRepository(EventEntity) private readonly events: Repository<EventEntity>,
    private readonly house: HouseService,
  ) {}

  async one(reference: string): Promise<MoveView> {
    const row = await this.row(reference);
    return { version: row.version, move: recordOf(row) };
  }

  async eventsOf(reference: string): Promise<readonly LogEvent[]> {
    const { id } = await this.row(reference);
    const rows = await this.events.find({ where: { moveId: id }, order: { id: 'ASC' } });
    return rows.map(({ at, by, kind, sentence }) => ({ at: at.toISOString(), by, kind, sentence }));
  }

  async document(reference: string): Promise<MoveExport> {
    const { move } = await this.one(reference);
    return exportMove(move, await this.eventsOf(reference));
  }

  async withSerial(serial: string): Promise<string | null> {
    const row = await this.moves
      .createQueryBuilder('move')
      .where('lower(move.serial) = lower(:serial)', { serial })
      .orderBy('move.reference', 'DESC')
      .getOne();
    return row?.reference ?? null;
  }

  async list(query: MoveListQuery): Promise<MoveList> {
    const select = this.moves.createQueryBuilder('move');
    for (const word of query.search.split(/\s+/).filter((part) => part !== '')) {
      const key = `word${select.expressionMap.wheres.length}`;
      const pattern = `%${word.replace(/[\\%_]/g, (sign) => `\\${sign}`)}%`;
      select.andWhere(
        new Brackets((or) =>
          searched.forEach((column) => or.orWhere(`move.${column} ILIKE :${key}`, { [key]: pattern })),
        ),
      );
    }
    if (query.stage !== '') select.andWhere('move.stage = :stage', { stage: query.stage });
    if (query.site !== '') select.andWhere('move.site = :site', { site: query.site });
    if (query.route !== '') select.andWhere('move.route = :route', { route: query.route });
    const order = query.order === 'asc' ? 'ASC' : 'DESC';
    const [rows, total] = await select
      .orderBy(`move.${query.sort}`, order, 'NULLS LAST')
      .addOrderBy('move.reference', 'ASC')
      .skip((query.page - 1) * query.pageSize)
      .take(query.pageSize)
      .getManyAndCount();
    const catalogue = await this.house.catalogue();
    return {
      total,
      rows: rows.map(
        ({ reference, device, serial, owner, site, stage, route, target, present, dueOn, next }) => {
          const release = catalogue.releases.find((entry) => releaseTitle(entry) === present);
          return {
            reference,
            device,
            serial,
            owner,
            site,
            stage,
            route,
            target,
            present,
            dueOn,
            supportedUntil: release ? supportedUntil(release) : null,
            next,
          };
        },
      ),
      sites: await this.distinct('site'),
      routes: await this.distinct('route'),
    };
  }

  async open(): Promise<readonly MoveEntity[]> {
    return this.moves
      .createQueryBuilder('move')
      .where(`move.stage <> 'done'`)
      .select([
        'move.id',
        'move.reference',
        'move.device',
        'move.site',
        'move.dueOn',
        'move.next',
        'move.begun',
        'move.blockedBecause',
        'move.waitTitle',
        'move.waitStartedAt',
        'move.waitMinutes',
        'move.present',
        'move.stage',
      ])
      .getMany();
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

  private async distinct(column: 'site' | 'route'): Promise<string[]> {
    const rows = await this.moves
      .createQueryBuilder('move')
      .select(`DISTINCT move.${column}`, 'value')
      .where(`move.${column} <> ''`)
      .orderBy('value')
      .getRawMany<{ value: string }>();
    return rows.map(({ value }) => value);
  }

  private async row(reference: string): Promise<MoveEntity> {
    const row = await this.moves.findOneBy({ reference });
    if (!row) throw refuse(404, 'no-such-move', `There is no move ${reference}.`);
    return row;
  }
}
