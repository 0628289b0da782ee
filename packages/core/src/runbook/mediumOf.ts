import type { MediumContent } from '../backup/destinations/mediumContent';
import type { Release } from '../catalogue/catalogue';
import { contentFits } from '../media/fits';
import { startingMode, type StartOn } from '../media/startingMode';
import { mediumWay } from '../media/way';
import { valueOf, type Facts } from '../survey/facts';
import type { StepInput } from './input';
import { startOn } from './startOn';

/** The language in which the release is fetched and set up: the present one where it has it, else its first. */
export function languageFor(facts: Facts, { languages }: Pick<Release, 'languages'>): string {
  const present = valueOf(facts, 'presentLanguage') ?? '';
  return languages.includes(present) ? present : (languages[0] ?? 'en');
}

type Asking = Pick<
  StepInput,
  | 'release'
  | 'present'
  | 'facts'
  | 'model'
  | 'waivers'
  | 'route'
  | 'installerMedium'
  | 'diskPlan'
  | 'preparation'
  | 'houseRules'
>;

/** The stick that was taken from the shelf for this move, while what is on it is what the move needs. */
export function stickAtHand(
  input: Asking,
): { readonly name: string; readonly serial: string; readonly holds: MediumContent } | undefined {
  const { preparation, release, waivers, installerMedium } = input;
  const holds = preparation.stick?.holds;
  const on = startOn(input);
  if (!preparation.stick || !holds || !release || !on || installerMedium !== 'stick') return undefined;
  const { name, serial } = preparation.stick;
  return contentFits(holds, { releaseId: release.id, mode: startingMode(on), skips: waivers }) &&
    holds.check?.result === 'compared'
    ? { name, serial, holds }
    : undefined;
}

/** How its stick is made. */
export function wayOf(
  { waivers, houseRules }: Asking,
  on: StartOn & { readonly release: Release },
): ReturnType<typeof mediumWay> {
  return mediumWay({ release: on.release, waivers, mode: startingMode(on) }, houseRules);
}

/** Whether the image has to be fetched first: it is not at hand, no stick holds it, and no tool fetches it by itself. */
export function imageIsFetched(input: Asking): boolean {
  const { preparation, release, installerMedium } = input;
  const on = startOn(input);
  if (!release || !on || preparation.image?.releaseId === release.id || stickAtHand(input)) return false;
  return installerMedium !== 'stick' || wayOf(input, on).way !== 'makers-tool';
}
