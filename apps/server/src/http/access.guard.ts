import { Injectable, type CanActivate, type ExecutionContext } from '@nestjs/common';
import { Reflector } from '@nestjs/core';
import type { Endpoint } from '@ulvane/contract';
import type { Request } from 'express';
import { AccountsService } from '../accounts/accounts.service';
import { refuse } from './problem';
import { endpointKey } from './serves';

/** Lets a request through by the contract's access; a handler without an entry is never let through. */
@Injectable()
export class AccessGuard implements CanActivate {
  constructor(
    private readonly reflector: Reflector,
    private readonly accounts: AccountsService,
  ) {}

  async canActivate(context: ExecutionContext): Promise<boolean> {
    const entry = this.reflector.get<Endpoint | undefined>(endpointKey, context.getHandler());
    if (!entry) return false;
    if (entry.access === 'anyone') return true;
    const request = context.switchToHttp().getRequest<Request>();
    const { account } = request.session;
    if (!account) throw refuse(401, 'not-signed-in', 'Sign in first.');
    // Read afresh: an account that was disabled, or whose role changed, is so at once.
    const current = await this.accounts.find(account.id);
    if (!current || current.disabled)
      throw refuse(401, 'not-signed-in', 'This account may not sign in any more.');
    request.session.account = { id: current.id, name: current.name, role: current.role };
    if (!entry.access.includes(current.role))
      throw refuse(
        403,
        'role',
        current.role === 'observer'
          ? 'Observers look and change nothing.'
          : `Only ${entry.access.join(' or ')} may do this.`,
      );
    return true;
  }
}
