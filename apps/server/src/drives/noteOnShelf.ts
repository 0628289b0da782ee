import { DriveSchema, type MediumContent } from '@ulvane/core/backup';
import { parseWith } from '@ulvane/core/outcome';
import type { EntityManager } from 'typeorm';
import { DriveEntity } from './drive.entity';

/**
 * Notes on the shelf what a move has written to a stick, in the transaction of the signature. A stick that is not in the
 * inventory, or is no installer stick, is left alone.
 */
export async function noteOnShelf(
  manager: EntityManager,
  {
    name,
    serial,
    content,
  }: { readonly name: string; readonly serial: string; readonly content: MediumContent },
  site: string,
): Promise<void> {
  const row = await manager.findOne(DriveEntity, {
    where: serial === '' ? { name } : { serial },
    lock: { mode: 'pessimistic_write' },
  });
  const drive = row && parseWith(DriveSchema, row.body);
  if (!row || !drive?.ok || drive.value.purpose !== 'installer') return;
  const body = parseWith(DriveSchema, {
    ...drive.value,
    // A stick is erased whole; on a drive the other volumes stay.
    holds: drive.value.kind === 'stick' ? [content] : [...drive.value.holds, content],
    seenOn: content.writtenOn,
    seenAt: site,
  });
  if (body.ok)
    await manager.update(DriveEntity, { id: row.id }, { version: row.version + 1, body: body.value });
}
