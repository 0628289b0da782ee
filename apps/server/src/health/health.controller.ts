import { type Health } from '@ulvane/contract';
import { DataSource } from 'typeorm';
import { poolOf } from '../database/dataSource';
import { Metrics } from '../http/metrics';
import { controllerOf } from '../http/controller';
import { Reassessment } from '../moves/fleet/reassessment';
import { VaultKeys } from '../vault/vaultKeys';

export const HealthController = controllerOf(
  { dataSource: DataSource, vault: VaultKeys, metrics: Metrics, reassessment: Reassessment },
  {
    health: async (_input, { response }, { dataSource, vault: keys }) => {
      const { database, migrations, vault } = await stateOf(dataSource, keys);
      const ok = database === 'up' && migrations.pending === 0 && vault.state === 'ok';
      if (!ok) response.status(503);
      return { status: ok ? 'ok' : 'failing', database, migrations, vault };
    },

    metrics: async (_input, { response }, { metrics, reassessment }) => {
      response.setHeader('Content-Type', 'text/plain; version=0.0.4; charset=utf-8');
      const { waiting } = await reassessment.state();
      return metrics.text(waiting);
    },
  },
);

/** Whether the database answers, is migrated, and its secrets can be opened. */
async function stateOf(dataSource: DataSource, vault: VaultKeys): Promise<Omit<Health, 'status'>> {
  const known = dataSource.migrations.length;
  const away = {
    database: 'down',
    migrations: { done: 0, pending: known },
    vault: { state: 'unknown', unopenable: 0 },
  } as const;
  if (poolOf(dataSource).pulse.state === 'down') return away;
  try {
    const [row]: { done: number }[] = await dataSource.query('SELECT count(*)::int AS done FROM migration');
    const unopenable = await vault.unopenable();
    const done = row?.done ?? 0;
    return {
      database: 'up',
      migrations: { done, pending: known - done },
      vault: { state: unopenable > 0 || vault.keys.length === 0 ? 'wrong-key' : 'ok', unopenable },
    };
  } catch {
    return away;
  }
}
