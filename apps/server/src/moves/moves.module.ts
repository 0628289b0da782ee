import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { HouseModule } from '../house/house.module';
import { EventEntity } from './event.entity';
import { MoveEntity } from './move.entity';
import { MovesController } from './moves.controller';
import { MovesReader } from './moves.reader';
import { MovesWriter } from './moves.writer';
import { PlanController } from './plan.controller';
import { RunbookController } from './runbook.controller';
import { SurveyController } from './survey.controller';

@Module({
  imports: [TypeOrmModule.forFeature([MoveEntity, EventEntity]), HouseModule],
  controllers: [MovesController, SurveyController, PlanController, RunbookController],
  providers: [MovesReader, MovesWriter],
  exports: [MovesReader, MovesWriter],
})
export class MovesModule {}
