import { Injectable } from '@nestjs/common';
import type { FitTableQuery, FleetGroup, groupKeys, ShoppingLine } from '@ulvane/contract';
import { findRelease, supportDaysLeft } from '@ulvane/core/catalogue';
import type { FitGroup, FitTable } from '@ulvane/core/decide';
import { formulaCell } from '@ulvane/core/outcome';
import Papa from 'papaparse';
import { DataSource } from 'typeorm';
import { Clock } from '../../clock/clock';
import { HouseService } from '../../house/house.service';
import { Workers } from '../../threads/workers';
import { MoveEntity } from '../move.entity';
import { MovesReader } from '../moves.reader';

/** What the moves have in common. */
@Injectable()
export class FleetReader {
  constructor(
    private readonly dataSource: DataSource,
    private readonly house: HouseService,
    private readonly clock: Clock,
    private readonly moves: MovesReader,
    private readonly workers: Workers,
  ) {}

  async groups(by: (typeof groupKeys)[number]): Promise<FleetGroup[]> {
    // By the names that they have in the database: TypeORM does not see a property before a cast.
    const column = by === 'present' ? 'present_id' : by;
    const rows = await this.dataSource
      .getRepository(MoveEntity)
      .createQueryBuilder('move')
      .select(`move.${column}::text`, 'key')
      .addSelect(by === 'present' ? 'min(move.present)' : `move.${column}::text`, 'value')
      .addSelect('count(*)::int', 'count')
      .where(`move.stage <> 'done'`)
      .andWhere(`move.${column} IS NOT NULL`)
      .groupBy(`move.${column}`)
      .orderBy('count', 'DESC')
      .addOrderBy('value', 'ASC')
      .limit(200)
      .getRawMany<{ key: string; value: string; count: number }>();
    const { catalogue, houseRules } = await this.house.house();
    const today = this.clock.today(houseRules.timeZone);
    return rows
      .filter(({ value }) => value !== '')
      .map(({ key, value, count }) => {
        const release = by === 'present' ? findRelease(catalogue, key) : undefined;
        return { key, value, count, daysLeft: release ? supportDaysLeft(release, today) : null };
      });
  }

  /** What each release would take, by kind of device; of moves that are not done, unless those are asked for. */
  async fit({ order, ...filters }: FitTableQuery): Promise<FitTable> {
    const select = this.moves
      .selected(filters)
      .select('move.device', 'device')
      .addSelect('min(move.present)', 'present')
      .addSelect('move.present_id', 'presentId')
      .addSelect('count(*)::int', 'count')
      .addSelect('min(move.reference)', 'reference')
      .addSelect('move.fit::text', 'fit')
      .groupBy('move.device')
      .addGroupBy('move.present_id')
      .addGroupBy('move.fit')
      .orderBy('min(move.reference)');
    if (filters.stage === '') select.andWhere(`move.stage <> 'done'`);
    const groups = await select.getRawMany<Omit<FitGroup, 'fit'> & { readonly fit: string }>();
    const { catalogue, houseRules } = await this.house.house();
    return this.workers.run('fitTask', {
      groups,
      releases: catalogue.releases,
      rates: houseRules.rates,
      today: this.clock.today(houseRules.timeZone),
      order,
    });
  }

  async shoppingList(): Promise<ShoppingLine[]> {
    const rows: { part: string; count: number; references: string[] }[] = await this.dataSource.query(`
      SELECT part.value AS part, count(*)::int AS count,
             (array_agg(move.reference ORDER BY move.reference)) AS references
        FROM move, jsonb_array_elements_text(move.parts) AS part(value)
       WHERE move.stage NOT IN ('settle', 'hand-over', 'done')
       GROUP BY part.value ORDER BY count DESC, part`);
    return rows;
  }

  async shoppingCsv(): Promise<string> {
    const lines = await this.shoppingList();
    return Papa.unparse(
      lines.map(({ part, count, references }) => ({ part, count, devices: references.join(' ') })),
      { columns: ['part', 'count', 'devices'], escapeFormulae: formulaCell },
    );
  }
}
