import { releaseTitle, supportDaysLeft } from '../../catalogue/find';
import { allows, excludes, type RouteDefinition, type RouteRule } from '../definition';
import { fixesUntil } from '../rules/support';
import { purposes } from '../wish';

const holdIsAStopgap: RouteRule = {
  id: 'hold-is-a-stopgap',
  reads: ['presentRelease', 'model'],
  judge: ({ present, isEmpty, model, today }) => {
    if (isEmpty) return excludes('No system is on the device that could be held.');
    if (!present) return allows('The device is taken off the network until it is known what it runs.');
    const left = supportDaysLeft(present, today);
    if (left >= 0)
      return excludes(
        `${releaseTitle(present)} still gets security updates${fixesUntil(present) || ' without an end date'}: it can stay, on the network.`,
      );
    return allows(
      model?.lastRelease === present.id
        ? `${releaseTitle(present)} is the last release that the maker lets onto this model, and has had no security updates for ${-left} days: an exception with a last day, signed by a lead.`
        : `${releaseTitle(present)} has had no security updates for ${-left} days: only off the network, and only until a date.`,
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
  serves: new Set(purposes),
  terms: { dataRisk: 1, ownerEffort: 0.2, reversible: 1 },
  writesOver: 'nothing',
  houseRuleProfile: {},
  consent: [],
  supportShare: 1,
  cost: 0,
};
