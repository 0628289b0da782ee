import type { RouteDefinition } from '../../route/definition';
import type { DataSet } from './dataSet';

/** At risk: erased by the route's plan. Insured: kept by it, and backed up as well. */
export type Risk = 'at-risk' | 'insured';

/** Whether a route erases a data set where it is. */
export function riskOf(dataSet: Pick<DataSet, 'place'>, writesOver: RouteDefinition['writesOver']): Risk {
  if (writesOver === 'nothing') return 'insured';
  if (writesOver === 'second-disk') return dataSet.place === 'other-disk' ? 'at-risk' : 'insured';
  if (dataSet.place === 'other-disk') return 'insured';
  if (writesOver === 'system-partition' && dataSet.place === 'data-partition') return 'insured';
  return 'at-risk';
}
