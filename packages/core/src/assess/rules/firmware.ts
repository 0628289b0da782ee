import { stepTimes } from '../../rules/stepTimes';
import { valueOf } from '../../survey/facts';
import { fixable, meets, short, type RequirementRule } from '../judgement';
import { unknownFact } from '../unknown';

/** A switch is a step of the plan. */
const switchMinutes = stepTimes.firmware.handsOn.likely;

export const firmwareMode: RequirementRule<'firmware-mode'> = {
  kind: 'firmware-mode',
  reads: ['firmwareMode', 'maker', 'model'],
  judge: (requirement, { facts, model }) => {
    const has = valueOf(facts, 'firmwareMode');
    if (has === undefined) return unknownFact('firmwareMode', 'UEFI is needed');
    if (has === 'uefi') return meets('The firmware starts in UEFI mode.');
    if (has === 'uefi-with-legacy')
      return fixable('The firmware is UEFI with legacy compatibility on.', {
        id: 'legacy-off',
        action: 'Turn legacy compatibility off, after the disk’s scheme suits it',
        handsOnMinutes: switchMinutes,
        cost: 0,
      });
    if (model?.uefiCapable)
      return fixable(`The firmware starts in legacy mode; the ${model.model} has UEFI mode.`, {
        id: 'uefi-mode',
        action: 'Switch the firmware to UEFI mode, after the disk’s scheme suits it',
        handsOnMinutes: switchMinutes,
        cost: 0,
      });
    if (model) return short(`The ${model.model} has no UEFI mode.`, requirement);
    return {
      verdict: 'unknown',
      sentence: 'The firmware started in legacy mode; whether it has UEFI mode is not known.',
      howToFind: 'Enter the firmware set-up and look for UEFI on its boot page.',
    };
  },
  fix: () => ({ firmwareMode: 'uefi' }),
};

export const secureBoot: RequirementRule<'secure-boot'> = {
  kind: 'secure-boot',
  reads: ['secureBoot', 'maker', 'model'],
  judge: (requirement, { facts, model }) => {
    const has = valueOf(facts, 'secureBoot');
    if (has === undefined) return unknownFact('secureBoot', 'the release needs it to be possible');
    if (has === 'on') return meets('Secure Boot is on.');
    if (has === 'off')
      return fixable('Secure Boot is there and off.', {
        id: 'secure-boot-on',
        action: 'Turn Secure Boot on',
        handsOnMinutes: switchMinutes,
        cost: 0,
      });
    if (model?.secureBootCapable)
      return fixable('Secure Boot is not offered in this mode; the model has it in UEFI mode.', {
        id: 'secure-boot-on',
        action: 'Switch to UEFI mode, then turn Secure Boot on',
        handsOnMinutes: switchMinutes,
        cost: 0,
      });
    return short('The firmware has no Secure Boot.', requirement);
  },
  fix: (_requirement, { facts }) =>
    valueOf(facts, 'firmwareMode') === 'legacy'
      ? { secureBoot: 'on', firmwareMode: 'uefi' }
      : { secureBoot: 'on' },
};

export const securityChip: RequirementRule<'tpm'> = {
  kind: 'tpm',
  reads: ['tpm', 'maker', 'model'],
  judge: (requirement, { facts, model }) => {
    const has = valueOf(facts, 'tpm');
    const needs = `version ${requirement.minimum} is needed`;
    if (has === undefined) return unknownFact('tpm', needs);
    if (has === 'present-off') {
      if (model && model.tpm !== 'none' && model.tpm < requirement.minimum)
        return short(`The security chip is off and of version ${model.tpm}; ${needs}.`, requirement);
      return fixable('The security chip is there and switched off.', {
        id: 'tpm-on',
        action: 'Turn the security chip (TPM) on',
        handsOnMinutes: switchMinutes,
        cost: 0,
      });
    }
    if (has === 'none') return short(`There is no security chip; ${needs}.`, requirement);
    return has >= requirement.minimum
      ? meets(`Security chip of version ${has}; ${needs}.`)
      : short(`Security chip of version ${has}; ${needs}.`, requirement);
  },
  fix: ({ minimum }, { model }) => ({
    tpm: model && model.tpm !== 'none' && model.tpm > minimum ? model.tpm : minimum,
  }),
};
