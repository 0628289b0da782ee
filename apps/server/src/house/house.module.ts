import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { CatalogueEntryEntity } from './catalogueEntry.entity';
import { HouseController } from './house.controller';
import { HouseService } from './house.service';
import { OrganisationEntity } from './organisation.entity';

@Module({
  imports: [TypeOrmModule.forFeature([OrganisationEntity, CatalogueEntryEntity])],
  controllers: [HouseController],
  providers: [HouseService],
  exports: [HouseService],
})
export class HouseModule {}
