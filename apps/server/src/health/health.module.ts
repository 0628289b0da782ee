import { Module } from '@nestjs/common';
import { Metrics } from '../http/metrics';
import { FleetModule } from '../moves/fleet/fleet.module';
import { HealthController } from './health.controller';

@Module({ imports: [FleetModule], controllers: [HealthController], providers: [Metrics], exports: [Metrics] })
export class HealthModule {}
