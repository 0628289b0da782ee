import { Injectable, type CanActivate, type ExecutionContext } from '@nestjs/common';
import { tokenNeed, type Endpoint } from '@ulvane/contract';
import type { Request } from 'express';
import { AccountsService } from './accounts.service';
import { TokensService } from './tokens.service';
import { refuse } from '../http/problem';
import { entryOf, type ActorOfRequest } from '../http/serves';

/** Lets a request through by the contract's access; a handler without an entry is never let through. */
@Injectable()
export class AccessGuard implements CanActivate {
  constructor(
    private readonly accounts: AccountsService,
    private readonly tokens: TokensService,
  ) {}

  async canActivate(context: ExecutionContext): Promise<boolean> {
    const entry = entryOf(context);
    if (!entry) return false;
    if (entry.access === 'anyone') return true;
    const request = context.switchToHttp().getRequest<Request>();
    const { authorization } = request.headers;
    const actor =
      authorization === undefined ? await this.ofSession(request) : await this.ofToken(authorization, entry);
    request.actor = actor;
    if (!entry.access.includes(actor.role))
      throw refuse(
        'role',
        actor.role === 'observer'
          ? 'Observers look and change nothing.'
          : `Only ${entry.access.join(' or ')} may do this.`,
      );
    return true;
  }

  private async ofSession(request: Request): Promise<ActorOfRequest> {
    const { account } = request.session;
    if (!account) throw refuse('not-signed-in', 'Sign in first.');
    // Read afresh: an account that was disabled, or whose role changed, is so at once.
    const current = await this.accounts.find(account.id);
    if (!current || current.disabled) throw refuse('not-signed-in', 'This account may not sign in any more.');
    const { id, name, role } = current;
    if (account.role !== role || account.name !== name) request.session.account = { id, name, role };
    return { id, name, role };
  }

  private async ofToken(authorization: string, entry: Endpoint): Promise<ActorOfRequest> {
    const [, token] = /^Bearer +(\S+)$/i.exec(authorization) ?? [];
    const owner = token === undefined ? null : await this.tokens.owner(token);
    if (!owner)
      throw refuse('unknown-token', 'This API token is unknown or revoked: make another under House.');
    const need = tokenNeed(entry);
    if (need === 'session')
      throw refuse('not-with-token', 'This is done by a person who has signed in, not with an API token.');
    const scopes = { read: ['read'], write: ['read', 'write'], vault: ['read', 'write', 'vault'] } as const;
    if (!scopes[owner.scope].some((scope) => scope === need))
      throw refuse('scope', `This API token is for “${owner.scope}”; “${need}” is needed here.`);
    const account = await this.accounts.find(owner.account.id);
    if (!account) throw refuse('unknown-token', 'The account of this API token is gone.');
    return { id: account.id, name: account.name, role: account.role };
  }
}
