import { releaseTitle, supportDaysLeft, supportedUntil } from '../../catalogue/find';
import { allows, excludes, targetOf, type RouteRule } from '../definition';
import { unknown } from './unknownFact';

export const stillSupported: RouteRule = {
  id: 'still-supported',
  reads: [],
  judge: (context) => {
    const { release } = targetOf(context);
    const until = supportedUntil(release);
    if (until === null) return allows(`${releaseTitle(release)} gets fixes without an end date.`);
    return supportDaysLeft(release, context.today) >= 0
      ? allows(`${releaseTitle(release)} gets security updates until ${until}.`)
      : excludes(`${releaseTitle(release)} has had no security updates since ${until}.`);
  },
};

export const notOlder: RouteRule = {
  id: 'not-older',
  reads: ['presentRelease'],
  judge: (context) => {
    const { release } = targetOf(context);
    if (!context.present) return unknown('presentRelease', 'the target should not be older');
    return release.version >= context.present.version
      ? allows(`${releaseTitle(release)} is not older than the present system.`)
      : excludes(`${releaseTitle(release)} is older than the present system.`);
  },
};
