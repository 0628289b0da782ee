import { Controller } from '@nestjs/common';
import { api, type Account, type ApiToken } from '@ulvane/contract';
import { Actor, Input, Serves, type ActorOfRequest, type InputOf } from '../http/serves';
import { AccountsService } from './accounts.service';
import { TokensService } from './tokens.service';

@Controller()
export class AccountsController {
  constructor(
    private readonly accounts: AccountsService,
    private readonly tokens: TokensService,
  ) {}

  @Serves(api.accounts)
  async list(): Promise<{ accounts: Account[] }> {
    return { accounts: await this.accounts.list() };
  }

  @Serves(api.addAccount)
  add(@Input() { body }: InputOf<typeof api.addAccount>, @Actor() actor: ActorOfRequest): Promise<Account> {
    return this.accounts.add(body.name, body.role, body.password, actor.name);
  }

  @Serves(api.setAccount)
  set(
    @Input() { body, params }: InputOf<typeof api.setAccount>,
    @Actor() actor: ActorOfRequest,
  ): Promise<Account> {
    return this.accounts.setDisabled(params.id, body.version, body.disabled, actor.name);
  }

  @Serves(api.offerReset)
  offerReset(
    @Input() { body, params }: InputOf<typeof api.offerReset>,
    @Actor() actor: ActorOfRequest,
  ): Promise<{ path: string; until: string }> {
    return this.accounts.offerReset(params.id, body.version, actor.name);
  }

  @Serves(api.apiTokens)
  async listTokens(@Actor() actor: ActorOfRequest): Promise<{ tokens: ApiToken[] }> {
    return { tokens: await this.tokens.list(actor) };
  }

  @Serves(api.addApiToken)
  async addToken(
    @Input() { body }: InputOf<typeof api.addApiToken>,
    @Actor() actor: ActorOfRequest,
  ): Promise<{ tokens: ApiToken[]; token: string }> {
    const token = await this.tokens.add(actor, body.name, body.scope);
    return { token, tokens: await this.tokens.list(actor) };
  }

  @Serves(api.revokeApiToken)
  async revokeToken(
    @Input() { params }: InputOf<typeof api.revokeApiToken>,
    @Actor() actor: ActorOfRequest,
  ): Promise<{ tokens: ApiToken[] }> {
    await this.tokens.revoke(actor, params.id);
    return { tokens: await this.tokens.list(actor) };
  }
}
