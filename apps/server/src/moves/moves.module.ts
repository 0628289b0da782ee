import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { HouseModule } from '../house/house.module';
import { MoveEntity } from './move.entity';
import { MovesController } from './moves.controller';
import { MovesReader } from './moves.reader';
import { MovesWriter } from './moves.writer';
import { PlansReader } from './plans.reader';
import { PlanController } from './plan.controller';
import { RunbookController } from './runbook.controller';
import { TroublesController } from './troubles.controller';
import { Quarantine } from './quarantine';
import { RecordController } from './record.controller';
import { SurveyController } from './survey.controller';

@Module({
  imports: [TypeOrmModule.forFeature([MoveEntity]), HouseModule],
  controllers: [
    MovesController,
    SurveyController,
    PlanController,
    RunbookController,
    TroublesController,
    RecordController,
  ],
  providers: [MovesReader, MovesWriter, PlansReader, Quarantine],
  exports: [MovesReader, MovesWriter, Quarantine],
})
export class MovesModule {}
