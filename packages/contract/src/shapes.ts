import { CatalogueSchema, factKeys, MoveSchema, PracticeSchema, roles, stages } from '@ulvane/core';
import { z } from 'zod';

/** The version that the caller saw: a change of anything newer is refused (409). */
export const version = z.int().min(1);

export const MoveViewSchema = z.object({ version, move: MoveSchema });

export const MoveRowSchema = z.object({
  reference: z.string(),
  device: z.string(),
  serial: z.string(),
  owner: z.string(),
  site: z.string(),
  stage: z.enum(stages),
  route: z.string(),
  target: z.string(),
  present: z.string(),
  dueOn: z.string().nullable(),
  supportedUntil: z.string().nullable(),
  next: z.string(),
});

export const sortKeys = [
  'reference',
  'device',
  'serial',
  'owner',
  'site',
  'stage',
  'route',
  'target',
  'present',
  'dueOn',
] as const;

export const MoveListQuerySchema = z.object({
  search: z.string().max(200).default(''),
  stage: z.enum(['', ...stages]).default(''),
  site: z.string().max(100).default(''),
  route: z.string().max(60).default(''),
  sort: z.enum(sortKeys).default('reference'),
  order: z.enum(['asc', 'desc']).default('asc'),
  page: z.coerce.number().int().min(1).default(1),
  pageSize: z.coerce.number().int().min(1).max(200).default(50),
});

export const MoveListSchema = z.object({
  total: z.int(),
  rows: z.array(MoveRowSchema),
  sites: z.array(z.string()),
  routes: z.array(z.string()),
});

export const NextHandSchema = z.object({
  reference: z.string(),
  device: z.string(),
  site: z.string(),
  sentence: z.string(),
  at: z.string(),
  inMinutes: z.number(),
  daysLeft: z.int().nullable(),
  blockedBecause: z.string().nullable(),
});

export const TodaySchema = z.object({
  hands: z.array(NextHandSchema),
  stages: z.array(z.object({ stage: z.enum(stages), count: z.int() })),
  /** Present systems of moves that are not done, with the days until their fixes end. */
  countdown: z.array(
    z.object({
      release: z.string(),
      supportedUntil: z.string().nullable(),
      daysLeft: z.int().nullable(),
      count: z.int(),
    }),
  ),
});

export const AccountSchema = z.object({
  id: z.string(),
  name: z.string(),
  role: z.enum(roles),
  disabled: z.boolean(),
});

export const SessionSchema = z.object({
  account: z.object({ name: z.string(), role: z.enum(roles) }).nullable(),
  organisation: z.string(),
  demo: z.boolean(),
  /** False until the first lead has set the organisation up. */
  setUp: z.boolean(),
  /** The server's clock, so that the page counts down by the same one. */
  now: z.string(),
  pinned: z.boolean(),
});

export const HouseSchema = z.object({
  catalogue: CatalogueSchema,
  practice: PracticeSchema,
  practiceVersion: version,
});

export const FactChangeSchema = z.object({
  key: z.enum(factKeys),
  label: z.string(),
  before: z.string().nullable(),
  after: z.string(),
});

export const SurveyPreviewSchema = z.object({
  device: z.string(),
  takenAt: z.string(),
  changes: z.array(FactChangeSchema),
  /** A move of a device with the same serial, when there is one. */
  sameSerial: z.string().nullable(),
});

export const HealthSchema = z.object({
  status: z.enum(['ok', 'failing']),
  database: z.enum(['up', 'down']),
  migrations: z.object({ done: z.int(), pending: z.int() }),
});

export type MoveView = z.infer<typeof MoveViewSchema>;
export type MoveRow = z.infer<typeof MoveRowSchema>;
export type MoveList = z.infer<typeof MoveListSchema>;
export type MoveListQuery = z.infer<typeof MoveListQuerySchema>;
export type Today = z.infer<typeof TodaySchema>;
export type Account = z.infer<typeof AccountSchema>;
export type Session = z.infer<typeof SessionSchema>;
export type HouseView = z.infer<typeof HouseSchema>;
export type SurveyPreview = z.infer<typeof SurveyPreviewSchema>;
export type Health = z.infer<typeof HealthSchema>;
