import { z } from 'zod';

/** A disk that was chosen to be written. */
export const ChosenDiskSchema = z.strictObject({
  name: z.string().min(1).max(64),
  serial: z.string().max(128).nullable(),
});
export type ChosenDisk = z.infer<typeof ChosenDiskSchema>;

/** Room for a second system that was chosen: so many bytes, from that partition; null: a run that is free already. */
export const ChosenRoomSchema = z.strictObject({
  bytes: z.int().positive(),
  fromPartition: z.int().min(1).max(128).nullable(),
});
export type ChosenRoom = z.infer<typeof ChosenRoomSchema>;
