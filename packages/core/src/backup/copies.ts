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
  /** Set when only a sample of every verified copy was compared. */
  readonly onlySampled: boolean;
};

/** Whether a copy on a destination counts: one on a cloud only where house practice says so. */
export function copyCounts(
  { kind }: Pick<Destination, 'kind'>,
  { cloudCopyCounts }: Pick<Practice, 'cloudCopyCounts'>,
): boolean {
  return kind !== 'cloud' || cloudCopyCounts;
}

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
  const counting = destinations.filter((destination) => copyCounts(destination, practice));
  return dataSets.map((dataSet) => {
    const risk = riskOf(dataSet, writesOver);
    const copyOn = (destination: Destination) =>
      copies.find((copy) => copy.dataSetId === dataSet.id && copy.destinationId === destination.id);
    const verified = counting.flatMap((destination) => copyOn(destination) ?? []);
    return {
      dataSetId: dataSet.id,
      risk,
      verified: verified.length,
      onlySampled: verified.length > 0 && verified.every(({ check }) => check?.method === 'sample'),
      planned: counting.filter(({ takes }) => takes.includes(dataSet.id)).length,
      needed: risk === 'at-risk' ? practice.copiesBeforeLine : 1,
    };
  });
}
