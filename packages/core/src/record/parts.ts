import { dequal } from 'dequal';
import { z } from 'zod';
import { lineStep } from '../runbook/signature';
import { moveParts, type Move } from './move';

/** At which version each part of a move changed last; `*` stands for every part that is not named. */
export const PartVersionsSchema = z.record(z.string(), z.int().min(0));
export type PartVersions = Readonly<z.infer<typeof PartVersionsSchema>>;

/** Entries of the lists of a move by what they are about, so that two people may work on two of them. */
function entriesOf(part: keyof Move, list: readonly unknown[]): ReadonlyMap<string, unknown> {
  const keys = ['stepId', 'page', 'id', 'dataSetId', 'destinationId', 'role', 'setting'] as const;
  const entries = new Map<string, unknown[]>();
  for (const entry of list) {
    const named = Object.entries(entry ?? {}).filter(([key]) => keys.some((one) => one === key));
    const own = keys.flatMap((key) => named.find(([one]) => one === key)?.[1] ?? []);
    // A list of files is known by what it is of: a newer one has another id.
    const name = `${part}/${(part === 'fileLists' || part === 'reconciled' ? own.slice(1) : own).join(' ')}`;
    entries.set(name, [...(entries.get(name) ?? []), entry]);
  }
  return entries;
}

function partsOf(move: Move): ReadonlyMap<string, unknown> {
  return new Map(
    moveParts.flatMap((part): [string, unknown][] => {
      const value = move[part];
      if (Array.isArray(value)) return [...entriesOf(part, value)];
      if ((part === 'facts' || part === 'preparation' || part === 'handover') && typeof value === 'object')
        return Object.entries(value ?? {}).map(([key, inner]) => [`${part}/${key}`, inner]);
      return [[part, value]];
    }),
  );
}

/**
 * The parts in which two states of a move differ: single facts, notes, data sets, copies and steps; other parts whole.
 * @example partsTouched(before, after) // ['signatures/boot', 'facts/cores']
 */
export function partsTouched(before: Move, after: Move): readonly string[] {
  const [was, is] = [partsOf(before), partsOf(after)];
  return [...new Set([...was.keys(), ...is.keys()])].filter((part) => !dequal(was.get(part), is.get(part)));
}

/** What a change of a part was decided by, beside the part itself: the comparison of a copy by the lists that were compared. */
const readFor: readonly (readonly [touched: string, read: readonly string[]])[] = [
  ['signatures/', ['plan', 'decision']],
  ['troubles', ['plan', 'decision', 'signatures/']],
  ['decision', ['facts/', 'wish']],
  ['copies/', ['fileLists/', 'dataSets/', 'destinations/']],
  ['failedChecks/', ['fileLists/', 'dataSets/', 'destinations/']],
  ['reconciled/', ['fileLists/', 'dataSets/']],
  ['renames/', ['fileLists/', 'destinations/']],
  ['handover/found', ['dataSets/']],
  ['handover/told', ['reconciled/', 'retention/']],
  ['preparation/diskMarks', ['facts/disks']],
  ['preparation/nothingToSave', ['dataSets/', 'facts/']],
  ['diskPlan', ['facts/disks', 'decision']],
];

/** The versions after a change that touched these parts. */
export function withTouched(
  versions: PartVersions,
  touched: readonly string[],
  version: number,
): PartVersions {
  return { ...versions, ...Object.fromEntries(touched.map((part) => [part, version])) };
}

/**
 * Parts that a change touches, or that it was decided by, and that somebody else has changed since the version that
 * its maker saw; empty when the change may stand. What crosses the Line, overrules a gate or closes the record was
 * decided by all of the move.
 */
export function conflictingParts(
  before: Move,
  after: Move,
  versions: PartVersions,
  seen: number,
): readonly string[] {
  const touched = partsTouched(before, after);
  const atLine = lineStep(after.plan?.runbook)?.id;
  const byAll = touched.some(
    (part) =>
      part === 'calledOff' ||
      part.startsWith('overrules') ||
      part === 'handover/signedOff' ||
      (atLine !== undefined && part === `signatures/${atLine}`),
  );
  const later = (part: string) => (versions[part] ?? versions['*'] ?? 0) > seen;
  if (byAll) return Object.keys(versions).filter(later);
  const read = readFor
    .filter(([start]) => touched.some((part) => part.startsWith(start)))
    .flatMap(([, parts]) => parts);
  const changed = Object.keys(versions).filter(later);
  return [
    ...new Set([
      ...touched.filter(later),
      ...changed.filter((part) => read.some((start) => part.startsWith(start))),
      // Of what was written before parts were noted, only the last change is known.
      ...(read.length > 0 && later('*') ? ['*'] : []),
    ]),
  ];
}

/** The version with which one of these parts changed last. @param parts at least one, as `conflictingParts` gives them */
export function versionOfChange(parts: readonly string[], versions: PartVersions): number {
  return Math.max(0, ...parts.map((part) => versions[part] ?? versions['*'] ?? 0));
}

/** A part in the words of the page. @example partWords('facts/cores') // 'the survey' */
export function partWords(part: string): string {
  const [head = ''] = part.split('/');
  return wordsByPart.get(head) ?? 'the move';
}

const words: Readonly<Partial<Record<keyof Move, string>>> = {
  facts: 'the survey',
  folders: 'the survey',
  surveys: 'the survey',
  wish: 'why the move is made',
  decision: 'the decision',
  departures: 'its exceptions to house rules',
  dataSets: 'the data sets',
  destinations: 'the destinations',
  copies: 'the copies',
  outdatedCopies: 'the copies',
  failedChecks: 'the copies',
  fileLists: 'the lists of files',
  renames: 'the names on a destination',
  notNeeded: 'the questions on Save',
  askedOwner: 'the questions on Save',
  retention: 'the backups',
  reconciled: 'the comparison of files',
  preparation: 'the notes on Prepare',
  diskPlan: 'the disk plan',
  capsules: 'the undo capsules',
  plan: 'the runbook',
  signatures: 'the steps of the runbook',
  troubles: 'what went wrong at a step',
  answers: 'the answer sheet',
  overrules: 'the gates',
  handover: 'the hand-over',
  calledOff: 'the move itself',
};

const wordsByPart = new Map(Object.entries(words));
