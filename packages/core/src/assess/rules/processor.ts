import { printCount } from '../../quantity/count';
import { valueOf } from '../../survey/facts';
import { meets, short, type RequirementRule } from '../judgement';
import { unknownFact } from '../unknown';

export const wordSize: RequirementRule<'word-size'> = {
  kind: 'word-size',
  reads: ['wordBits'],
  judge: ({ bits }, { facts }) => {
    const has = valueOf(facts, 'wordBits');
    if (has === undefined) return unknownFact('wordBits', `the release needs ${bits} bit`);
    return has >= bits
      ? meets(`The processor works with ${has} bit; ${bits} are needed.`)
      : { verdict: 'fails', sentence: `The processor works with ${has} bit only; ${bits} are needed.` };
  },
};

export const cores: RequirementRule<'cores'> = {
  kind: 'cores',
  reads: ['cores'],
  judge: (requirement, { facts }) => {
    const has = valueOf(facts, 'cores');
    if (has === undefined) return unknownFact('cores', `${requirement.minimum} are needed`);
    return has >= requirement.minimum
      ? meets(`${has} cores; ${requirement.minimum} are needed.`)
      : short(`${printCount(has, 'core')}; ${requirement.minimum} are needed.`, requirement);
  },
};

export const clock: RequirementRule<'clock'> = {
  kind: 'clock',
  reads: ['clockMhz'],
  judge: (requirement, { facts }) => {
    const has = valueOf(facts, 'clockMhz');
    if (has === undefined) return unknownFact('clockMhz', `${requirement.minimumMhz} MHz are needed`);
    return has >= requirement.minimumMhz
      ? meets(`${has} MHz; ${requirement.minimumMhz} are needed.`)
      : short(`${has} MHz; ${requirement.minimumMhz} are needed.`, requirement);
  },
};

export const processorFeatures: RequirementRule<'processor-features'> = {
  kind: 'processor-features',
  reads: ['cpuFlags'],
  judge: (requirement, { facts }) => {
    const has = valueOf(facts, 'cpuFlags');
    if (has === undefined) return unknownFact('cpuFlags', `${requirement.flags.join(', ')} needed`);
    const missing = requirement.flags.filter((flag) => !has.includes(flag));
    return missing.length === 0
      ? meets(`The processor has ${requirement.flags.join(', ')}.`)
      : short(`The processor lacks ${missing.join(', ')}.`, requirement);
  },
};
