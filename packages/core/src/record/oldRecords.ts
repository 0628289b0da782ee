import { z } from 'zod';

const OldHandoverSchema = z.looseObject({
  backupPlace: z.string(),
  wipeOn: z.string().nullable(),
});
const OldMoveSchema = z.looseObject({
  handover: OldHandoverSchema,
  destinations: z.array(z.looseObject({ id: z.string(), name: z.string(), takes: z.array(z.string()) })),
});

/**
 * A record of before format version 2, brought up: the place and the last day of the backup stood
 * once for a move, and stand for each destination now. Anything else comes back as it is.
 */
export function upgradeRecord(record: unknown): unknown {
  const old = OldMoveSchema.safeParse(record);
  if (!old.success) return record;
  const { handover, destinations, ...rest } = old.data;
  const { backupPlace, wipeOn, ...newHandover } = handover;
  const retention =
    wipeOn === null
      ? []
      : destinations
          .filter(({ takes }) => takes.length > 0)
          .map(({ id, name }) => ({
            destinationId: id,
            label: name,
            place: backupPlace.trim() === '' ? 'not noted' : backupPlace,
            keepUntil: wipeOn,
            wiped: null,
          }));
  return { ...rest, destinations, handover: newHandover, retention };
}
