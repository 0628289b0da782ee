import { Module } from '@nestjs/common';
import { ThrottlerModule } from '@nestjs/throttler';
import { TypeOrmModule } from '@nestjs/typeorm';
import { HouseModule } from '../house/house.module';
import { AccountEntity } from './account.entity';
import { AccountsController } from './accounts.controller';
import { AccountsService } from './accounts.service';
import { SessionController } from './session.controller';

@Module({
  imports: [
    TypeOrmModule.forFeature([AccountEntity]),
    ThrottlerModule.forRoot([{ ttl: 60_000, limit: 10 }]),
    HouseModule,
  ],
  controllers: [AccountsController, SessionController],
  providers: [AccountsService],
  exports: [AccountsService],
})
export class AccountsModule {}
