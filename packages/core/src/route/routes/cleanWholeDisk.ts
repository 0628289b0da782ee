import type { RouteDefinition } from '../definition';
import { licenceFits } from '../rules/licence';
import { requirementsMet } from '../rules/requirements';
import { notForItself, notOlder, stillSupported } from '../rules/support';
import { cleanSteps } from './steps';

export const cleanWholeDisk: RouteDefinition = {
  id: 'clean-whole-disk',
  title: 'Clean install, whole disk',
  about: 'The disk is emptied and laid out anew; what was saved is restored.',
  hasTarget: true,
  concerns: ({ target, present }) => present === undefined || target?.release.family === present.family,
  rules: [notOlder, notForItself, stillSupported, requirementsMet, licenceFits],
  keeps: [],
  loses: ['everything on that disk'],
  cautions: ['Everything on the disk is erased: only what was copied and verified comes back.'],
  whenEmpty: { loses: [], cautions: [] },
  steps: cleanSteps,
  serves: new Set(['support-ends', 'start-clean', 'new-computer', 'changes-owner']),
  terms: { dataRisk: 0.4, ownerEffort: 0.5, reversible: 0.1 },
  writesOver: 'whole-disk',
  houseRuleProfile: { manner: 'start-clean', erase: 'whole-disk' },
  consent: [],
  supportShare: 1,
  cost: 0,
};
