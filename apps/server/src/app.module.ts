import { Module, RequestMethod, type DynamicModule } from '@nestjs/common';
import { APP_FILTER, APP_GUARD, APP_INTERCEPTOR } from '@nestjs/core';
import { TypeOrmModule } from '@nestjs/typeorm';
import { LoggerModule } from 'nestjs-pino';
import { AccountsModule } from './accounts/accounts.module';
import { ClockModule } from './clock/clock.module';
import { CollectorModule } from './collector/collector.module';
import { DatabaseModule } from './database/database.module';
import { dataSourceOptions } from './database/dataSource';
import { HealthModule } from './health/health.module';
import { HouseModule } from './house/house.module';
import { AccessGuard } from './accounts/access.guard';
import { BodyInterceptor } from './http/body.interceptor';
import { ProblemFilter } from './http/problem.filter';
import { DrivesModule } from './drives/drives.module';
import { ShelfModule } from './media/shelf.module';
import { FilesModule } from './files/files.module';
import { FleetModule } from './moves/fleet/fleet.module';
import { LogModule } from './log/log.module';
import { MovesModule } from './moves/moves.module';
import { PaperModule } from './paper/paper.module';
import type { Settings } from './settings';
import { TodayModule } from './today/today.module';
import { VaultModule } from './vault/vault.module';
import { ThreadsModule } from './threads/threads.module';

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
              // What a driver hangs on its errors (queries, parameters, sockets) is not for the log.
              err: ({ name, message, stack }: Error) => ({
                type: name,
                message: message.slice(0, 500),
                stack: (stack ?? '').split('\n').slice(0, 12).join('\n'),
              }),
            },
          },
        }),
        TypeOrmModule.forRoot({ ...dataSourceOptions(settings.databaseUrl), retryAttempts: 2 }),
        ClockModule.at(settings.now),
        DatabaseModule,
        LogModule,
        ThreadsModule,
        AccountsModule,
        HouseModule,
        MovesModule,
        FleetModule,
        FilesModule,
        PaperModule,
        DrivesModule,
        ShelfModule,
        VaultModule.from(settings.vault),
        TodayModule,
        CollectorModule,
        HealthModule,
      ],
      providers: [
        { provide: APP_GUARD, useClass: AccessGuard },
        { provide: APP_INTERCEPTOR, useClass: BodyInterceptor },
        { provide: APP_FILTER, useClass: ProblemFilter },
      ],
    };
  }
}
