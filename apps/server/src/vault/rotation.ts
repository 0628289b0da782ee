import { randomBytes } from 'node:crypto';
import type { DataSource } from 'typeorm';
import { Transactions } from '../database/transactions';
import { readKeys, writeKeys, type KeySource } from './keyRing';
import { seal, unseal } from './sealing';
import { SecretEntity } from './secret.entity';
import { sealedContext } from './vault.service';

/**
 * Seals every secret anew. With a key file a new key is made first and written beside the old ones;
 * those are left off once every secret is sealed with the new one. With keys in the environment the
 * first is the new one.
 * @returns how many secrets were sealed anew
 */
export async function rotateVault(dataSource: DataSource, source: KeySource): Promise<number> {
  const old = readKeys(source);
  if (source.kind === 'file') writeKeys(source.path, [randomBytes(32), ...old.map(({ bytes }) => bytes)]);
  const keys = readKeys(source);
  const [newest] = keys;
  if (!newest) throw new Error('the vault has no key');
  const count = await new Transactions(dataSource).run(
    async (manager) => {
      // Nobody adds a secret with an old key meanwhile.
      await manager.query('LOCK TABLE secret IN EXCLUSIVE MODE');
      const rows = await manager.find(SecretEntity);
      for (const row of rows) {
        const text = unseal(row, sealedContext(row), keys);
        if (text === null)
          throw new Error(
            `the secret “${row.label}” was sealed with a key that is not here (${row.keyId}): nothing was changed`,
          );
        await manager.update(SecretEntity, { id: row.id }, seal(text, sealedContext(row), newest));
      }
      return rows.length;
    },
    { lockMs: 60_000 },
  );
  if (source.kind === 'file') writeKeys(source.path, [newest.bytes]);
  return count;
}
