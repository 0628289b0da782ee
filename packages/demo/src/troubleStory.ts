import { answerCause, detourSteps, openTroubleOf, signStep, startDetour } from '@ulvane/core/record';
import type { Step } from '@ulvane/core/runbook';
import type { Recorder } from './recorder';
import type { DemoTables } from './tables';

/**
 * What goes wrong before a step is signed, where the demo says so: the sign, the checks one after the other, and the
 * detour stop by stop.
 * @returns whether it still holds the runbook up
 */
export function tellTroubleAt(
  recorder: Recorder,
  technician: string,
  { troubles }: Pick<DemoTables, 'troubles'>,
  step: Step,
): boolean {
  const told = troubles.find(
    ({ reference, step: kind }) => reference === recorder.current.reference && kind === step.kind,
  );
  if (!told || recorder.current.troubles.length > 0) return openTroubleOf(recorder.current) !== undefined;
  const seen = { stepId: step.id, sign: told.sign, seenAt: recorder.now };
  for (const { causeId, answer, minutes } of told.answers) {
    recorder.wait(minutes);
    recorder.play(technician, (move, context) => answerCause(move, { ...seen, causeId, answer }, context));
  }
  const { detour } = told;
  if (detour === null) return true;
  recorder.wait(1);
  recorder.play(technician, (move, context) => startDetour(move, { ...seen, causeId: detour }, context));
  for (const stop of detourSteps(recorder.current)) {
    const minutes = stop.handsOn.likely + stop.waiting.likely;
    recorder.wait(minutes);
    recorder.play(technician, (move, context) =>
      signStep(move, stop.id, { actualMinutes: minutes, note: '' }, context),
    );
  }
  return false;
}
