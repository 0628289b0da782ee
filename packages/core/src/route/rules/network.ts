import { valueOf } from '../../survey/facts';
import { allows, targetOf, type RouteRule } from '../definition';

export const networkDriver: RouteRule = {
  id: 'network-driver',
  reads: ['networkAdapters'],
  judge: (context) => {
    const { release } = targetOf(context);
    const adapters = valueOf(context.facts, 'networkAdapters');
    if (adapters === undefined) return allows('Try the network on the live system before the Line.');
    return adapters.some(({ driver }) => driver !== undefined && release.bundledDrivers.includes(driver))
      ? allows('The driver of a network adapter comes with the release.')
      : allows('No network driver is known to come with the release: carry one over.');
  },
};
