import { partTitle } from '@ulvane/core/assess';
import { nextWipe } from '@ulvane/core/backup';
import { findRelease, releaseTitle } from '@ulvane/core/catalogue';
import { parseWith, type Outcome, type Problem } from '@ulvane/core/outcome';
import {
  dayAhead,
  handsOf,
  measuredCopies,
  causesFound,
  MoveSchema,
  deviceTitle,
  moveLimitBytes,
  outlookOf,
  stageOf,
  upgradeRecord,
  type House,
  type Move,
} from '@ulvane/core/record';
import { routes } from '@ulvane/core/route';
import { isEmptyDevice, presentTitle, valueOf } from '@ulvane/core/survey';
import { ProblemError, refuse } from '../http/problem';
import { hashOfRecord } from '../log/hashing';
import type { MoveEntity } from './move.entity';

/** A house as it stands at a version of its catalogue and its house rules. */
export type HouseAt = House & { readonly catalogueVersion: number; readonly houseRulesVersion: number };

/** Catalogue, house rules and day that an assessment hangs on; see `move.assessed_for`. */
export function assessedFor(
  { catalogueVersion, houseRulesVersion }: Omit<HouseAt, keyof House>,
  today: string,
): string {
  return `${catalogueVersion}.${houseRulesVersion}.${today}`;
}

/** The columns that say what a device could become. @param today ISO date */
function outlookColumns(
  move: Move,
  house: HouseAt,
  today: string,
): Pick<MoveEntity, 'verdict' | 'fit' | 'advice' | 'unlock' | 'parts' | 'assessedFor'> {
  const { verdict, fit, advice, unlock, parts } = outlookOf(move, house, today);
  return {
    verdict,
    fit,
    advice,
    unlock,
    parts: [...new Set(parts.map(partTitle))],
    assessedFor: assessedFor(house, today),
  };
}

/** Every column that follows from a move's record, catalogue, house rules and day. */
export type DerivedColumns = Omit<
  MoveEntity,
  | 'id'
  | 'reference'
  | 'version'
  | 'partVersions'
  | 'record'
  | 'recordHash'
  | 'logCount'
  | 'logHead'
  | 'unreadable'
>;

/** The columns that lists use, from a move's record. @param today ISO date */
export function columnsOf(move: Move, house: HouseAt, today: string): DerivedColumns {
  const hands = handsOf(move, house);
  const ahead = dayAhead(move, house);
  const release = findRelease(house.catalogue, move.decision?.releaseId ?? undefined);
  const searched = {
    device: deviceTitle(move.facts),
    serial: valueOf(move.facts, 'serial') ?? '',
    owner: move.owner,
    site: move.site,
    target: release ? releaseTitle(release) : '',
    present: presentTitle(house.catalogue, move.facts),
  };
  return {
    ...searched,
    search: [move.reference, ...Object.values(searched)].join(' '),
    presentId: isEmptyDevice(move.facts) ? '' : (valueOf(move.facts, 'presentRelease') ?? ''),
    measured: [...measuredCopies(move)],
    causesFound: [...causesFound(move)],
    stage: stageOf(move),
    route: move.decision ? routes[move.decision.routeId].title : '',
    dueOn: move.dueOn,
    next: hands.wait?.title ?? hands.nextTitle,
    begun: hands.begun,
    blockedBecause: hands.blockedBecause,
    waitTitle: hands.wait?.title ?? null,
    waitStartedAt: hands.wait ? new Date(hands.wait.startedAt) : null,
    waitMinutes: hands.wait?.minutes ?? null,
    dayAhead: ahead?.day ?? null,
    dayReason: ahead?.why ?? null,
    wipeOn: nextWipe(move.retention),
    driveIds: move.destinations.flatMap(({ driveId, takes }) =>
      driveId && takes.length > 0 ? [driveId] : [],
    ),
    ...outlookColumns(move, house, today),
  };
}

/** A record as it comes out of the database, parsed; or why it cannot be read. */
export function readRecord(record: unknown): Outcome<Move> {
  return parseWith(MoveSchema, upgradeRecord(record));
}

/** The record of a move that somebody asked for by its reference. @throws ProblemError when it cannot be read */
export function recordOf(row: Pick<MoveEntity, 'record' | 'reference'>): Move {
  const move = readRecord(row.record);
  if (move.ok) return move.value;
  throw refuse(
    'unreadable-record',
    `The record of ${row.reference} cannot be read (${reasonOf(move.problems)}). A lead can export, repair or roll it back under House, “Records that cannot be read”.`,
  );
}

/** Why a record cannot be read, in one line for lists. */
export function reasonOf(problems: readonly Problem[]): string {
  const [first] = problems;
  const more = problems.length - 1;
  return `${(first?.sentence ?? 'unknown').replace(/\.$/, '')}${more > 0 ? `, and ${more} more` : ''}`;
}

export type Storable = { readonly record: Move; readonly recordHash: string };

/**
 * What is stored of a move: JSON that the schema that reads it has read, and its code.
 * @throws ProblemError (422) when the schema refuses it, or when it is too large
 */
export function storable(move: Move): Storable {
  const text = JSON.stringify(move);
  if (text.length > moveLimitBytes)
    throw refuse(
      'record-too-large',
      `${move.reference} would hold more than ${moveLimitBytes / 1024 / 1024} MiB of notes, names and capsules: remove what is not needed any more first.`,
    );
  const read = readRecord(JSON.parse(text));
  if (!read.ok) throw new ProblemError(read.problems);
  return { record: read.value, recordHash: hashOfRecord(read.value) };
}
