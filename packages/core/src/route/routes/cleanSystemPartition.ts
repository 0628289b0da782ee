import type { RouteDefinition } from '../definition';
import { dataApart, schemeSuits } from '../rules/disks';
import { licenceFits } from '../rules/licence';
import { requirementsMet } from '../rules/requirements';
import { notForItself, notOlder, stillSupported } from '../rules/support';
import { firstDays, handingOver, movingIn, paperwork, saving, startingFromStick } from './steps';

export const cleanSystemPartition: RouteDefinition = {
  id: 'clean-system-partition',
  title: 'Clean install, system partition only',
  about: 'Only the system partition is formatted; the data partitions stay, byte for byte.',
  hasTarget: true,
  concerns: ({ target, present, isEmpty }) =>
    !isEmpty && (present === undefined || target?.release.family === present.family),
  rules: [notOlder, notForItself, dataApart, stillSupported, requirementsMet, schemeSuits, licenceFits],
  keeps: ['all other partitions'],
  loses: ['everything on the system partition'],
  cautions: [
    'The right partition is identified by number, label and size: check all three on the installer’s page.',
  ],
  steps: [
    ...saving,
    ...paperwork,
    'fetch-image',
    'write-stick',
    'carry-drivers',
    'fast-start-off',
    'suspend-encryption',
    ...startingFromStick,
    'format-system',
    'install',
    'stick-out',
    ...firstDays,
    'activate',
    ...movingIn,
    ...handingOver,
  ],
  serves: new Set(['support-ends', 'start-clean']),
  terms: { dataRisk: 0.6, ownerEffort: 0.6, reversible: 0.2 },
  writesOver: 'system-partition',
  houseRuleProfile: { manner: 'start-clean', erase: 'system-partition' },
  consent: [],
  supportShare: 1,
  cost: 0,
};
