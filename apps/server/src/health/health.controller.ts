import { Controller, Res } from '@nestjs/common';
import { api, type Health } from '@ulvane/contract';
import type { Response } from 'express';
import { DataSource } from 'typeorm';
import { Serves } from '../http/serves';

@Controller()
export class HealthController {
  constructor(private readonly dataSource: DataSource) {}

  @Serves(api.health)
  async health(@Res({ passthrough: true }) response: Response): Promise<Health> {
    try {
      const rows: unknown = await this.dataSource.query('SELECT count(*)::int AS done FROM migration');
      const [row] = Array.isArray(rows) ? rows : [];
      const done = Number(row?.done ?? 0);
      const pending = this.dataSource.migrations.length - done;
      if (pending > 0) response.status(503);
      return { status: pending > 0 ? 'failing' : 'ok', database: 'up', migrations: { done, pending } };
    } catch {
      response.status(503);
      return {
        status: 'failing',
        database: 'down',
        migrations: { done: 0, pending: this.dataSource.migrations.length },
      };
    }
  }
}
