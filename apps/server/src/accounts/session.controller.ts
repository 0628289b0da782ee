import { Controller, Req, Res, UseGuards } from '@nestjs/common';
import { Throttle } from '@nestjs/throttler';
import { api, type Account, type Session } from '@ulvane/contract';
import type { Request, Response } from 'express';
import { Clock } from '../clock/clock';
import { HouseService } from '../house/house.service';
import { refuse } from '../http/problem';
import { Input, Serves, type InputOf } from '../http/serves';
import { AccountsService } from './accounts.service';
import { SignInThrottle } from './signIn.throttle';

@Controller()
export class SessionController {
  constructor(
    private readonly accounts: AccountsService,
    private readonly house: HouseService,
    private readonly clock: Clock,
  ) {}

  @Serves(api.session)
  async read(@Req() request: Request): Promise<Session> {
    const signedIn = request.session.account ? await this.accounts.find(request.session.account.id) : null;
    return this.viewOf(signedIn && !signedIn.disabled ? signedIn : null);
  }

  @Serves(api.signIn)
  @UseGuards(SignInThrottle)
  @Throttle({ default: { limit: 10, ttl: 60_000 } })
  async signIn(
    @Input(api.signIn) { body }: InputOf<typeof api.signIn>,
    @Req() request: Request,
  ): Promise<Session> {
    const account = await this.accounts.check(body.name, body.password);
    if (!account) throw refuse(401, 'wrong-sign-in', 'Name and password do not fit together.');
    await this.begin(request, account);
    return this.viewOf(account);
  }

  @Serves(api.signOut)
  async signOut(
    @Req() request: Request,
    @Res({ passthrough: true }) response: Response,
  ): Promise<{ done: true }> {
    await new Promise<void>((resolve, reject) =>
      request.session.destroy((error: unknown) => (error ? reject(error) : resolve())),
    );
    response.clearCookie('ulvane');
    return { done: true };
  }

  @Serves(api.setUp)
  @UseGuards(SignInThrottle)
  @Throttle({ default: { limit: 10, ttl: 60_000 } })
  async setUp(
    @Input(api.setUp) { body }: InputOf<typeof api.setUp>,
    @Req() request: Request,
  ): Promise<Session> {
    await this.house.useSetUpToken(body.token, body.organisation);
    const account = await this.accounts.add(body.name, 'lead', body.password);
    await this.begin(request, account);
    return this.viewOf(account);
  }

  /** A new session id at sign-in, so that one planted before is worth nothing. */
  private async begin(request: Request, account: Account): Promise<void> {
    await new Promise<void>((resolve, reject) =>
      request.session.regenerate((error: unknown) => (error ? reject(error) : resolve())),
    );
    request.session.account = { id: account.id, name: account.name, role: account.role };
  }

  private async viewOf(account: Account | null): Promise<Session> {
    const organisation = await this.house.organisation();
    return {
      account: account && { name: account.name, role: account.role },
      organisation: organisation.name,
      demo: organisation.demo,
      setUp: organisation.setUp,
      now: this.clock.now(),
      pinned: this.clock.pinned,
    };
  }
}
