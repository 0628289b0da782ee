import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { HouseModule } from '../house/house.module';
import { MovesModule } from '../moves/moves.module';
import { Comparing } from './comparing';
import { DifferenceEntity } from './difference.entity';
import { DifferencesService } from './differences.service';
import { FileEntryEntity } from './fileEntry.entity';
import { FileListsReader } from './fileLists.reader';
import { FileListsWriter } from './fileLists.writer';
import { FilesController } from './files.controller';

@Module({
  imports: [TypeOrmModule.forFeature([FileEntryEntity, DifferenceEntity]), MovesModule, HouseModule],
  controllers: [FilesController],
  providers: [FileListsReader, FileListsWriter, Comparing, DifferencesService],
  exports: [DifferencesService],
})
export class FilesModule {}
