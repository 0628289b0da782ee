import { Module } from '@nestjs/common';
import { HouseModule } from '../house/house.module';
import { MovesModule } from '../moves/moves.module';
import { TodayController } from './today.controller';

@Module({ imports: [HouseModule, MovesModule], controllers: [TodayController] })
export class TodayModule {}
