import { DataSource, type DataSourceOptions } from 'typeorm';
import { AccountEntity } from '../accounts/account.entity';
import { DriveEntity } from '../drives/drive.entity';
import { DifferenceEntity } from '../files/difference.entity';
import { FileEntryEntity } from '../files/fileEntry.entity';
import { CatalogueChangeEntity } from '../house/catalogueChange.entity';
import { CatalogueEntryEntity } from '../house/catalogueEntry.entity';
import { OrganisationEntity } from '../house/organisation.entity';
import { PracticeChangeEntity } from '../house/practiceChange.entity';
import { EventEntity } from '../moves/event.entity';
import { MoveEntity } from '../moves/move.entity';
import { SecretEntity } from '../vault/secret.entity';
import { Decide1772532000000 } from './decide.migration';
import { First1772445600000 } from './first.migration';
import { Save1774000000000 } from './save.migration';

/** Any fixed number: servers that start together migrate one after the other. */
const migrationLock = 4310;

export function dataSourceOptions(databaseUrl: string): DataSourceOptions {
  return {
    type: 'postgres',
    url: databaseUrl,
    entities: [
      AccountEntity,
      OrganisationEntity,
      CatalogueEntryEntity,
      CatalogueChangeEntity,
      PracticeChangeEntity,
      MoveEntity,
      EventEntity,
      FileEntryEntity,
      DifferenceEntity,
      DriveEntity,
      SecretEntity,
    ],
    migrations: [First1772445600000, Decide1772532000000, Save1774000000000],
    migrationsTableName: 'migration',
    synchronize: false,
    migrationsRun: false,
    logging: false,
    extra: { max: 12 },
  };
}

/** Brings the database up to the newest migration; safe when several servers start at once. */
export async function migrate(dataSource: DataSource): Promise<number> {
  const runner = dataSource.createQueryRunner();
  try {
    await runner.query('SELECT pg_advisory_lock($1)', [migrationLock]);
    return (await dataSource.runMigrations({ transaction: 'all' })).length;
  } finally {
    await runner.query('SELECT pg_advisory_unlock($1)', [migrationLock]);
    await runner.release();
  }
}
