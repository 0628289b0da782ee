import { releaseTitle } from '../../catalogue/find';
import { valueOf } from '../../survey/facts';
import { allows, excludes, targetOf, undecided, type RouteDefinition, type RouteRule } from '../definition';
import { diskSound } from '../rules/disks';
import { requirementsBesideTheModel } from '../rules/requirements';
import { stillSupported } from '../rules/support';
import { sameLanguage } from '../rules/upgrade';
import { handingOver, paperwork, saving } from './steps';

const patchKnown: RouteRule = {
  id: 'patch-known',
  reads: ['maker', 'model', 'year'],
  judge: (context) => {
    const { release } = targetOf(context);
    const { model } = context;
    if (!model)
      return undecided(
        'The model is unknown, so whether a patch is known for it cannot be told.',
        'Type maker, model and year, or add the model to the catalogue.',
      );
    return model.patch?.releases.includes(release.id)
      ? allows(
          `A patch is known for the ${model.model}. Its limits: ${model.patch.limits.map(({ part, sentence }) => `${part}: ${sentence}`).join(' ') || 'none known.'}`,
        )
      : excludes(`No patch is known that brings ${releaseTitle(release)} onto the ${model.model}.`);
  },
};

const pastItsCeiling: RouteRule = {
  id: 'past-its-ceiling',
  reads: ['model'],
  judge: (context) => {
    const { release } = targetOf(context);
    const last = context.releases.find(({ id }) => id === context.model?.lastRelease);
    if (!last) return allows('The catalogue names no last release for the model.');
    return release.version > last.version
      ? allows(`The maker’s last release for the model is ${releaseTitle(last)}.`)
      : excludes(`The maker supports ${releaseTitle(release)} on the model: no patch is needed.`);
  },
};

export const patchedInstall: RouteDefinition = {
  id: 'patched-install',
  title: 'Patched install',
  about:
    'A vendor-locked computer past its last supported release: a boot shim starts the installer, drivers are patched after the first start.',
  hasTarget: true,
  // Only for a family that is locked to the maker: others need no patch.
  concerns: ({ target, facts, model, isEmpty }) =>
    !isEmpty &&
    target !== undefined &&
    target.release.requirements.some(
      (requirement) =>
        requirement.kind === 'model-range' &&
        requirement.maker.toLowerCase() === valueOf(facts, 'maker')?.toLowerCase(),
    ) &&
    (model === undefined || model.lastRelease !== undefined),
  rules: [stillSupported, patchKnown, pastItsCeiling, requirementsBesideTheModel, sameLanguage, diskSound],
  keeps: ['files, settings and applications, when it is installed over the present system'],
  loses: ['what the model’s known limits say', 'promised updates', 'the present system'],
  cautions: [
    'Each update can undo the patch: keep the stick, and never update alone.',
    'The maker does not help with a patched system; the owner must know.',
  ],
  steps: [
    ...saving,
    'record-consents',
    ...paperwork,
    'fetch-image',
    'write-stick',
    'write-shim',
    'shim-to-disk',
    'carry-drivers',
    'update-present',
    'recovery-medium',
    'suspend-encryption',
    'charger',
    'other-disks',
    'identify-disk',
    'firmware',
    'start-by-key',
    'install-over',
    'stick-out',
    'first-start',
    'other-disks-back',
    'driver-patch',
    'updates',
    'optional-updates',
    'drivers',
    'updates-by-hand',
    'activate',
    'firewall',
    'resume-encryption',
    'encrypt',
    'habits',
    ...handingOver,
  ],
  serves: new Set(['support-ends']),
  terms: { dataRisk: 0.55, ownerEffort: 0.7, reversible: 0.3 },
  houseRuleProfile: { manner: 'keep', belowMinimum: 'waive' },
  writesOver: 'nothing',
  consent: ['owner', 'organisation'],
  supportShare: 1,
  cost: 0,
};
