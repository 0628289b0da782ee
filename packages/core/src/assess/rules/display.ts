import { valueOf } from '../../survey/facts';
import { meets, short, type RequirementRule } from '../judgement';
import { unknownFact } from '../unknown';

export const graphics: RequirementRule<'graphics'> = {
  kind: 'graphics',
  reads: ['graphicsTier'],
  judge: (requirement, { facts }) => {
    const has = valueOf(facts, 'graphicsTier');
    if (has === undefined) return unknownFact('graphicsTier', `tier ${requirement.minimumTier} is needed`);
    const sentence = `Graphics tier ${has}; tier ${requirement.minimumTier} is needed.`;
    return has >= requirement.minimumTier ? meets(sentence) : short(sentence, requirement);
  },
};

export const screen: RequirementRule<'screen'> = {
  kind: 'screen',
  reads: ['screenWidth', 'screenHeight'],
  judge: (requirement, { facts }) => {
    const needs = `${requirement.minimumWidth} × ${requirement.minimumHeight}`;
    const width = valueOf(facts, 'screenWidth');
    const height = valueOf(facts, 'screenHeight');
    if (width === undefined) return unknownFact('screenWidth', `${needs} pixels are needed`);
    if (height === undefined) return unknownFact('screenHeight', `${needs} pixels are needed`);
    const sentence = `Screen of ${width} × ${height} pixels; ${needs} are needed.`;
    return width >= requirement.minimumWidth && height >= requirement.minimumHeight
      ? meets(sentence)
      : short(sentence, requirement);
  },
};
