import { Global, Module } from '@nestjs/common';
import { LogReader } from './logReader';
import { LogWriter } from './logWriter';

@Global()
@Module({ providers: [LogReader, LogWriter], exports: [LogReader, LogWriter] })
export class LogModule {}
