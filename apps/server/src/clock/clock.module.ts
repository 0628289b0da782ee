import { Global, Module, type DynamicModule } from '@nestjs/common';
import { Clock } from './clock';

@Global()
@Module({})
export class ClockModule {
  static at(pinnedAt: string | null): DynamicModule {
    return {
      module: ClockModule,
      providers: [{ provide: Clock, useValue: new Clock(pinnedAt) }],
      exports: [Clock],
    };
  }
}
