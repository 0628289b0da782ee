import { Module, RequestMethod, type DynamicModule } from '@nestjs/common';
import { APP_FILTER, APP_GUARD } from '@nestjs/core';
import { TypeOrmModule } from '@nestjs/typeorm';
import { LoggerModule } from 'nestjs-pino';
import { AccountsModule } from './accounts/accounts.module';
import { ClockModule } from './clock/clock.module';
import { CollectorModule } from './collector/collector.module';
import { dataSourceOptions } from './database/dataSource';
import { HealthModule } from './health/health.module';
import { HouseModule } from './house/house.module';
import { AccessGuard } from './http/access.guard';
import { ProblemFilter } from './http/problem.filter';
import { DrivesModule } from './drives/drives.module';
import { FilesModule } from './files/files.module';
import { FleetModule } from './moves/fleet/fleet.module';
import { MovesModule } from './moves/moves.module';
import type { Settings } from './settings';
import { TodayModule } from './today/today.module';
import { VaultModule } from './vault/vault.module';

@Module({})
export class AppModule {
  static with(settings: Settings): DynamicModule {
    return {
      module: AppModule,
      imports: [
        LoggerModule.forRoot({
          forRoutes: [{ path: '{*path}', method: RequestMethod.ALL }],
          pinoHttp: {
            level: settings.logLevel,
            // Neither cookies nor bodies are logged: a body may hold a password.
            redact: ['req.headers.cookie', 'req.headers.authorization', 'res.headers["set-cookie"]'],
            serializers: {
              req: ({ id, method, url }: { id: unknown; method: string; url: string }) => ({
                id,
                method,
                url: url.split('?')[0],
              }),
              res: ({ statusCode }: { statusCode: number }) => ({ statusCode }),
            },
          },
        }),
        TypeOrmModule.forRoot({ ...dataSourceOptions(settings.databaseUrl), retryAttempts: 2 }),
        ClockModule.at(settings.now),
        AccountsModule,
        HouseModule,
        MovesModule,
        FleetModule,
        FilesModule,
        DrivesModule,
        VaultModule.from(settings.vault),
        TodayModule,
        CollectorModule,
        HealthModule,
      ],
      providers: [
        { provide: APP_GUARD, useClass: AccessGuard },
        { provide: APP_FILTER, useClass: ProblemFilter },
      ],
    };
  }
}
