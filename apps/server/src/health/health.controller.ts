import { Controller, Header, Res } from '@nestjs/common';
import { api, type Health } from '@ulvane/contract';
import type { Response } from 'express';
import { DataSource } from 'typeorm';
import { poolOf } from '../database/dataSource';
import { Metrics } from '../http/metrics';
import { Input, Serves, type InputOf } from '../http/serves';
import { Reassessment } from '../moves/fleet/reassessment';
import { VaultKeys } from '../vault/vaultKeys';

@Controller()
export class HealthController {
  constructor(
    private readonly dataSource: DataSource,
    private readonly vault: VaultKeys,
    private readonly metrics: Metrics,
    private readonly reassessment: Reassessment,
  ) {}

  @Serves(api.health)
  async health(
    @Input() _input: InputOf<typeof api.health>,
    @Res({ passthrough: true }) response: Response,
  ): Promise<Health> {
    const { database, migrations, vault } = await this.read();
    const ok = database === 'up' && migrations.pending === 0 && vault.state === 'ok';
    if (!ok) response.status(503);
    return { status: ok ? 'ok' : 'failing', database, migrations, vault };
  }

  private async read(): Promise<Omit<Health, 'status'>> {
    const known = this.dataSource.migrations.length;
    const away = {
      database: 'down',
      migrations: { done: 0, pending: known },
      vault: { state: 'unknown', unopenable: 0 },
    } as const;
    if (poolOf(this.dataSource).pulse.state === 'down') return away;
    try {
      const [row]: { done: number }[] = await this.dataSource.query(
        'SELECT count(*)::int AS done FROM migration',
      );
      const unopenable = await this.vault.unopenable();
      const done = row?.done ?? 0;
      return {
        database: 'up',
        migrations: { done, pending: known - done },
        vault: { state: unopenable > 0 || this.vault.keys.length === 0 ? 'wrong-key' : 'ok', unopenable },
      };
    } catch {
      return away;
    }
  }

  @Serves(api.metrics)
  @Header('Content-Type', 'text/plain; version=0.0.4; charset=utf-8')
  async figures(): Promise<string> {
    const { waiting } = await this.reassessment.state();
    return this.metrics.text(waiting);
  }
}
