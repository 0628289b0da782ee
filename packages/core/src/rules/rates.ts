import type { HouseRules } from './houseRules';

/** What each rate says, as a label. */
export const rateLabels: Readonly<Record<keyof HouseRules['rates'], string>> = {
  hourCost: 'Money for an hour of a technician',
  givenUpMinutes: 'Minutes for what is given up: an application, a check, a second move',
  movesAgainWithinDays: 'Updates that end within so many days mean a second move',
};

export const rateIds: readonly (keyof HouseRules['rates'])[] = [
  'hourCost',
  'givenUpMinutes',
  'movesAgainWithinDays',
];
