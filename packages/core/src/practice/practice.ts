import { z } from 'zod';

/**
 * House practice: the organisation's chosen answer where good technicians differ.
 * Each setting is one entry; plans name the practice that they followed.
 */
export const PracticeSchema = z.strictObject({
  copiesBeforeLine: z.union([z.literal(1), z.literal(2)]),
  cloudCopyCounts: z.boolean(),
  otherDisks: z.enum(['unplug', 'tell-apart']),
  encryption: z.enum(['during-setup', 'after', 'off']),
  networkDuringSetup: z.enum(['online', 'offline']),
  account: z.enum(['organisation', 'online', 'local']),
  boot: z.enum(['menu-once', 'change-order']),
  stick: z.enum(['minimum', 'with-margin']),
  optionalUpdates: z.boolean(),
  keepBackupDays: z.int().min(1).max(3650),
  weights: z.strictObject({
    dataRisk: z.number().min(0).max(10),
    handsOn: z.number().min(0).max(10),
    elapsed: z.number().min(0).max(10),
    ownerEffort: z.number().min(0).max(10),
    money: z.number().min(0).max(10),
    support: z.number().min(0).max(10),
    reversible: z.number().min(0).max(10),
  }),
});

export type Practice = z.infer<typeof PracticeSchema>;

/** The careful school; every value can be changed by a lead. */
export const defaultPractice: Practice = {
  copiesBeforeLine: 2,
  cloudCopyCounts: false,
  otherDisks: 'tell-apart',
  encryption: 'after',
  networkDuringSetup: 'offline',
  account: 'organisation',
  boot: 'menu-once',
  stick: 'with-margin',
  optionalUpdates: false,
  keepBackupDays: 30,
  weights: { dataRisk: 5, handsOn: 3, elapsed: 1, ownerEffort: 3, money: 2, support: 4, reversible: 3 },
};
