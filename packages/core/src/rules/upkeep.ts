import type { HouseRules } from './houseRules';

/** What keeping a system going takes: next to nothing, some practice, or an expert at each larger update. */
export const upkeeps = ['easy', 'practised', 'expert'] as const;
type Upkeep = (typeof upkeeps)[number];

const values: Readonly<Record<HouseRules['looksAfter'], Readonly<Record<Upkeep, number>>>> = {
  owner: { easy: 1, practised: 0.5, expert: 0 },
  // Somebody is there who can, and whose time it takes.
  'help-desk': { easy: 1, practised: 0.9, expert: 0.6 },
};

/**
 * How easily a system is kept up by those who look after it, 0 to 1.
 * @example upkeepValue('expert', 'owner') // 0
 */
export function upkeepValue(upkeep: Upkeep, looksAfter: HouseRules['looksAfter']): number {
  return values[looksAfter][upkeep];
}

/** Who looks after the device, and what that takes; for the steps of the first days. */
export function upkeepWords(upkeep: Upkeep, looksAfter: HouseRules['looksAfter']): string {
  const who = looksAfter === 'owner' ? 'The owner looks' : 'The help desk looks';
  switch (upkeep) {
    case 'easy':
      return `${who} after it; updates install themselves.`;
    case 'practised':
      return `${who} after it; somebody with practice reads what each larger update changes.`;
    case 'expert':
      return `${who} after it; every update is read about before it is installed, and repaired by hand now and then.`;
  }
}
