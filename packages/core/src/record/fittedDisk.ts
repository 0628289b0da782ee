import { standingOf } from '../runbook/signature';
import { fitStepId } from '../runbook/steps/fitPart';
import type { Move } from './move';

/** Why the disks that are known are no longer those of the device: one was fitted since. Undefined where none was. */
export function diskFittedSince({ signatures, facts, surveys }: Move): string | undefined {
  const { state, last } = standingOf(signatures, fitStepId('disk'));
  if (state !== 'signed' || !last) return undefined;
  const isLater = (at: string | undefined) => at !== undefined && Date.parse(at) > Date.parse(last.at);
  return isLater(facts.disks?.at) || isLater(surveys.at(-1)?.importedAt)
    ? undefined
    : 'A disk was fitted since the survey was taken: take it again on Survey. The new disk’s serial number and size are the ones that count from here on.';
}
