import type { LoaderSignature, Model, Release } from '../catalogue/catalogue';
import type { RequirementKind } from '../catalogue/requirement';
import type { RouteDefinition } from '../route/definition';
import { systemDisk } from '../survey/disk';
import { valueOf, type Facts } from '../survey/facts';

/** What the way in which a target starts hangs on. */
export type StartOn = {
  readonly release: Pick<Release, 'firmwareModes' | 'requirements' | 'loader'>;
  /** What Secure Boot makes of the loader that starts now; absent where nobody knows. */
  readonly presentLoader?: LoaderSignature | undefined;
  readonly facts: Facts;
  readonly model: Model | undefined;
  /** Checks that the installer is told to skip. */
  readonly waivers: readonly RequirementKind[];
  /** The scheme of the table that the target is put on; undefined where the disk is laid out anew, or nobody knows. */
  readonly stays: 'gpt' | 'mbr' | undefined;
  /** The firmware starts the installer from a stick. */
  readonly fromStick: boolean;
};

/** The scheme of the table that a route keeps, as it is when the target is installed. */
export function schemeThatStays(
  facts: Facts,
  route: Pick<RouteDefinition, 'writesOver'>,
  converting: 'gpt' | 'mbr' | undefined,
): StartOn['stays'] {
  if (route.writesOver === 'whole-disk' || route.writesOver === 'second-disk') return undefined;
  const scheme = converting ?? systemDisk(valueOf(facts, 'disks'))?.scheme;
  return scheme === 'none' ? undefined : scheme;
}

/**
 * The mode that the target will start in: the one that suits a table that stays (GPT starts in UEFI mode, MBR in
 * legacy mode), else UEFI where release and firmware have it.
 */
export function startingMode({
  release,
  facts,
  stays,
}: Pick<StartOn, 'release' | 'facts' | 'stays'>): 'uefi' | 'legacy' | 'unknown' {
  if (!release.firmwareModes.includes('legacy')) return 'uefi';
  if (!release.firmwareModes.includes('uefi')) return 'legacy';
  if (stays !== undefined) return stays === 'gpt' ? 'uefi' : 'legacy';
  const present = valueOf(facts, 'firmwareMode');
  if (present === undefined) return 'unknown';
  return present === 'legacy' ? 'legacy' : 'uefi';
}
