import { Injectable } from '@nestjs/common';
import type { FleetGroup, groupKeys, ShoppingLine } from '@ulvane/contract';
import { findRelease, supportDaysLeft } from '@ulvane/core/catalogue';
import { formulaCell } from '@ulvane/core/outcome';
import Papa from 'papaparse';
import { DataSource } from 'typeorm';
import { Clock } from '../../clock/clock';
import { HouseService } from '../../house/house.service';
import { MoveEntity } from '../move.entity';

/** What the moves have in common. */
@Injectable()
export class FleetReader {
  constructor(
    private readonly dataSource: DataSource,
    private readonly house: HouseService,
    private readonly clock: Clock,
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
