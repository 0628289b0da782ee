import { MeasuredCopySchema } from '@ulvane/core/backup';
import { catalogueKinds, CatalogueSchema } from '@ulvane/core/catalogue';
import { HouseRulesSchema } from '@ulvane/core/rules';
import { troubleIds } from '@ulvane/core/runbook';
import { dayReasons, MoveSchema, roles, stages } from '@ulvane/core/record';
import { factKeys } from '@ulvane/core/survey';
import { z } from 'zod';
import { tokenScopes } from './endpoint';

/** The version that the caller saw: a change of anything newer is refused (409). */
export const version = z.int().min(1);

export const MoveViewSchema = z.object({ version, move: MoveSchema });

const NextHandSchema = z.object({
  reference: z.string(),
  device: z.string(),
  site: z.string(),
  sentence: z.string(),
  at: z.string(),
  inMinutes: z.number(),
  daysLeft: z.int().nullable(),
  blockedBecause: z.string().nullable(),
});

const WipeDueSchema = z.object({
  reference: z.string(),
  device: z.string(),
  label: z.string(),
  place: z.string(),
  keepUntil: z.string(),
  daysLeft: z.int(),
});

export const TodaySchema = z.object({
  /** The first of them; `open` says how many there are. */
  hands: z.array(NextHandSchema),
  /** Moves that are not done, and those of them whose wait is not over. */
  open: z.int().min(0),
  running: z.int().min(0),
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
  /** Days on which somebody has to look at a device again, the first one in front. */
  ahead: z.array(
    z.object({
      reference: z.string(),
      device: z.string(),
      site: z.string(),
      day: z.string(),
      why: z.enum(dayReasons),
      daysLeft: z.int(),
    }),
  ),
  /** Backups that are to be wiped within a week, or should have been. */
  wipes: z.array(WipeDueSchema),
});

export const AccountSchema = z.object({
  id: z.string(),
  name: z.string(),
  role: z.enum(roles),
  disabled: z.boolean(),
  version,
});

export const ApiTokenSchema = z.object({
  id: z.uuid(),
  /** Whose it is: it may do what that person may, within its scope. */
  account: z.string(),
  name: z.string(),
  scope: z.enum(tokenScopes),
  /** The last four characters, to tell tokens apart. */
  ends: z.string(),
  createdAt: z.string(),
  lastUsedAt: z.string().nullable(),
  revokedAt: z.string().nullable(),
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
  houseRules: HouseRulesSchema,
  houseRulesVersion: version,
  catalogueVersion: version,
  /** Copies that were timed here, the newest first. */
  timedCopies: z.array(MeasuredCopySchema),
  /** How often each cause was found behind each sign. */
  troubleCounts: z.partialRecord(z.enum(troubleIds), z.record(z.string(), z.int().min(1))),
});

export const HouseRulesChangeSchema = z.object({
  at: z.string(),
  by: z.string(),
  /** What changed, a sentence each. */
  sentences: z.array(z.string()),
});

export const EntryChangeSchema = z.object({
  kind: z.enum(catalogueKinds),
  id: z.string(),
  title: z.string(),
  what: z.enum(['added', 'removed', 'changed']),
  fields: z.array(
    z.object({ path: z.string(), before: z.string().nullable(), after: z.string().nullable() }),
  ),
});

export const CatalogueChangeSchema = EntryChangeSchema.extend({ at: z.string(), by: z.string() });

const FactChangeSchema = z.object({
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
  /** Secrets that no key of this server opens; the vault is failing when there are any. */
  vault: z.object({ state: z.enum(['ok', 'wrong-key', 'unknown']), unopenable: z.int() }),
});

export type MoveView = z.infer<typeof MoveViewSchema>;
export type Today = z.infer<typeof TodaySchema>;
export type Account = z.infer<typeof AccountSchema>;
export type ApiToken = z.infer<typeof ApiTokenSchema>;
export type Session = z.infer<typeof SessionSchema>;
export type HouseView = z.infer<typeof HouseSchema>;
export type SurveyPreview = z.infer<typeof SurveyPreviewSchema>;
export type Health = z.infer<typeof HealthSchema>;
export type CatalogueChange = z.infer<typeof CatalogueChangeSchema>;
export type HouseRulesChange = z.infer<typeof HouseRulesChangeSchema>;
