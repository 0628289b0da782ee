import { z } from 'zod';
import type { Drive } from '../backup/destinations/drive';
import type { MediumContent } from '../backup/destinations/mediumContent';
import { copyTime } from '../backup/copies/copyTime';
import { requirementKinds } from '../catalogue/requirement';
import { printBytes } from '../quantity/bytes';
import { DaySchema } from '../quantity/daySchema';
import { printMinutes } from '../quantity/duration';
import { contentFits } from './fits';

/** What a move needs of the shelf. */
export const MediumNeedSchema = z.object({
  reference: z.string(),
  kind: z.enum(['stick', 'disc']),
  releaseId: z.string(),
  /** The release as people call it. */
  title: z.string(),
  mode: z.enum(['uefi', 'legacy', 'unknown']),
  /** Checks that its installer has to skip. */
  skips: z.array(z.enum(requirementKinds)),
  bytesNeeded: z.int().positive(),
  imageBytes: z.int().positive(),
  /** ISO date by which the move should be done; null where nobody has said. */
  dueOn: DaySchema.nullable(),
  /** The medium that was named on Prepare. */
  named: z.object({ name: z.string(), serial: z.string() }).nullable(),
});

export type MediumNeed = z.infer<typeof MediumNeedSchema>;

export const servings = ['as-it-is', 'compare-first', 'write-first', 'fetch-first', 'none'] as const;

/** How a need is served: with which medium, after which task. */
export type Serving = {
  readonly need: MediumNeed;
  readonly how: (typeof servings)[number];
  readonly driveId: string | null;
  /** Which of the installers on it; null where it is to be written. */
  readonly content: MediumContent | null;
  /** Minutes of the task; 0 where there is none. */
  readonly minutes: number;
  readonly sentence: string;
  /** Another move before takes the same medium. */
  readonly again: boolean;
};

type Given = {
  readonly media: readonly Drive[];
  /** Releases of which a good image is at hand. */
  readonly imagesAtHand: ReadonlySet<string>;
  /** In the order in which they come. */
  readonly needs: readonly MediumNeed[];
};

/** Whether a medium can be written for an installer at all. */
export function canBeWritten({ purpose, kind, health }: Drive): boolean {
  return purpose === 'installer' && kind === 'stick' && health !== 'failing';
}

/** Minutes to write bytes to a medium, or to read them back; likely, whole, at least one. */
export function mediumMinutes(bytes: number, { link, medium }: Pick<Drive, 'link' | 'medium'>): number {
  const { likely } = copyTime({ sizeBytes: bytes, fileCount: 0 }, 'solid-state', { link, medium }).minutes;
  return Math.max(1, Math.round(likely));
}

const isNamed = ({ named }: MediumNeed, { name, serial }: Drive) =>
  named !== null && (named.serial !== '' && serial !== '' ? named.serial === serial : named.name === name);

/** Installers on media of the right kind that serve a need, the compared ones first; none that is known to differ. */
function thatFit(need: MediumNeed, media: readonly Drive[]) {
  return media
    .filter(({ purpose, kind }) => purpose === 'installer' && (kind === 'disc') === (need.kind === 'disc'))
    .flatMap((drive) =>
      drive.holds
        .filter((content) => contentFits(content, need) && content.check?.result !== 'differs')
        .map((content) => ({ drive, content, isCompared: content.check?.result === 'compared' })),
    )
    .sort(
      (a, b) =>
        Number(isNamed(need, b.drive)) - Number(isNamed(need, a.drive)) ||
        Number(b.isCompared) - Number(a.isCompared) ||
        b.content.writtenOn.localeCompare(a.content.writtenOn),
    );
}

/**
 * Which medium serves each need. First what is on the shelf as it is; only then sticks are written anew, and never one
 * whose installer another need takes. The smallest that holds the image is written, one whose content is known before
 * one that nobody has looked at.
 * @returns in the order of the needs
 */
export function serveNeeds({ media, imagesAtHand, needs }: Given): readonly Serving[] {
  const taken = new Set<string>();
  const ready = needs.map((need): Serving | null => {
    const [best] = thatFit(need, media);
    if (!best) return null;
    const { drive, content, isCompared } = best;
    const again = taken.has(drive.id);
    taken.add(drive.id);
    const minutes = isCompared ? 0 : mediumMinutes(content.bytes, drive);
    return {
      need,
      how: isCompared ? 'as-it-is' : 'compare-first',
      driveId: drive.id,
      content,
      minutes,
      sentence: isCompared ? `${content.title}: as it is.` : `Compare it first, ${printMinutes(minutes)}.`,
      again,
    };
  });
  const written = new Map<string, MediumNeed>();
  return needs.map((need, index): Serving => {
    const found = ready[index];
    if (found) return found;
    // A stick that is written for one move serves the next like it.
    const alike = [...written].find(
      ([id, other]) =>
        contentFits({ releaseId: other.releaseId, mode: modeToWrite(other), skips: other.skips }, need) &&
        media.some((drive) => drive.id === id && drive.capacityBytes >= need.bytesNeeded),
    );
    const candidates = media
      .filter(
        (drive) =>
          canBeWritten(drive) &&
          !taken.has(drive.id) &&
          !written.has(drive.id) &&
          drive.capacityBytes >= need.bytesNeeded,
      )
      .sort(
        (a, b) =>
          Number(isNamed(need, b)) - Number(isNamed(need, a)) ||
          Number(a.seenOn === null) - Number(b.seenOn === null) ||
          a.holds.length - b.holds.length ||
          a.capacityBytes - b.capacityBytes,
      );
    const drive =
      need.kind === 'disc' ? undefined : alike ? media.find(({ id }) => id === alike[0]) : candidates[0];
    const blank = { need, content: null, again: alike !== undefined };
    if (!drive)
      return {
        ...blank,
        how: 'none',
        driveId: null,
        minutes: 0,
        sentence:
          need.kind === 'disc'
            ? `Burn ${need.title} to a disc: none on the shelf has it.`
            : `No free stick holds it: ${printBytes(need.bytesNeeded, 'decimal')} are needed.`,
      };
    const minutes = mediumMinutes(need.imageBytes, drive);
    if (!alike) written.set(drive.id, need);
    const hasImage = imagesAtHand.has(need.releaseId);
    return {
      ...blank,
      how: hasImage ? 'write-first' : 'fetch-first',
      driveId: drive.id,
      minutes,
      sentence: alike
        ? `${need.title}: as it is written for ${alike[1].reference}.`
        : hasImage
          ? `Write ${need.title} to it, ${printMinutes(minutes)}.`
          : `Fetch the image of ${need.title} first, then write it, ${printMinutes(minutes)}.`,
    };
  });
}

/** The mode that a stick is written for: both where the firmware’s is not known. */
function modeToWrite({ mode }: MediumNeed): MediumContent['mode'] {
  return mode === 'unknown' ? 'both' : mode;
}

/** What hangs below a medium: who needs it, and what has to be done with it before. */
export type MediumTag = {
  readonly kind: 'ready' | 'task' | 'free' | 'unread' | 'differs';
  readonly head: string;
  readonly detail: string;
  readonly references: readonly string[];
};

const tasks: Readonly<Record<(typeof servings)[number], string>> = {
  'as-it-is': 'stays as it is',
  'compare-first': 'waits for the comparison',
  'write-first': 'is to be written',
  'fetch-first': 'waits for the image',
  none: '',
};

/** The tag of a medium. @param servings what `serveNeeds` found */
export function tagOf(drive: Drive, found: readonly Serving[]): MediumTag {
  const mine = found.filter(({ driveId }) => driveId === drive.id);
  const references = mine.map(({ need }) => need.reference);
  const [first, ...others] = mine;
  if (first) {
    const { need, how } = first;
    return {
      kind: how === 'as-it-is' ? 'ready' : 'task',
      head: `${need.reference}${need.dueOn === null ? '' : `, due ${need.dueOn}`}`,
      detail:
        how === 'write-first' || how === 'fetch-first'
          ? `gets ${need.title}${how === 'fetch-first' ? ', image first' : ''}`
          : others.length === 0
            ? tasks[how]
            : `then ${others[0]?.need.reference ?? ''}${others.length > 1 ? ` and ${others.length - 1} more` : ''}`,
      references,
    };
  }
  if (drive.seenOn === null)
    return { kind: 'unread', head: 'No move', detail: 'plug it in and look', references };
  const bad = drive.holds.filter(({ check }) => check?.result === 'differs');
  if (bad.length > 0)
    return {
      kind: 'differs',
      head: 'No move',
      detail: `${bad.map(({ title }) => title).join(', ')}: do not use`,
      references,
    };
  return {
    kind: 'free',
    head: 'No move needs it',
    detail: canBeWritten(drive) ? 'may be overwritten' : drive.kind === 'disc' ? 'closed' : 'kept',
    references,
  };
}
