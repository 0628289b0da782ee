import { factTexts } from './describe';
import { factKeys, valueOf, type FactKey, type Facts } from './facts';

/** Facts that only some ways ask for: where nobody has looked, nothing is missing. */
export const factsOfSomeWays: readonly FactKey[] = [
  'graphicsChips',
  'opticalDrive',
  'bootFromFile',
  'storageMode',
  'licenceBelongsTo',
];

type UnknownFact = { readonly key: FactKey; readonly label: string; readonly howToFind: string };

/**
 * Which facts are known and which are not, each unknown with the way to find it out.
 * A desktop has no battery and no charger, and a disk in clear no recovery key, so these do not count
 * there; licences at hand count for those only who bought some, and some facts for those only whose way asks for them.
 */
export function completeness(facts: Facts): {
  readonly knownCount: number;
  readonly unknowns: readonly UnknownFact[];
} {
  const desktop = valueOf(facts, 'chassis') === 'desktop';
  const beside = new Set<FactKey>(['licencesHeld', ...factsOfSomeWays]);
  if (desktop) beside.add('batteryPercent').add('charger');
  if (valueOf(facts, 'diskEncryption') === 'off') beside.add('recoveryKeyPlace');
  const counted = factKeys.filter((key) => !beside.has(key));
  const unknowns = counted
    .filter((key) => facts[key] === undefined)
    .map((key) => ({ key, label: factTexts[key].label, howToFind: factTexts[key].howToFind }));
  return { knownCount: counted.length - unknowns.length, unknowns };
}
