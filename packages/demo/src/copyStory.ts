import type { CopyCheck, Destination } from '@ulvane/core/backup';
import { sampleSizeFor } from '@ulvane/core/manifest';
import { recordCheck } from '@ulvane/core/record';
import type { Step } from '@ulvane/core/runbook';
import type { Recorder } from './recorder';

/** Of a sample: it finds one bad file in a hundred with this chance. */
const confidence = 0.95;
/** Data sets of fewer files than this are not sampled. */
const fewFiles = 500;

/** The first destination is compared in full; on the others, large data sets are sampled. */
function checkOf(fileCount: number, isFirst: boolean): CopyCheck {
  if (isFirst || fileCount < fewFiles) return { method: 'full', files: fileCount };
  return {
    method: 'sample',
    files: sampleSizeFor(fileCount, Math.round(fileCount / 100), confidence),
    ofFiles: fileCount,
  };
}

/**
 * Compares the copies that a step verifies, as it is done on Save.
 * @param stated ids of data sets that are left to the statement that signing the step makes
 */
export function compareCopies(
  recorder: Recorder,
  technician: string,
  { effects }: Pick<Step, 'effects'>,
  stated: readonly string[],
): void {
  for (const effect of effects) {
    if (effect.kind !== 'verified-copy') continue;
    const isFirst = recorder.current.destinations[0]?.id === effect.destinationId;
    for (const dataSetId of effect.dataSetIds) {
      const dataSet = recorder.current.dataSets.find(({ id }) => id === dataSetId);
      if (!dataSet || (!isFirst && stated.includes(dataSetId))) continue;
      compareCopy(recorder, technician, dataSet, effect.destinationId, isFirst);
    }
  }
}

/** Compares one copy that is not recorded yet. */
export function compareCopy(
  recorder: Recorder,
  technician: string,
  { id: dataSetId, fileCount }: { readonly id: string; readonly fileCount: number },
  destinationId: Destination['id'],
  isFirst: boolean,
): void {
  const has = recorder.current.copies.some(
    (copy) => copy.dataSetId === dataSetId && copy.destinationId === destinationId,
  );
  if (has) return;
  recorder.play(technician, (move, context) =>
    recordCheck(
      move,
      { dataSetId, destinationId, check: checkOf(fileCount, isFirst), count: 0, files: [] },
      context,
    ),
  );
}
