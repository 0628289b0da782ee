import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { CatalogueController } from './catalogue.controller';
import { CatalogueService } from './catalogue.service';
import { CatalogueChangeEntity } from './catalogueChange.entity';
import { CatalogueEntryEntity } from './catalogueEntry.entity';
import { HouseController } from './house.controller';
import { HouseService } from './house.service';
import { OrganisationEntity } from './organisation.entity';

@Module({
  imports: [TypeOrmModule.forFeature([OrganisationEntity, CatalogueEntryEntity, CatalogueChangeEntity])],
  controllers: [HouseController, CatalogueController],
  providers: [HouseService, CatalogueService],
  exports: [HouseService],
})
export class HouseModule {}
