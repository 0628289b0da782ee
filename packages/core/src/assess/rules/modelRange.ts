import { valueOf } from '../../survey/facts';
import type { RequirementRule } from '../judgement';
import { unknownFact } from '../unknown';

export const modelRange: RequirementRule<'model-range'> = {
  kind: 'model-range',
  reads: ['maker', 'model', 'year'],
  judge: ({ maker, fromYear }, { facts }) => {
    const has = valueOf(facts, 'maker');
    if (has === undefined) return unknownFact('maker', `the release runs only on ${maker} computers`);
    if (has.toLowerCase() !== maker.toLowerCase())
      return { verdict: 'fails', sentence: `The release runs only on ${maker} computers; this is a ${has}.` };
    const year = valueOf(facts, 'year');
    if (year === undefined)
      return unknownFact('year', `the release supports ${maker} computers from ${fromYear} on`);
    const sentence = `${maker} of ${year}; the release supports those from ${fromYear} on.`;
    return { verdict: year >= fromYear ? 'meets' : 'fails', sentence };
  },
};
