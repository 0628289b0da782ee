import { dayIn } from '../quantity/localTime';
import { printCount } from '../quantity/count';
import type { Release } from '../catalogue/catalogue';
import { habitChanges } from '../catalogue/habits';
import { findRelease, releaseTitle, supportDaysLeft, supportedUntil } from '../catalogue/find';
import { routes } from '../route/catalogueOfRoutes';
import { valueOf } from '../survey/facts';
import { accountFor } from './handover';
import { filesFlow, type FateKind } from './filesFlow';
import { deviceTitle } from './hands';
import type { Move } from './move';
import { readCopies } from './readCopies';
import type { House } from './reading';

/** One file that is not as it was, and why. */
export type ExplainedFile = { readonly path: string; readonly kind: string; readonly reason: string };

/** What the sheet needs beside the move. */
export type OwnerSheetInput = {
  readonly files: readonly ExplainedFile[];
  /** How many of such files there are in all. */
  readonly fileCount: number;
  readonly organisation: string;
  /** ISO date of the print. */
  readonly today: string;
  /** The last line of the record; null before there is one. */
  readonly record: { readonly number: number; readonly code: string } | null;
};

/** The sheet that the owner keeps: plain words, every file that is not as it was by its name. */
export type OwnerSheet = {
  readonly plate: readonly (readonly [label: string, value: string])[];
  readonly headline: string;
  readonly lead: string;
  /** Files as they were, under another name or folder, and all others. */
  readonly bar: { readonly same: number; readonly otherName: number; readonly rest: number };
  readonly amounts: readonly string[];
  readonly different: readonly string[];
  readonly same: readonly string[];
  readonly files: readonly ExplainedFile[];
  readonly filesNote: string;
  readonly backups: readonly { readonly name: string; readonly lines: readonly string[] }[];
  readonly keptUntil: string | null;
  readonly warning: string;
  readonly call: readonly string[];
  readonly boxes: readonly string[];
  readonly signer: string;
  readonly helpDesk: string;
  readonly record: OwnerSheetInput['record'];
  /** Set before every file is accounted for: the sheet has no place to sign then. */
  readonly draft: boolean;
};

/** Until when the system that was there got its security updates, seen from the day of the decision. */
function updatesOf(release: Release, day: string): string {
  if (supportDaysLeft(release, day) < 0) return `${releaseTitle(release)} gets no more security updates.`;
  const until = supportedUntil(release);
  return until === null ? '' : `${releaseTitle(release)} gets security updates until ${until}.`;
}

export function ownerSheet(move: Move, house: House, input: OwnerSheetInput): OwnerSheet {
  const flow = filesFlow(move);
  const of = (kind: FateKind) => flow.fates.find((fate) => fate.kind === kind);
  const target = findRelease(house.catalogue, move.decision?.releaseId ?? undefined);
  const present = findRelease(house.catalogue, valueOf(move.facts, 'presentRelease'));
  const same = of('same')?.before ?? 0;
  const otherName = of('renamed')?.before ?? 0;
  const merged = of('merged')?.before ?? 0;
  const changed = of('changed')?.before ?? 0;
  const missing = of('missing')?.before ?? 0;
  const kept = move.retention.filter(({ wiped }) => wiped === null);
  const keptUntil = kept.map(({ keepUntil }) => keepUntil).toSorted()[0] ?? null;
  const people = [...new Set(move.signatures.filter(({ action }) => action === 'sign').map(({ by }) => by))];
  const draft = accountFor(move).some(({ state }) => state === 'open');
  return {
    plate: [
      ['Device', deviceTitle(move.facts)],
      ['Serial number', valueOf(move.facts, 'serial') ?? 'unknown'],
      ['Owner', [move.owner, move.site].filter((part) => part !== '').join(', ') || 'not named'],
      [
        'Date',
        move.handover.signedOff ? dayIn(house.houseRules.timeZone, move.handover.signedOff.at) : input.today,
      ],
      ['Move', move.reference],
    ],
    headline: 'Your computer is back',
    lead: [
      present ? updatesOf(present, move.decision?.at.slice(0, 10) ?? input.today) : '',
      target
        ? `Your computer now runs ${releaseTitle(target)}${target.fixesUntil === null ? '' : `, with security updates until ${target.fixesUntil}`}.`
        : '',
      flow.before > 0 ? `We compared ${printCount(flow.before, 'file')} before and after.` : '',
    ]
      .filter((part) => part !== '')
      .join(' '),
    bar: { same, otherName, rest: flow.before - same - otherName },
    amounts: [
      `${printCount(flow.before, 'file')} before the move, ${same.toLocaleString('en')} exactly as they were`,
      ...(otherName > 0
        ? [`${otherName.toLocaleString('en')} with another name or folder, the same content`]
        : []),
      ...(merged > 0
        ? [
            `${merged.toLocaleString('en')} ${merged === 1 ? 'was' : 'were'} equal to another file: one of each is left`,
          ]
        : []),
      ...(changed > 0 ? [`${changed.toLocaleString('en')} changed`] : []),
      ...(missing > 0 ? [`${missing.toLocaleString('en')} not here`] : []),
    ],
    different: differences(move, house),
    same: unchanged(move, house),
    files: input.files,
    filesNote:
      input.fileCount === 0
        ? 'Every file is as it was.'
        : input.fileCount > input.files.length
          ? `${input.files.length} of ${input.fileCount.toLocaleString('en')} are printed; the help desk has the whole list.`
          : printCount(input.fileCount, 'file'),
    backups: kept.map(({ destinationId, label, place }) => ({
      name: move.destinations.find(({ id }) => id === destinationId)?.name ?? destinationId,
      lines: [place, `Label: ${label}`],
    })),
    keptUntil,
    warning:
      keptUntil !== null
        ? `Is a file missing? Call before ${keptUntil}. After that day nobody can bring it back.`
        : move.retention.length > 0
          ? 'There is no backup any more: it was wiped.'
          : 'No backup is kept.',
    call: [
      `Call ${people.at(-1) ?? 'the help desk'}, ${input.organisation}; say ${move.reference}.`,
      'Do not plug in or open the drives of the backup yourself.',
    ],
    boxes: move.dataSets
      .toSorted((a, b) => b.sizeBytes - a.sizeBytes)
      .slice(0, 3)
      .map(({ name }) => `${name} opened`),
    signer: move.handover.signedOff?.ownerName ?? move.owner,
    helpDesk: move.handover.signedOff?.by ?? people.at(-1) ?? '',
    record: input.record,
    draft,
  };
}

/** What the owner will meet that is not as before, each from what the record knows. */
function differences(move: Move, { catalogue }: House): readonly string[] {
  const target = findRelease(catalogue, move.decision?.releaseId ?? undefined);
  const present = findRelease(catalogue, valueOf(move.facts, 'presentRelease'));
  const route = move.decision ? routes[move.decision.routeId] : undefined;
  const renamed = move.renames.flatMap(({ names }) => names);
  const [first] = renamed;
  return [
    ...(target && present && target.family !== present.family
      ? ['The desktop and the programs of the system look different.']
      : []),
    ...(target && move.decision?.routeId !== 'replace'
      ? habitChanges(catalogue.families, present, target).map(
          ({ what, before, now }) => `${what}: ${now}. Before: ${before}.`,
        )
      : []),
    ...(route && route.writesOver !== 'nothing' && target
      ? ['The system was installed anew: programs were installed again, settings may have to be made again.']
      : []),
    ...(first ? [`${printCount(renamed.length, 'file')} had a name that the backup could not take.`] : []),
    ...move.handover.openPoints.map((point) => `Still open: ${point}`),
  ];
}

/** What is as it was. */
function unchanged(move: Move, { houseRules }: House): readonly string[] {
  const { status } = readCopies(move, houseRules);
  const stayed = move.dataSets.filter(({ id }) =>
    status.some(({ dataSetId, risk }) => dataSetId === id && risk === 'insured'),
  );
  const compared = accountFor(move).filter(({ by, state }) => by === 'comparison' && state === 'equal');
  const name = (id: string) => move.dataSets.find((dataSet) => dataSet.id === id)?.name ?? id;
  return [
    ...(stayed.length > 0 ? [`Nothing was erased of: ${stayed.map((one) => one.name).join(', ')}.`] : []),
    ...(compared.length > 0
      ? [`Every file is as it was in: ${compared.map(({ dataSetId }) => name(dataSetId)).join(', ')}.`]
      : []),
  ];
}
