import type { Release } from '../../catalogue/catalogue';
import { releaseTitle, supportDaysLeft, supportedUntil } from '../../catalogue/find';
import { allows, excludes, targetOf, type RouteRule } from '../definition';
import { wipesForItself } from '../wish';
import { unknown } from './unknownFact';

/** @example fixesUntil(release) // ' until 2027-10-12'; empty without an end */
export function fixesUntil(release: Release): string {
  const until = supportedUntil(release);
  return until === null ? '' : ` until ${until}`;
}

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
    if (context.isEmpty) return allows('No system is on the device that could be newer.');
    if (!context.present) return unknown('presentRelease', 'the target should not be older');
    return release.version >= context.present.version
      ? allows(`${releaseTitle(release)} is not older than the present system.`)
      : excludes(`${releaseTitle(release)} is older than the present system.`);
  },
};

/** A release that gets fixes is not wiped for itself, unless somebody wants just that. */
export const notForItself: RouteRule = {
  id: 'not-for-itself',
  reads: ['presentRelease'],
  judge: ({ present, isEmpty, target, today, wish }) => {
    if (!present)
      return isEmpty
        ? allows('No system is on the device yet.')
        : unknown('presentRelease', 'what runs already, with security updates, is not wiped for itself');
    if (target?.release.id !== present.id)
      return allows('The device would run another release than it does now.');
    if (supportDaysLeft(present, today) < 0)
      return allows(
        `${releaseTitle(present)} runs on the device already, and gets no security updates any more.`,
      );
    return wish && wipesForItself.has(wish.purpose)
      ? allows(`${releaseTitle(present)} runs on the device already, and is to be installed anew.`)
      : excludes(
          `${releaseTitle(present)} runs on the device already, and gets security updates${fixesUntil(present)}: wiping that system needs a reason, such as a clean start or another owner.`,
        );
  },
};
