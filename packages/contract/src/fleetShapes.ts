import { verdicts } from '@ulvane/core/assess';
import { FitCellSchema, fitOrders, FitSchema } from '@ulvane/core/decide';
import { stages } from '@ulvane/core/record';
import { factKeys, listFields } from '@ulvane/core/survey';
import { z } from 'zod';

/** So many rows, or survey files, go in one request. */
export const rowsAtOnce = 500;
export const surveysAtOnce = 10;

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
  verdict: z.enum(verdicts),
  advice: z.string(),
  unlock: z.string().nullable(),
  /** Why its record cannot be read; null where it can. */
  unreadable: z.string().nullable(),
  /** What each release that still gets updates would take; only where the query asks for it. */
  fit: FitSchema.nullable(),
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
  'verdict',
  'advice',
] as const;

export const MoveListQuerySchema = z.object({
  search: z.string().max(200).default(''),
  stage: z.enum(['', ...stages]).default(''),
  site: z.string().max(100).default(''),
  route: z.string().max(60).default(''),
  device: z.string().max(200).default(''),
  /** Id of a release, as in the groups. */
  present: z.string().max(200).default(''),
  verdict: z.enum(['', ...verdicts]).default(''),
  unlock: z.string().max(300).default(''),
  /** `yes`: with what each release would take on each device. */
  fit: z.enum(['', 'yes']).default(''),
  sort: z.enum(sortKeys).default('reference'),
  order: z.enum(['asc', 'desc']).default('asc'),
  page: z.coerce.number().int().min(1).max(1_000_000).default(1),
  pageSize: z.coerce.number().int().min(1).max(200).default(50),
});

/** What a list is filtered by. */
const filters = {
  search: true,
  stage: true,
  site: true,
  route: true,
  device: true,
  present: true,
  verdict: true,
  unlock: true,
} as const;

export const FitTableQuerySchema = MoveListQuerySchema.pick(filters).extend({
  order: z.enum(fitOrders).default('cheapest'),
});

/** Kinds of devices against every release that still gets updates; see core's `FitTable`. */
export const FitTableSchema = z.object({
  columns: z.array(
    z.object({
      releaseId: z.string(),
      title: z.string(),
      until: z.string().nullable(),
      can: z.int(),
      cheapest: z.int(),
    }),
  ),
  rows: z.array(
    z.object({
      device: z.string(),
      present: z.string(),
      presentId: z.string(),
      count: z.int(),
      reference: z.string(),
      cheapest: z.string().nullable(),
      advice: z.string().nullable(),
      cells: z.record(z.string(), z.object({ cell: FitCellSchema, same: z.int() })),
    }),
  ),
  devices: z.int(),
  priced: z.int(),
  handsOnMinutes: z.number(),
  cost: z.number(),
  givenUp: z.array(z.object({ what: z.string(), devices: z.int() })),
  adviceElsewhere: z.int(),
  questions: z.array(
    z.object({
      fact: z.enum(factKeys),
      words: z.string(),
      cells: z.int(),
      devices: z.int(),
      reference: z.string(),
    }),
  ),
});

export const MoveListSchema = z.object({
  total: z.int(),
  rows: z.array(MoveRowSchema),
  sites: z.array(z.string()),
  routes: z.array(z.string()),
});

export const groupKeys = ['site', 'device', 'verdict', 'unlock', 'present'] as const;

export const FleetGroupSchema = z.object({
  /** What the list of moves is filtered by: of a present system its id. */
  key: z.string(),
  value: z.string(),
  count: z.int(),
  /** Days of support left, for present systems; null for none and for the other groups. */
  daysLeft: z.int().nullable(),
});

export const ShoppingLineSchema = z.object({
  part: z.string(),
  count: z.int(),
  references: z.array(z.string()),
});

export const ReassessmentSchema = z.object({ total: z.int(), waiting: z.int() });

/** Column of a list → field; empty: the column is left out. */
export const ListMappingSchema = z.record(z.string().max(200), z.enum(['', ...listFields]));

const problemShape = z.object({ code: z.string(), path: z.string(), sentence: z.string() });

export const RowOutcomeSchema = z.object({
  row: z.int(),
  outcome: z.enum(['new', 'updated', 'unchanged', 'refused']),
  reference: z.string().nullable(),
  problems: z.array(problemShape),
});

export const FileOutcomeSchema = z.object({
  name: z.string(),
  outcome: z.enum(['new', 'updated', 'refused']),
  device: z.string(),
  reference: z.string().nullable(),
  problems: z.array(problemShape),
});

export const ChoiceOutcomeSchema = z.object({
  reference: z.string(),
  device: z.string(),
  outcome: z.enum(['chosen', 'refused']),
  /** For a refusal why; for a choice what is worth a look, such as another route before it. */
  sentence: z.string(),
});

export type MoveRow = z.infer<typeof MoveRowSchema>;
export type MoveList = z.infer<typeof MoveListSchema>;
export type MoveListQuery = z.infer<typeof MoveListQuerySchema>;
export type FitTableView = z.infer<typeof FitTableSchema>;
export type FitTableQuery = z.infer<typeof FitTableQuerySchema>;
export type FleetGroup = z.infer<typeof FleetGroupSchema>;
export type ShoppingLine = z.infer<typeof ShoppingLineSchema>;
export type Reassessment = z.infer<typeof ReassessmentSchema>;
export type RowOutcome = z.infer<typeof RowOutcomeSchema>;
export type FileOutcome = z.infer<typeof FileOutcomeSchema>;
export type ChoiceOutcome = z.infer<typeof ChoiceOutcomeSchema>;
export type ListMapping = z.infer<typeof ListMappingSchema>;
