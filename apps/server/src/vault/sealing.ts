import { createCipheriv, createDecipheriv, randomBytes } from 'node:crypto';
import type { VaultKey } from './keyRing';

type Sealed = { readonly keyId: string; readonly nonce: Buffer; readonly sealed: Buffer };

const tagBytes = 16;

/**
 * Encrypts with AES-256-GCM (NIST SP 800-38D): a fresh 96-bit nonce, the tag at the end. `context` is
 * bound to it: what is sealed for one secret of one move cannot be passed off as another's.
 */
export function seal(text: string, context: string, key: VaultKey): Sealed {
  const nonce = randomBytes(12);
  const cipher = createCipheriv('aes-256-gcm', key.bytes, nonce).setAAD(Buffer.from(context));
  const sealed = Buffer.concat([cipher.update(text, 'utf8'), cipher.final(), cipher.getAuthTag()]);
  return { keyId: key.id, nonce, sealed };
}

/** The text again; null when no key fits or it has been tampered with. */
export function unseal(
  { keyId, nonce, sealed }: Sealed,
  context: string,
  keys: readonly VaultKey[],
): string | null {
  const key = keys.find(({ id }) => id === keyId);
  if (!key || sealed.length < tagBytes) return null;
  try {
    const decipher = createDecipheriv('aes-256-gcm', key.bytes, nonce)
      .setAAD(Buffer.from(context))
      .setAuthTag(sealed.subarray(-tagBytes));
    return Buffer.concat([decipher.update(sealed.subarray(0, -tagBytes)), decipher.final()]).toString('utf8');
  } catch {
    return null;
  }
}
