import { z } from 'zod';
import { InstantSchema } from '../quantity/daySchema';
import { StepSchema } from '../runbook/step';
import { troubleIds } from '../runbook/troubles';

export const causeAnswers = ['yes', 'no', 'cannot'] as const;
export type CauseAnswer = (typeof causeAnswers)[number];

const signed = { at: InstantSchema, by: z.string() };
const causeId = z.string().min(1).max(60);

/** Something that went wrong at a step: what was seen, what was checked, and the detours that were taken. */
export const TroubleCaseSchema = z.strictObject({
  /** In its move, from 1. */
  number: z.int().min(1),
  sign: z.enum(troubleIds),
  stepId: z.string(),
  stepTitle: z.string(),
  seenAt: InstantSchema,
  by: z.string(),
  /** Lines are only ever added; the last one about a cause counts. */
  answers: z
    .array(
      z.strictObject({
        ...signed,
        causeId,
        answer: z.enum(causeAnswers),
        /** Since the line before it, or since the sign was seen. */
        minutes: z.int().min(0),
      }),
    )
    .max(500),
  /** The one that is under way. */
  detour: z
    .strictObject({
      ...signed,
      /** In its move, from 1: the ids of its steps begin with it. */
      number: z.int().min(1),
      causeId,
      title: z.string(),
      steps: z.array(StepSchema).min(1).max(26),
      /** What undoes each of its steps that changes something, the last one first. */
      wayBack: z.array(z.strictObject({ stepId: z.string(), undo: z.string() })),
    })
    .nullable(),
  /** Detours that did not help: what they had changed was undone. */
  tried: z
    .array(
      z.strictObject({ ...signed, number: z.int().min(1), causeId, title: z.string(), reason: z.string() }),
    )
    .max(100),
  /** Null while it holds the runbook up. */
  closed: z
    .strictObject({
      ...signed,
      how: z.enum(['remedied', 'otherwise']),
      causeId: causeId.nullable(),
      note: z.string(),
    })
    .nullable(),
});

export type TroubleCase = z.infer<typeof TroubleCaseSchema>;

/** The last answer about each cause, by its id. */
export function answersOf({
  answers,
}: Pick<TroubleCase, 'answers'>): ReadonlyMap<string, TroubleCase['answers'][number]> {
  return new Map(answers.map((answer) => [answer.causeId, answer]));
}
