import type { Step, TroubleId } from '@ulvane/core/runbook';

/** Where the causes of a sign at a step are looked up. */
export function troublePath(reference: string, stepId: string, sign: TroubleId): string {
  return `/moves/${reference}/trouble/${encodeURIComponent(stepId)}/${sign}`;
}

/** Where the runbook is read at a step of that stage. */
export function runbookPath(reference: string, stage: Step['stage'] | undefined): string {
  return `/moves/${reference}/${stage === 'settle' || stage === 'hand-over' ? 'settle' : 'cross'}`;
}
