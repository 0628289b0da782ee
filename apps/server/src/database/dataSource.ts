import pg from 'pg';
import { DataSource, type DataSourceOptions } from 'typeorm';
import { AccountEntity } from '../accounts/account.entity';
import { ApiTokenEntity } from '../accounts/apiToken.entity';
import { DriveEntity } from '../drives/drive.entity';
import { ImageEntity } from '../media/image.entity';
import { DifferenceEntity } from '../files/difference.entity';
import { FileEntryEntity } from '../files/fileEntry.entity';
import { CatalogueChangeEntity } from '../house/catalogueChange.entity';
import { CatalogueEntryEntity } from '../house/catalogueEntry.entity';
import { OrganisationEntity } from '../house/organisation.entity';
import { HouseRulesChangeEntity } from '../house/houseRulesChange.entity';
import { EventEntity } from '../log/event.entity';
import { MoveEntity } from '../moves/move.entity';
import { SecretEntity } from '../vault/secret.entity';
import { DayAhead1780000000000 } from './dayAhead.migration';
import { GoBack1783000000000 } from './goBack.migration';
import { Troubles1784000000000 } from './troubles.migration';
import { EventVersion1785000000000 } from './eventVersion.migration';
import { Images1782000000000 } from './images.migration';
import { Decide1772532000000 } from './decide.migration';
import { Fit1781000000000 } from './fit.migration';
import { First1772445600000 } from './first.migration';
import { HousePool } from './housePool';
import { Save1774000000000 } from './save.migration';
import { Measured1777000000000 } from './measured.migration';
import { Parts1778000000000 } from './parts.migration';
import { PresentId1779000000000 } from './presentId.migration';
import { Sound1776000000000 } from './sound.migration';

const common = {
  type: 'postgres',
  entities: [
    AccountEntity,
    ApiTokenEntity,
    OrganisationEntity,
    CatalogueEntryEntity,
    CatalogueChangeEntity,
    HouseRulesChangeEntity,
    MoveEntity,
    EventEntity,
    FileEntryEntity,
    DifferenceEntity,
    DriveEntity,
    ImageEntity,
    SecretEntity,
  ],
  migrations: [
    First1772445600000,
    Decide1772532000000,
    Save1774000000000,
    Sound1776000000000,
    Measured1777000000000,
    Parts1778000000000,
    PresentId1779000000000,
    DayAhead1780000000000,
    Fit1781000000000,
    Images1782000000000,
    GoBack1783000000000,
    Troubles1784000000000,
    EventVersion1785000000000,
  ],
  migrationsTableName: 'migration',
  synchronize: false,
  migrationsRun: false,
  logging: false,
} as const satisfies DataSourceOptions;

/** How long anything of the database is waited for before the answer is 503. */
export const limits = {
  connectionMs: 3000,
  lockMs: 1500,
  /** A transaction that nobody goes on with. */
  idleMs: 10_000,
  statementMs: 120_000,
  connections: 12,
} as const;

/** What the application works with: the house's pool, and limits on every wait. */
export function dataSourceOptions(databaseUrl: string): DataSourceOptions {
  return {
    ...common,
    url: databaseUrl,
    driver: { Pool: HousePool, defaults: pg.defaults },
    // The pool says by itself when the database is down.
    poolErrorHandler: () => undefined,
    extra: {
      max: limits.connections,
      connectionTimeoutMillis: limits.connectionMs,
      lock_timeout: limits.lockMs,
      idle_in_transaction_session_timeout: limits.idleMs,
      statement_timeout: limits.statementMs,
      application_name: 'ulvane',
    },
  };
}

/** What migrations are run with: the role that owns the tables, and no limit on what takes long. */
export function ownerOptions(ownerUrl: string): DataSourceOptions {
  return { ...common, url: ownerUrl, extra: { max: 3, application_name: 'ulvane owner' } };
}

/** The pool of a data source that was made with `dataSourceOptions`. */
export function poolOf(dataSource: DataSource): HousePool {
  const pool: unknown = Reflect.get(dataSource.driver, 'master');
  if (!(pool instanceof HousePool)) throw new Error('the data source has no pool of the house');
  return pool;
}
