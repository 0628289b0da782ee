import { Controller } from '@nestjs/common';
import { api, type Account } from '@ulvane/contract';
import { Actor, Input, Serves, type ActorOfRequest, type InputOf } from '../http/serves';
import { AccountsService } from './accounts.service';

@Controller()
export class AccountsController {
  constructor(private readonly accounts: AccountsService) {}

  @Serves(api.accounts)
  async list(): Promise<{ accounts: Account[] }> {
    return { accounts: await this.accounts.list() };
  }

  @Serves(api.addAccount)
  add(@Input(api.addAccount) { body }: InputOf<typeof api.addAccount>): Promise<Account> {
    return this.accounts.add(body.name, body.role, body.password);
  }

  @Serves(api.setAccount)
  set(
    @Input(api.setAccount) { body, params }: InputOf<typeof api.setAccount>,
    @Actor() actor: ActorOfRequest,
  ): Promise<Account> {
    return this.accounts.setDisabled(params.id ?? '', body.disabled, actor.name);
  }
}
