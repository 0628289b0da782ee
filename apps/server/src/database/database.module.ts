import { Global, Module } from '@nestjs/common';
import { Transactions } from './transactions';

/** The one way to open a transaction, for every folder. */
@Global()
@Module({ providers: [Transactions], exports: [Transactions] })
export class DatabaseModule {}
