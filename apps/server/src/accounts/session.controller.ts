import { Controller, Inject, Req, Res } from '@nestjs/common';
import { api, type Account, type Session } from '@ulvane/contract';
import type { Request, Response } from 'express';
import { Clock } from '../clock/clock';
import { Transactions } from '../database/transactions';
import { HouseService } from '../house/house.service';
import { refuse } from '../http/problem';
import { Actor, Input, Serves, type ActorOfRequest, type InputOf } from '../http/serves';
import { ServerSecret } from '../http/serverSecret';
import { AccountsService, type KnownAccount } from './accounts.service';
import { browserOf, markBrowser } from './knownBrowser';
import { nameKeyOf } from './nameKey';
import { hashOf, refuseWeak } from './passwords';
import { Throttle } from './throttle';

@Controller()
export class SessionController {
  constructor(
    private readonly accounts: AccountsService,
    private readonly house: HouseService,
    private readonly throttle: Throttle,
    private readonly transactions: Transactions,
    @Inject(ServerSecret) private readonly secret: ServerSecret,
    private readonly clock: Clock,
  ) {}

  @Serves(api.session)
  async read(@Input() _input: InputOf<typeof api.session>, @Req() request: Request): Promise<Session> {
    const signedIn = request.session.account ? await this.accounts.find(request.session.account.id) : null;
    return this.viewOf(signedIn && !signedIn.disabled ? signedIn : null);
  }

  @Serves(api.signIn)
  async signIn(
    @Input() { body }: InputOf<typeof api.signIn>,
    @Req() request: Request,
    @Res({ passthrough: true }) response: Response,
  ): Promise<Session> {
    const counted = await this.countTry(request, body.name);
    const account = await this.accounts.check(body.name, body.password);
    if (!account) throw refuse('wrong-sign-in', 'Name and password do not fit together.');
    await this.throttle.forgive(counted);
    await this.begin(request, response, account);
    return this.viewOf(account);
  }

  /** By name and by address; in a browser that this very account has signed in from, by browser alone. */
  private async countTry(request: Request, name: string): Promise<Parameters<Throttle['count']>[0]> {
    const known = browserOf(request, await this.secret.value());
    const owner = known && (await this.accounts.known(known.accountId));
    const own = owner && owner.seal === known.seal && nameKeyOf(owner.name) === nameKeyOf(name);
    const counted = own
      ? ([{ what: 'browser', key: `${known.accountId} ${known.browser}` }] as const)
      : ([
          { what: 'address', key: request.ip ?? '' },
          { what: 'name', key: nameKeyOf(name) },
        ] as const);
    await this.throttle.count(counted);
    return counted;
  }

  @Serves(api.signOut)
  async signOut(
    @Input() _input: InputOf<typeof api.signOut>,
    @Req() request: Request,
    @Res({ passthrough: true }) response: Response,
  ): Promise<{ done: true }> {
    await new Promise<void>((resolve, reject) =>
      request.session.destroy((error: unknown) => (error ? reject(error) : resolve())),
    );
    response.clearCookie('ulvane');
    return { done: true };
  }

  /** Sets the house up: the link is used, and the first lead made, together or not at all. */
  @Serves(api.setUp)
  async setUp(
    @Input() { body }: InputOf<typeof api.setUp>,
    @Req() request: Request,
    @Res({ passthrough: true }) response: Response,
  ): Promise<Session> {
    await this.throttle.count([{ what: 'link', key: request.ip ?? '' }]);
    refuseWeak(body.password, body.name);
    const passwordHash = await hashOf(body.password);
    const account = await this.transactions.run(async (manager) => {
      await this.house.useSetUpToken(manager, body.token, body.organisation);
      return this.accounts.insert(manager, { name: body.name, role: 'lead', passwordHash }, body.name);
    });
    await this.begin(request, response, (await this.accounts.known(account.id)) ?? { ...account, seal: '' });
    return this.viewOf(account);
  }

  @Serves(api.changePassword)
  async changePassword(
    @Input() { body }: InputOf<typeof api.changePassword>,
    @Actor() actor: ActorOfRequest,
    @Req() request: Request,
    @Res({ passthrough: true }) response: Response,
  ): Promise<{ done: true }> {
    const counted = [{ what: 'browser', key: `${actor.id} password` }] as const;
    await this.throttle.count(counted);
    const known = await this.accounts.changePassword(actor.id, body.present, body.next, request.sessionID);
    await this.throttle.forgive(counted);
    markBrowser(request, response, known, await this.secret.value());
    return { done: true };
  }

  @Serves(api.resetPassword)
  async reset(
    @Input() { body }: InputOf<typeof api.resetPassword>,
    @Req() request: Request,
  ): Promise<{ done: true }> {
    await this.throttle.count([{ what: 'link', key: request.ip ?? '' }]);
    await this.accounts.reset(body.token, body.password);
    return { done: true };
  }

  /** A new session id at sign-in, so that one planted before is worth nothing. */
  private async begin(request: Request, response: Response, account: KnownAccount): Promise<void> {
    await new Promise<void>((resolve, reject) =>
      request.session.regenerate((error: unknown) => (error ? reject(error) : resolve())),
    );
    request.session.account = { id: account.id, name: account.name, role: account.role };
    // Stored before it is said: at the end of a request nobody would learn that it could not be.
    await new Promise<void>((resolve, reject) =>
      request.session.save((error: unknown) => (error ? reject(error) : resolve())),
    );
    markBrowser(request, response, account, await this.secret.value());
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
