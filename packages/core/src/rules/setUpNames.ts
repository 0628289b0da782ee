import type { HouseRules } from './houseRules';

/** What each name of set-up is, as a label. */
export const setUpLabels: Readonly<Record<keyof HouseRules['setUp'], string>> = {
  administrator: 'Administrator’s account',
  computerName: 'Computer’s name',
};

export const setUpIds: readonly (keyof HouseRules['setUp'])[] = ['administrator', 'computerName'];
