import { supportDaysLeft } from '../../catalogue/find';
import type { RouteContext, RouteDefinition } from '../definition';
import { workCanMove } from '../rules/applications';
import { entryFree, roomBeside, schemeAgrees, secondDiskThere } from '../rules/beside';
import { diskSound } from '../rules/disks';
import { licenceFits } from '../rules/licence';
import { requirementsMet } from '../rules/requirements';
import { stillSupported } from '../rules/support';
import { handingOver, paperwork, saving } from './steps';

const another = ({ target, present, isEmpty, today }: RouteContext) =>
  !isEmpty &&
  target !== undefined &&
  target.release.id !== present?.id &&
  supportDaysLeft(target.release, today) >= 0;

const stillThere =
  'The present system stays: from the day on which its security updates end it is kept off the network, and started only for what cannot be done otherwise.';

const besidePurposes: RouteDefinition['serves'] = new Set(['support-ends', 'another-beside', 'trial']);

export const besideSameDisk: RouteDefinition = {
  id: 'beside-same-disk',
  title: 'Side by side, same disk',
  about: 'The system partition shrinks from inside the running system; the second system gets the room.',
  hasTarget: true,
  concerns: another,
  rules: [
    stillSupported,
    requirementsMet,
    roomBeside,
    schemeAgrees,
    entryFree,
    diskSound,
    licenceFits,
    workCanMove,
  ],
  keeps: ['the present system, with files, settings and applications'],
  loses: ['space'],
  cautions: [stillThere, 'Fast start off and encryption suspended first: a locked partition cannot shrink.'],
  steps: [
    ...saving,
    ...paperwork,
    'fetch-image',
    'write-stick',
    'carry-drivers',
    'recovery-medium',
    'fast-start-off',
    'suspend-encryption',
    'charger',
    'other-disks',
    'identify-disk',
    'firmware',
    'shrink-system',
    'start-from-stick',
    'install-beside',
    'stick-out',
    'first-start',
    'other-disks-back',
    'boot-menu',
    'updates',
    'optional-updates',
    'drivers',
    'activate',
    'firewall',
    'isolate-old-system',
    'resume-encryption',
    'applications',
    'encrypt',
    'habits',
    'boot-order-back',
    ...handingOver,
  ],
  serves: besidePurposes,
  terms: { dataRisk: 0.7, ownerEffort: 0.2, reversible: 0.8 },
  houseRuleProfile: {},
  writesOver: 'nothing',
  consent: [],
  supportShare: 0.4,
  cost: 0,
};

export const besideSecondDisk: RouteDefinition = {
  id: 'beside-second-disk',
  title: 'Side by side, second or swapped disk',
  about: 'The second system gets a disk of its own; the present disk is unplugged meanwhile and not touched.',
  hasTarget: true,
  concerns: another,
  rules: [stillSupported, requirementsMet, secondDiskThere, licenceFits, workCanMove],
  keeps: ['the present disk, untouched'],
  loses: ['everything on the second disk'],
  cautions: [
    stillThere,
    'Opening the case: mains out, static strap on, as the maker’s manual shows, or a qualified person.',
  ],
  steps: [
    ...saving,
    ...paperwork,
    'fetch-image',
    'write-stick',
    'carry-drivers',
    'suspend-encryption',
    'charger',
    'fit-second-disk',
    'other-disks',
    'identify-disk',
    'firmware',
    'start-from-stick',
    'erase-disk',
    'install',
    'stick-out',
    'first-start',
    'other-disks-back',
    'boot-menu',
    'updates',
    'optional-updates',
    'drivers',
    'activate',
    'firewall',
    'restore',
    'isolate-old-system',
    'resume-encryption',
    'applications',
    'encrypt',
    'habits',
    'boot-order-back',
    ...handingOver,
  ],
  serves: besidePurposes,
  terms: { dataRisk: 0.9, ownerEffort: 0.2, reversible: 0.95 },
  houseRuleProfile: {},
  writesOver: 'second-disk',
  consent: [],
  supportShare: 0.4,
  cost: 0,
};
