import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { HouseModule } from '../house/house.module';
import { ServerSecret } from '../http/serverSecret';
import { AccountEntity } from './account.entity';
import { AccountsController } from './accounts.controller';
import { AccountsService } from './accounts.service';
import { ApiTokenEntity } from './apiToken.entity';
import { SessionController } from './session.controller';
import { Throttle } from './throttle';
import { SessionsService } from './sessions.service';
import { TokensService } from './tokens.service';

@Module({
  imports: [TypeOrmModule.forFeature([AccountEntity, ApiTokenEntity]), HouseModule],
  controllers: [AccountsController, SessionController],
  providers: [AccountsService, SessionsService, TokensService, Throttle, ServerSecret],
  exports: [AccountsService, TokensService, Throttle, ServerSecret],
})
export class AccountsModule {}
