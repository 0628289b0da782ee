import { Inject, Injectable } from '@nestjs/common';
import type { Account, Session } from '@ulvane/contract';
import type { Request, Response } from 'express';
import { Clock } from '../clock/clock';
import { HouseService } from '../house/house.service';
import { ServerSecret } from '../http/serverSecret';
import { AccountsService, type KnownAccount } from './accounts.service';
import { browserOf, markBrowser } from './knownBrowser';
import { nameKeyOf } from './nameKey';
import { Throttle } from './throttle';

/** Sessions of browsers: how one begins, how tries are counted, and what a page is told of it. */
@Injectable()
export class SessionsService {
  constructor(
    private readonly accounts: AccountsService,
    private readonly house: HouseService,
    private readonly throttle: Throttle,
    @Inject(ServerSecret) private readonly secret: ServerSecret,
    private readonly clock: Clock,
  ) {}

  /** By name and by address; in a browser that this very account has signed in from, by browser alone. */
  async countTry(request: Request, name: string): Promise<Parameters<Throttle['count']>[0]> {
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

  /** A new session id at sign-in, so that one planted before is worth nothing. */
  async begin(request: Request, response: Response, account: KnownAccount): Promise<void> {
    await new Promise<void>((resolve, reject) =>
      request.session.regenerate((error: unknown) => (error ? reject(error) : resolve())),
    );
    request.session.account = { id: account.id, name: account.name, role: account.role };
    // Stored before it is said: at the end of a request nobody would learn that it could not be.
    await new Promise<void>((resolve, reject) =>
      request.session.save((error: unknown) => (error ? reject(error) : resolve())),
    );
    await this.mark(request, response, account);
  }

  /** Ends the session, and takes its cookie away. */
  async end(request: Request, response: Response): Promise<void> {
    await new Promise<void>((resolve, reject) =>
      request.session.destroy((error: unknown) => (error ? reject(error) : resolve())),
    );
    response.clearCookie('ulvane');
  }

  /** Marks the browser as one that the account has signed in from. */
  async mark(request: Request, response: Response, account: KnownAccount): Promise<void> {
    markBrowser(request, response, account, await this.secret.value());
  }

  async viewOf(account: Account | null): Promise<Session> {
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
