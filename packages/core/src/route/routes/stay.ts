import { releaseTitle, supportDaysLeft } from '../../catalogue/find';
import { allows, excludes, type RouteDefinition, type RouteRule } from '../definition';
import { fixesUntil } from '../rules/support';
import { unknown } from '../rules/unknownFact';
import { purposes } from '../wish';

const presentSupported: RouteRule = {
  id: 'present-supported',
  reads: ['presentRelease'],
  judge: ({ present, isEmpty, today }) => {
    if (isEmpty) return excludes('No system is on the device that could stay.');
    if (!present) return unknown('presentRelease', 'only a system that gets security updates can stay');
    const left = supportDaysLeft(present, today);
    return left >= 0
      ? allows(
          `${releaseTitle(present)} gets security updates${fixesUntil(present) || ' without an end date'}: nothing has to be done${fixesUntil(present)}.`,
        )
      : excludes(`${releaseTitle(present)} has had no security updates for ${-left} days.`);
  },
};

export const stay: RouteDefinition = {
  id: 'stay',
  title: 'Stay',
  about: 'Nothing has to be done until the security updates of the present system end.',
  hasTarget: false,
  concerns: () => false,
  rules: [presentSupported],
  keeps: ['everything'],
  loses: [],
  cautions: ['The day on which its security updates end is shown on Today: decide again before that day.'],
  steps: ['look-again', 'sign-off'],
  serves: new Set(purposes),
  terms: { dataRisk: 1, ownerEffort: 1, reversible: 1 },
  writesOver: 'nothing',
  houseRuleProfile: {},
  consent: [],
  supportShare: 1,
  cost: 0,
};
