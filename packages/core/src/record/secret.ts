import { z } from 'zod';

export const secretKinds = [
  'licence-key',
  'recovery-key',
  'wireless-key',
  'password',
  'certificate',
  'other',
] as const;
export type SecretKind = (typeof secretKinds)[number];

/** A secret with what it says: in memory and in sealed exports only. */
export const SecretSchema = z.strictObject({
  kind: z.enum(secretKinds),
  label: z.string().trim().min(1).max(100),
  value: z.string().min(1).max(8000),
});

export type Secret = z.infer<typeof SecretSchema>;
