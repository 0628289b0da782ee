import { randomBytes } from 'node:crypto';
import { sign, unsign } from 'cookie-signature';
import type { Request, Response } from 'express';
import type { KnownAccount } from './accounts.service';

const cookieName = 'ulvane-browser';
const halfAYearMs = 180 * 24 * 60 * 60 * 1000;

/**
 * A browser that an account has signed in from carries a signed mark. While a name is throttled, because
 * somebody guesses, its owner is still let in from there. The mark changes with the password.
 */
export function markBrowser(
  request: Request,
  response: Response,
  { id, seal }: Pick<KnownAccount, 'id' | 'seal'>,
  secret: string,
): void {
  const browser = browserOf(request, secret)?.browser ?? randomBytes(9).toString('base64url');
  response.cookie(cookieName, sign(`${id}.${seal}.${browser}`, secret), {
    httpOnly: true,
    sameSite: 'strict',
    secure: request.secure,
    maxAge: halfAYearMs,
    path: '/api/v1',
  });
}

/** Whose mark the browser carries; null when none, or one that this house did not sign. */
export function browserOf(
  request: Request,
  secret: string,
): { readonly accountId: string; readonly seal: string; readonly browser: string } | null {
  const cookies = (request.headers.cookie ?? '').split(';').map((part) => part.trim());
  const own = cookies.find((part) => part.startsWith(`${cookieName}=`))?.slice(cookieName.length + 1);
  const text = own === undefined ? false : unsign(decodeSafely(own), secret);
  const [accountId, seal, browser] = text === false ? [] : text.split('.');
  return accountId && seal && browser ? { accountId, seal, browser } : null;
}

function decodeSafely(text: string): string {
  try {
    return decodeURIComponent(text);
  } catch {
    return '';
  }
}
