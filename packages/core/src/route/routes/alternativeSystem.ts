import { supportDaysLeft } from '../../catalogue/find';
import type { RouteDefinition } from '../definition';
import { applicationsHaveEquivalents } from '../rules/applications';
import { licenceFits } from '../rules/licence';
import { networkDriver } from '../rules/network';
import { requirementsMet } from '../rules/requirements';
import { stillSupported } from '../rules/support';
import { firstDaysAnew, handingOver, movingIn, paperwork, saving, startingFromStick } from './steps';

export const alternativeSystem: RouteDefinition = {
  id: 'alternative-system',
  title: 'Alternative system, whole disk',
  about: 'A system of another family takes the whole disk; applications are replaced by equivalents.',
  hasTarget: true,
  concerns: ({ target, present, isEmpty, today }) =>
    // On an empty computer every system is as good as any: none is an alternative.
    !isEmpty &&
    target !== undefined &&
    (present === undefined || target.release.family !== present.family) &&
    supportDaysLeft(target.release, today) >= 0,
  rules: [stillSupported, requirementsMet, licenceFits, applicationsHaveEquivalents, networkDriver],
  keeps: [],
  loses: ['everything on that disk', 'applications that have no equivalent'],
  cautions: ['Try it live from the stick with the owner before the Line: habits matter as much as files.'],
  steps: [
    ...saving,
    ...paperwork,
    'fetch-image',
    'write-stick',
    'try-live',
    'carry-drivers',
    'suspend-encryption',
    ...startingFromStick,
    'erase-disk',
    'install',
    'stick-out',
    ...firstDaysAnew,
    'activate',
    ...movingIn,
    ...handingOver,
  ],
  serves: new Set(['support-ends', 'another-instead', 'start-clean', 'new-computer', 'changes-owner']),
  terms: { dataRisk: 0.35, ownerEffort: 0.25, reversible: 0.1 },
  writesOver: 'whole-disk',
  houseRuleProfile: { manner: 'start-clean', belowMinimum: 'alternative' },
  consent: [],
  supportShare: 1,
  cost: 0,
};
