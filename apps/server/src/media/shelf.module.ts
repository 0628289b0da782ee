import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { DrivesModule } from '../drives/drives.module';
import { HouseModule } from '../house/house.module';
import { MovesModule } from '../moves/moves.module';
import { ImageEntity } from './image.entity';
import { ShelfController } from './shelf.controller';
import { ShelfService } from './shelf.service';

@Module({
  imports: [TypeOrmModule.forFeature([ImageEntity]), DrivesModule, MovesModule, HouseModule],
  controllers: [ShelfController],
  providers: [ShelfService],
})
export class ShelfModule {}
