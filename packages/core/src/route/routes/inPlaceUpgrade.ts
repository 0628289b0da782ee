import type { RouteDefinition } from '../definition';
import { diskSound, enoughFreeSpace, schemeSuits } from '../rules/disks';
import { licenceFits } from '../rules/licence';
import { requirementsMet } from '../rules/requirements';
import { stillSupported } from '../rules/support';
import { allowedJump, sameLanguage, sameWordSize } from '../rules/upgrade';
import { upgradeSteps } from './steps';

export const inPlaceUpgrade: RouteDefinition = {
  id: 'in-place-upgrade',
  title: 'In-place upgrade',
  about: 'The present system becomes the new one; files, settings and applications stay.',
  hasTarget: true,
  concerns: ({ target, present, isEmpty }) =>
    present === undefined
      ? !isEmpty
      : target?.release.family === present.family && target.release.id !== present.id,
  rules: [
    allowedJump,
    sameWordSize,
    sameLanguage,
    stillSupported,
    requirementsMet,
    enoughFreeSpace,
    diskSound,
    schemeSuits,
    licenceFits,
  ],
  keeps: ['files', 'settings', 'applications'],
  loses: ['the present system, once the days for going back are over'],
  cautions: ['Back up all the same: an upgrade that breaks off can leave neither system whole.'],
  steps: upgradeSteps,
  serves: new Set(['support-ends']),
  terms: { dataRisk: 0.8, ownerEffort: 0.9, reversible: 0.7 },
  writesOver: 'nothing',
  houseRuleProfile: { manner: 'keep' },
  consent: [],
  supportShare: 1,
  cost: 0,
};
