import { Module } from '@nestjs/common';
import { FilesModule } from '../files/files.module';
import { HouseModule } from '../house/house.module';
import { MovesModule } from '../moves/moves.module';
import { PaperController } from './paper.controller';

@Module({ imports: [MovesModule, FilesModule, HouseModule], controllers: [PaperController] })
export class PaperModule {}
