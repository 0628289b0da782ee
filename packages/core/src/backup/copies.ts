import type { Practice } from '../practice/practice';
import type { RouteDefinition } from '../route/definition';
import type { Copy, DataSet, Destination } from './dataSet';
import { riskOf } from './scope';

export type CopiesOfDataSet = {
  readonly dataSetId: string;
  readonly risk: 'at-risk' | 'insured';
  /** Verified copies that count by house practice. */
  readonly verified: number;
  /** Destinations that are to take it and count. */
  readonly planned: number;
  readonly needed: number;
};

/**
 * Good copies of each data set against those needed before the Line. A route that erases nothing
 * needs one all the same; a copy on a cloud destination counts only where house practice says so.
 */
export function copiesOf(
  dataSets: readonly DataSet[],
  destinations: readonly Destination[],
  copies: readonly Copy[],
  writesOver: RouteDefinition['writesOver'],
  practice: Practice,
): readonly CopiesOfDataSet[] {
  const counting = destinations.filter(({ kind }) => kind !== 'cloud' || practice.cloudCopyCounts);
  return dataSets.map((dataSet) => {
    const risk = riskOf(dataSet, writesOver);
    const has = (destination: Destination) =>
      copies.some((copy) => copy.dataSetId === dataSet.id && copy.destinationId === destination.id);
    return {
      dataSetId: dataSet.id,
      risk,
      verified: counting.filter(has).length,
      planned: counting.filter(({ takes }) => takes.includes(dataSet.id)).length,
      needed: risk === 'at-risk' ? practice.copiesBeforeLine : 1,
    };
  });
}
