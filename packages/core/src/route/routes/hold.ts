import { releaseTitle, supportDaysLeft, supportedUntil } from '../../catalogue/find';
import { allows, type RouteDefinition, type RouteRule } from '../definition';

const holdIsAStopgap: RouteRule = {
  id: 'hold-is-a-stopgap',
  reads: ['presentRelease'],
  judge: ({ present, today }) => {
    if (!present) return allows('The device is taken off the network until it is known what it runs.');
    const left = supportDaysLeft(present, today);
    return left >= 0
      ? allows(
          `${releaseTitle(present)} still gets fixes for ${left} days, until ${supportedUntil(present) ?? 'further notice'}.`,
        )
      : allows(
          `${releaseTitle(present)} has had no security updates for ${-left} days: only off the network, and only until a date.`,
        );
  },
};

export const hold: RouteDefinition = {
  id: 'hold',
  title: 'Hold',
  about: 'Nothing is changed: the device is isolated until a date that a lead signs for.',
  hasTarget: false,
  concerns: () => false,
  rules: [holdIsAStopgap],
  keeps: ['everything'],
  loses: ['access to the network'],
  cautions: ['A system without fixes stays off the network for as long as the hold lasts.'],
  steps: ['copy', 'verify', 'isolate', 'end-date', 'sign-off'],
  terms: { dataRisk: 1, ownerEffort: 0.2, reversible: 1 },
  writesOver: 'nothing',
  houseRuleProfile: {},
  consent: [],
  supportShare: 1,
  cost: 0,
};
