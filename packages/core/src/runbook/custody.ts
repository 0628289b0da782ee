import type { DataSet } from '../backup/dataSet';
import type { Step } from './step';

export type CustodyRow = {
  readonly dataSetId: string;
  /** Good copies before the first step, then after each step. */
  readonly counts: readonly number[];
};

export type CustodyAlarm = { readonly dataSetId: string; readonly stepId: string; readonly sentence: string };

function changeBy(step: Step, dataSetId: string): number {
  return step.effects.reduce((sum, effect) => {
    if (!effect.dataSetIds.includes(dataSetId)) return sum;
    return sum + (effect.kind === 'erased' ? -1 : 1);
  }, 0);
}

/**
 * How many good copies of each data set there are, step by step. The original counts as one; a copy
 * counts from the step that verifies it.
 * @example custodyOf(runbook.steps, sets)[0].counts // [1, 1, 2, 2, 1, 2]: copied, verified, erased, restored
 */
export function custodyOf(
  steps: readonly Step[],
  dataSets: readonly Pick<DataSet, 'id'>[],
): readonly CustodyRow[] {
  return dataSets.map(({ id }) => {
    const counts = [1];
    for (const step of steps) counts.push((counts.at(-1) ?? 0) + changeBy(step, id));
    return { dataSetId: id, counts };
  });
}

/** Every step at which a data set would be left without a good copy. */
export function custodyAlarms(
  steps: readonly Step[],
  dataSets: readonly Pick<DataSet, 'id' | 'name'>[],
): readonly CustodyAlarm[] {
  return custodyOf(steps, dataSets).flatMap(({ dataSetId, counts }) => {
    const at = counts.findIndex((count) => count < 1);
    const step = steps[at - 1];
    const name = dataSets.find(({ id }) => id === dataSetId)?.name ?? dataSetId;
    return at < 1 || !step
      ? []
      : [
          {
            dataSetId,
            stepId: step.id,
            sentence: `${name} would be lost at “${step.title}”: no verified copy is planned. Let a destination take it, on Save.`,
          },
        ];
  });
}
