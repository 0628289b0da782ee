import type { MediumContent } from '../backup/destinations/mediumContent';
import type { RequirementKind } from '../catalogue/requirement';

/** What a move asks of an installer medium. */
export type MediumAsked = {
  readonly releaseId: string;
  readonly mode: 'uefi' | 'legacy' | 'unknown';
  /** Checks that its installer has to skip. */
  readonly skips: readonly RequirementKind[];
};

/**
 * Whether what is on a medium serves a move: the release, a mode that the firmware starts, and just the checks left out
 * that the move leaves out. One that skips more than was consented to is another installer.
 */
export function contentFits(
  { releaseId, mode, skips }: Pick<MediumContent, 'releaseId' | 'mode' | 'skips'>,
  asked: MediumAsked,
): boolean {
  return (
    releaseId === asked.releaseId &&
    (mode === 'both' || mode === asked.mode) &&
    skips.length === asked.skips.length &&
    skips.every((kind) => asked.skips.includes(kind))
  );
}
