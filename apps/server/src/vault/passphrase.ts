import type { Sealed } from '@ulvane/contract';
import { SecretSchema, type Secret } from '@ulvane/core/record';
import { CompactEncrypt, compactDecrypt } from 'jose';
import { z } from 'zod';

const SecretsSchema = z.array(SecretSchema).max(1000);

/** The work factor that OWASP recommends for PBKDF2 with SHA-512. */
const rounds = 210_000;

/** Secrets as one JSON Web Encryption (RFC 7516) under a passphrase: PBES2-HS512+A256KW (RFC 7518, 4.8), A256GCM. */
export async function sealWithPassphrase(secrets: readonly Secret[], passphrase: string): Promise<Sealed> {
  const jwe = await new CompactEncrypt(new TextEncoder().encode(JSON.stringify(secrets)))
    .setProtectedHeader({ alg: 'PBES2-HS512+A256KW', enc: 'A256GCM' })
    .setKeyManagementParameters({ p2c: rounds })
    .encrypt(new TextEncoder().encode(passphrase));
  return { format: 'ulvane-secrets', version: 1, jwe };
}

/** The secrets again; null when the passphrase is another or the file is damaged. */
export async function openWithPassphrase(
  sealed: Sealed,
  passphrase: string,
): Promise<readonly Secret[] | null> {
  try {
    const { plaintext } = await compactDecrypt(sealed.jwe, new TextEncoder().encode(passphrase), {
      keyManagementAlgorithms: ['PBES2-HS512+A256KW'],
      contentEncryptionAlgorithms: ['A256GCM'],
      maxPBES2Count: rounds,
    });
    return SecretsSchema.parse(JSON.parse(new TextDecoder().decode(plaintext)));
  } catch {
    return null;
  }
}
