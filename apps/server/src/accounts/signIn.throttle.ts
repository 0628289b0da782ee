import { Injectable } from '@nestjs/common';
import { ThrottlerGuard } from '@nestjs/throttler';
import type { Request } from 'express';

/** Counts tries by address and name together, so that one person's typing does not lock out a desk. */
@Injectable()
export class SignInThrottle extends ThrottlerGuard {
  protected override getTracker(request: Request): Promise<string> {
    const body: unknown = request.body;
    const name =
      typeof body === 'object' && body !== null && 'name' in body
        ? String(body.name).toLowerCase().slice(0, 60)
        : '';
    return Promise.resolve(`${request.ip ?? ''} ${name}`);
  }
}
