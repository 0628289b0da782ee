import type { Copy } from '../backup/scope/dataSet';
import { printCount } from '../quantity/count';
import type { Step } from '../runbook/step';
import { hasCopy } from './copySignatures';
import type { Move } from './move';

/** A copy that somebody states to be good: nobody compared it here. */
export function statedCopy(dataSetId: string, destinationId: string, at: string, by: string): Copy {
  return { dataSetId, destinationId, verifiedAt: at, verifiedBy: by };
}

/** Why a copy cannot be stated by hand to be good: a comparison found that it is not. */
export function whyDiffers(
  move: Pick<Move, 'failedChecks' | 'dataSets' | 'destinations'>,
  dataSetId: string,
  destinationId: string,
): string | undefined {
  const failed = move.failedChecks.find(
    (one) => one.dataSetId === dataSetId && one.destinationId === destinationId,
  );
  if (!failed) return undefined;
  const set = move.dataSets.find(({ id }) => id === dataSetId)?.name ?? dataSetId;
  const on = move.destinations.find(({ id }) => id === destinationId)?.name ?? destinationId;
  return `${set} on ${on} differed in ${printCount(failed.count, 'file')} when it was compared: copy them again, and compare it again.`;
}

/** The copies that signing a step states: those that it is to verify and that nobody has compared. */
export function copiesStatedBy(
  { effects }: Pick<Step, 'effects'>,
  move: Move,
  at: string,
  by: string,
): readonly Copy[] {
  return effects.flatMap((effect) =>
    effect.kind === 'verified-copy'
      ? effect.dataSetIds
          .filter((dataSetId) => !hasCopy(move, dataSetId, effect.destinationId))
          .map((dataSetId) => statedCopy(dataSetId, effect.destinationId, at, by))
      : [],
  );
}
