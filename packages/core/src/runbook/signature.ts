import { printCount } from '../quantity/count';
import { z } from 'zod';
import type { GateId, Runbook, Step } from './step';
import { InstantSchema } from '../quantity/daySchema';

/** One line of a step's history; lines are only ever added. */
/** What the installer's own page showed of the disk when the Line was crossed. */
export const CrossingSchema = z.strictObject({
  serialEnd: z.string().trim().min(4).max(128),
  /** As it stands there, in whichever GB. */
  sizeShown: z.number().positive(),
});
export type Crossing = z.infer<typeof CrossingSchema>;

export const SignatureSchema = z.strictObject({
  stepId: z.string(),
  /** The title that was signed, kept even when a later plan no longer has the step. */
  title: z.string(),
  /** A correction says what was wrong about a signature that stands. */
  action: z.enum(['start', 'sign', 'unsign', 'correct']),
  at: InstantSchema,
  by: z.string(),
  actualMinutes: z.number().min(0).max(100_000).nullable(),
  note: z.string().max(2000),
  crossing: CrossingSchema.exactOptional(),
});

export type Signature = z.infer<typeof SignatureSchema>;

/** The standing of a step by its last line: signed, started, or neither. */
export function standingOf(
  history: readonly Signature[],
  stepId: string,
): { readonly state: 'signed' | 'started' | 'open'; readonly last: Signature | undefined } {
  const last = history.findLast((line) => line.stepId === stepId && line.action !== 'correct');
  if (!last || last.action === 'unsign') return { state: 'open', last };
  return { state: last.action === 'sign' ? 'signed' : 'started', last };
}

export function isSigned(history: readonly Signature[], stepId: string): boolean {
  return standingOf(history, stepId).state === 'signed';
}

/** The step at the Line; undefined where a runbook has none. */
export function lineStep(runbook: Runbook | undefined): Step | undefined {
  return runbook?.lineIndex == null ? undefined : runbook.steps[runbook.lineIndex];
}

/** Whether any step at or below the Line has been signed. */
export function lineCrossed(runbook: Runbook, history: readonly Signature[]): boolean {
  return (
    runbook.lineIndex !== null &&
    runbook.steps.slice(runbook.lineIndex).some(({ id }) => isSigned(history, id))
  );
}

export type StepStanding = {
  readonly stepId: string;
  readonly state: 'signed' | 'waiting' | 'open' | 'locked';
  /** Why it is locked. */
  readonly reason: string | null;
};

/**
 * Where each step stands. Steps above the Line may be signed in any order, once the barrier before them is open. The first step at the
 * Line opens when every gate is green or overruled; below it each step waits for the one before.
 */
export function stepStandings(
  runbook: Runbook,
  history: readonly Signature[],
  closedGates: readonly { readonly id: GateId; readonly sentence: string }[],
  /** Why the barrier before a step is closed, by the step's id. */
  closedBarriers: ReadonlyMap<string, string> = new Map(),
): readonly StepStanding[] {
  const line = runbook.lineIndex ?? runbook.steps.length;
  const crossed = lineCrossed(runbook, history);
  return runbook.steps.map((step, index): StepStanding => {
    const { state } = standingOf(history, step.id);
    if (state === 'signed') return { stepId: step.id, state: 'signed', reason: null };
    if (state === 'started') return { stepId: step.id, state: 'waiting', reason: null };
    const lock =
      closedBarriers.get(step.id) ?? lockOf(index, line, crossed, runbook.steps, history, closedGates);
    return { stepId: step.id, state: lock === null ? 'open' : 'locked', reason: lock };
  });
}

function lockOf(
  index: number,
  line: number,
  crossed: boolean,
  steps: readonly Step[],
  history: readonly Signature[],
  closedGates: readonly { readonly sentence: string }[],
): string | null {
  if (index < line) return null;
  if (!crossed && closedGates.length > 0)
    return `${printCount(closedGates.length, 'gate')} ${closedGates.length === 1 ? 'is' : 'are'} closed. ${closedGates.map(({ sentence }) => sentence).join(' ')}`;
  const before = index > line ? steps.slice(line, index).find(({ id }) => !isSigned(history, id)) : undefined;
  return before ? `“${before.title}” comes first.` : null;
}
