import type { Weights } from './houseRules';

/** What each weight of the advice weighs. */
export const termLabels: Record<keyof Weights, string> = {
  dataRisk: 'Little risk to data',
  handsOn: 'Few hands-on minutes',
  elapsed: 'Short elapsed time',
  ownerEffort: 'Little for the owner to re-do',
  money: 'Little money',
  support: 'Long support',
  reversible: 'Can be undone',
  house: 'Suits the house rules',
  upkeep: 'Easy to keep up',
};

export const termIds: readonly (keyof Weights)[] = [
  'dataRisk',
  'handsOn',
  'elapsed',
  'ownerEffort',
  'money',
  'support',
  'reversible',
  'house',
  'upkeep',
];
