import { z } from 'zod';
import { stepKinds } from '../rules/stepTimes';
import { routeIds } from '../route/definition';

const ThreePointSchema = z.strictObject({
  low: z.number().min(0),
  likely: z.number().min(0),
  high: z.number().min(0),
});

/** What a step does to the good copies of data sets; `custody` adds them up. */
export const EffectSchema = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('verified-copy'),
    destinationId: z.string(),
    dataSetIds: z.array(z.string()),
  }),
  z.strictObject({ kind: z.literal('erased'), dataSetIds: z.array(z.string()) }),
  z.strictObject({ kind: z.literal('restored'), dataSetIds: z.array(z.string()) }),
]);

export const gateIds = [
  'scope-stated',
  'copies-verified',
  'stick-apart',
  'recovery-key',
  'passphrase',
  'licence',
  'disk-identified',
  'capsule-kept',
  'power',
  'network-driver',
  'consents',
  'data-moved',
  'steps-above-signed',
  'plan-current',
] as const;

export const runbookStages = ['save', 'prepare', 'cross', 'settle', 'hand-over'] as const;

export const StepSchema = z.strictObject({
  /** Stable over re-planning, so that signatures stay with their step. */
  id: z.string(),
  kind: z.enum(stepKinds),
  stage: z.enum(runbookStages),
  title: z.string(),
  why: z.string(),
  caution: z.string().nullable(),
  /** What to see when it worked. */
  success: z.string(),
  handsOn: ThreePointSchema,
  waiting: ThreePointSchema,
  /** Something cannot be brought back after it. */
  destructive: z.boolean(),
  requiresLead: z.boolean(),
  effects: z.array(EffectSchema),
  /** What has to be proved before it, above the Line; absent where it risks nothing, and in plans of old. */
  barrier: z
    .strictObject({ gates: z.array(z.enum(gateIds)).min(1), dataSetIds: z.array(z.string()) })
    .exactOptional(),
  troubles: z.array(z.string()),
});

export const RunbookSchema = z.strictObject({
  routeId: z.enum(routeIds),
  releaseId: z.string().nullable(),
  title: z.string(),
  steps: z.array(StepSchema),
  /** Index of the first destructive step; null when the route has none. */
  lineIndex: z.int().min(0).nullable(),
  lineSentence: z.string().nullable(),
  gates: z.array(z.enum(gateIds)),
  /** The house rules that the plan followed, in sentences. */
  practice: z.array(z.string()),
});

export type Effect = z.infer<typeof EffectSchema>;
export type Step = z.infer<typeof StepSchema>;
export type RunbookStage = (typeof runbookStages)[number];
export type GateId = (typeof gateIds)[number];
export type Runbook = z.infer<typeof RunbookSchema>;
