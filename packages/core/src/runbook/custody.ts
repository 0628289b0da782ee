import { copyCounts } from '../backup/copies/copies';
import type { Copy, DataSet, Destination } from '../backup/scope/dataSet';
import type { HouseRules } from '../rules/houseRules';
import { isSigned, type Signature } from './signature';
import type { Step } from './step';

type CustodyRow = {
  readonly dataSetId: string;
  /** Good copies before the first step, then after each step. */
  readonly counts: readonly number[];
};

type CustodyAlarm = { readonly dataSetId: string; readonly stepId: string; readonly sentence: string };

/** Ids of destinations whose copies do not count, such as a cloud by house rules. */
type Uncounted = ReadonlySet<string>;
const allCount: Uncounted = new Set();

function changeBy(step: Step, dataSetId: string, uncounted: Uncounted): number {
  return step.effects.reduce((sum, effect) => {
    if (!effect.dataSetIds.includes(dataSetId)) return sum;
    if (effect.kind === 'verified-copy' && uncounted.has(effect.destinationId)) return sum;
    return sum + (effect.kind === 'erased' ? -1 : 1);
  }, 0);
}

/** The destinations whose copies do not count, by house rules. */
export function uncountedOf(
  destinations: readonly Destination[],
  houseRules: Pick<HouseRules, 'cloudCopyCounts'>,
): ReadonlySet<string> {
  return new Set(
    destinations.filter((destination) => !copyCounts(destination, houseRules)).map(({ id }) => id),
  );
}

/**
 * How many good copies of each data set there are, step by step. The original counts as one; a copy
 * counts from the step that verifies it.
 * @example custodyOf(runbook.steps, sets)[0].counts // [1, 1, 2, 2, 1, 2]: copied, verified, erased, restored
 */
export function custodyOf(
  steps: readonly Step[],
  dataSets: readonly Pick<DataSet, 'id'>[],
  uncounted: Uncounted = allCount,
): readonly CustodyRow[] {
  return dataSets.map(({ id }) => {
    const counts = [1];
    for (const step of steps) counts.push((counts.at(-1) ?? 0) + changeBy(step, id, uncounted));
    return { dataSetId: id, counts };
  });
}

/**
 * How many good copies there are at this moment: what lies on the device, by the erasing and restoring steps that are
 * signed, and the copies that count now (see `countingCopies`). One that lost its verification no longer counts,
 * whatever was signed.
 * @returns data set → copies
 */
export function custodyNow(
  steps: readonly Step[],
  signatures: readonly Signature[],
  dataSets: readonly Pick<DataSet, 'id'>[],
  counting: readonly Copy[],
): ReadonlyMap<string, number> {
  const done = steps.filter(({ id }) => isSigned(signatures, id));
  return new Map(
    dataSets.map(({ id }) => {
      const onDevice = done
        .flatMap(({ effects }) => effects)
        .filter((effect) => effect.dataSetIds.includes(id))
        .reduce((sum, { kind }) => sum + (kind === 'erased' ? -1 : kind === 'restored' ? 1 : 0), 1);
      const elsewhere = counting.filter(({ dataSetId }) => dataSetId === id).length;
      return [id, onDevice + elsewhere];
    }),
  );
}

/** Every step at which a data set would be left without a good copy. */
export function custodyAlarms(
  steps: readonly Step[],
  dataSets: readonly Pick<DataSet, 'id' | 'name'>[],
  uncounted: Uncounted = allCount,
): readonly CustodyAlarm[] {
  return custodyOf(steps, dataSets, uncounted).flatMap(({ dataSetId, counts }) => {
    const at = counts.findIndex((count) => count < 1);
    const step = steps[at - 1];
    const name = dataSets.find(({ id }) => id === dataSetId)?.name ?? dataSetId;
    return at < 1 || !step
      ? []
      : [
          {
            dataSetId,
            stepId: step.id,
            sentence: `${name} would be lost at “${step.title}”: no verified copy that counts is planned. Let a destination take it, on Save.`,
          },
        ];
  });
}
