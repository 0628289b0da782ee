import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { MovesModule } from '../moves/moves.module';
import { DriveEntity } from './drive.entity';
import { DrivesController } from './drives.controller';
import { DrivesService } from './drives.service';

@Module({
  imports: [TypeOrmModule.forFeature([DriveEntity]), MovesModule],
  controllers: [DrivesController],
  providers: [DrivesService],
  exports: [DrivesService],
})
export class DrivesModule {}
