import { hash, verify } from '@node-rs/argon2';
import { dictionary } from '@zxcvbn-ts/language-common';
import { z } from 'zod';
import { refuse } from '../http/problem';
import { nameKeyOf } from './nameKey';

/** The passwords that are tried first, from a list of leaked ones. */
const common: ReadonlySet<string> = new Set(
  z.object({ passwords: z.array(z.string()) }).parse(dictionary).passwords,
);

/** The same letters over and over, a stretch of the keyboard, or a common word that is only lengthened. */
function isGuessable(password: string): boolean {
  const plain = password.toLowerCase();
  const bare = plain.replace(/[^\p{L}]+$/u, '').replace(/^[^\p{L}]+/u, '');
  return common.has(plain) || common.has(bare) || new Set(plain).size < 5;
}

/**
 * Refuses a password that would be among the first to be tried. How long it has to be, the contract says.
 * @param name whose it is: one's own name is no password
 */
export function refuseWeak(password: string, name: string, path = '/password'): void {
  const own = nameKeyOf(password).includes(nameKeyOf(name)) && nameKeyOf(password).length < name.length + 6;
  if (isGuessable(password) || own)
    throw refuse(
      'common-password',
      'This password is among the first that are tried: choose several words that do not belong together.',
      path,
    );
}

/** Argon2id is the package's default, with OWASP's memory and time. */
export function hashOf(password: string): Promise<string> {
  return hash(password.normalize('NFKC'));
}

/** A password typed on another keyboard may be composed otherwise: NIST SP 800-63B, 5.1.1.2, asks for one form. */
export async function fits(known: string, password: string): Promise<boolean> {
  return (await verify(known, password.normalize('NFKC'))) || (await verify(known, password));
}
