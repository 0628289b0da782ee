import { releaseTitle } from '../catalogue/find';
import type { MediumWay, Release } from '../catalogue/catalogue';
import type { RequirementKind } from '../catalogue/requirement';
import type { HouseRules } from '../rules/houseRules';

type Asked = {
  readonly release: Release;
  /** Checks that the installer is told to skip. */
  readonly waivers: readonly RequirementKind[];
  /** The mode in which the stick is to start. */
  readonly mode: 'uefi' | 'legacy' | 'unknown';
};

/** What each way is called. */
export const mediumWayNames: Readonly<Record<MediumWay, string>> = {
  'makers-tool': 'the maker’s own tool',
  'image-writer': 'an image writer',
  'by-hand': 'by hand',
};

/** Why a stick cannot be made that way; null where it can. */
export function wayFault(way: MediumWay, { release, waivers, mode }: Asked): string | null {
  if (!release.mediumWays.includes(way))
    return way === 'makers-tool'
      ? `${releaseTitle(release)} has no tool of its maker’s`
      : `a stick of ${releaseTitle(release)} is not made ${way === 'by-hand' ? 'by hand' : 'with an image writer'}`;
  if (way === 'makers-tool' && waivers.length > 0) return 'the maker’s tool cannot leave checks out';
  if (way === 'by-hand' && mode === 'unknown')
    return 'by hand a table has to be chosen, and the mode of the firmware is not known';
  return null;
}

const houseWays: Readonly<Record<HouseRules['stickTool'], MediumWay>> = {
  official: 'makers-tool',
  'image-writer': 'image-writer',
  'by-hand': 'by-hand',
};

/** Where the house’s way does not do, these are tried in this order. */
const inTurn: readonly MediumWay[] = ['makers-tool', 'image-writer', 'by-hand'];

/**
 * How a stick is made: as the house does it, or the first other way that can do the job.
 * @returns `because`: why not as the house does it; null where it is
 */
export function mediumWay(
  asked: Asked,
  { stickTool }: Pick<HouseRules, 'stickTool'>,
): { readonly way: MediumWay; readonly because: string | null } {
  const wanted = houseWays[stickTool];
  const because = wayFault(wanted, asked);
  if (because === null) return { way: wanted, because };
  const way = inTurn.find((one) => wayFault(one, asked) === null) ?? 'image-writer';
  return { way, because };
}
