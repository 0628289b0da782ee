import { Module } from '@nestjs/common';
import { HouseModule } from '../../house/house.module';
import { MovesModule } from '../moves.module';
import { FleetController } from './fleet.controller';
import { FleetReader } from './fleet.reader';
import { FleetWriter } from './fleet.writer';
import { Reassessment } from './reassessment';

@Module({
  imports: [HouseModule, MovesModule],
  controllers: [FleetController],
  providers: [FleetReader, FleetWriter, Reassessment],
  exports: [Reassessment],
})
export class FleetModule {}
