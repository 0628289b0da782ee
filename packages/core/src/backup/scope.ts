import type { RouteDefinition } from '../route/definition';
import type { DataSet } from './dataSet';

/**
 * Whether a route erases a data set where it lies. `insured`: not by plan, and it is backed up all
 * the same.
 */
export function riskOf(
  dataSet: Pick<DataSet, 'place'>,
  writesOver: RouteDefinition['writesOver'],
): 'at-risk' | 'insured' {
  if (writesOver === 'nothing') return 'insured';
  if (writesOver === 'second-disk') return dataSet.place === 'other-disk' ? 'at-risk' : 'insured';
  if (dataSet.place === 'other-disk') return 'insured';
  if (writesOver === 'system-partition' && dataSet.place === 'data-partition') return 'insured';
  return 'at-risk';
}
