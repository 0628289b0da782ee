import { z } from 'zod';

/** Why a file stands in a list without a checksum. */
export const fileTroubles = ['unreadable', 'changed-while-read', 'link'] as const;
export type FileTrouble = (typeof fileTroubles)[number];

/**
 * One file of a list, as it travels in JSON Lines between page and server. What is not known is null
 * and stays unknown: a list without sizes says nothing about sizes.
 */
export const FileEntrySchema = z.strictObject({
  /** Below the folder that the list is of, with `/` between folders; any character but NUL in a name. */
  path: z.string().min(1).max(32_768),
  sizeBytes: z.int().min(0).nullable(),
  /** 64 hexadecimal digits, lower case. */
  sha256: z
    .string()
    .regex(/^[0-9a-f]{64}$/)
    .nullable(),
  /** Milliseconds since 1970, UTC. */
  modifiedMs: z.int().nullable(),
  trouble: z.enum(fileTroubles).nullable(),
});

export type FileEntry = z.infer<typeof FileEntrySchema>;
