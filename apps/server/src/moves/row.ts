import {
  findRelease,
  handsOf,
  MoveSchema,
  releaseTitle,
  deviceTitle,
  nextWipe,
  outlookOf,
  partTitle,
  routes,
  stageOf,
  upgradeRecord,
  valueOf,
  type House,
  type Move,
} from '@ulvane/core';
import type { MoveEntity } from './move.entity';

/** A house as it stands at a version of its catalogue and its practice. */
export type HouseAt = House & { readonly catalogueVersion: number; readonly practiceVersion: number };

/** Catalogue, practice and day that an assessment hangs on; see `move.assessed_for`. */
export function assessedFor(
  { catalogueVersion, practiceVersion }: Omit<HouseAt, keyof House>,
  today: string,
): string {
  return `${catalogueVersion}.${practiceVersion}.${today}`;
}

/** The columns that say what a device could become. @param today ISO date */
export function outlookColumns(
  move: Move,
  house: HouseAt,
  today: string,
): Pick<MoveEntity, 'verdict' | 'verdicts' | 'advice' | 'unlock' | 'parts' | 'assessedFor'> {
  const { verdict, verdicts, advice, unlock, parts } = outlookOf(move, house, today);
  return {
    verdict,
    verdicts,
    advice,
    unlock,
    parts: [...new Set(parts.map(partTitle))],
    assessedFor: assessedFor(house, today),
  };
}

/** The columns that lists use, from a move's record. @param today ISO date */
export function columnsOf(
  move: Move,
  house: HouseAt,
  today: string,
): Omit<MoveEntity, 'id' | 'reference' | 'version' | 'record'> {
  const hands = handsOf(move, house);
  const release = findRelease(house.catalogue, move.decision?.releaseId ?? undefined);
  const present = findRelease(house.catalogue, valueOf(move.facts, 'presentRelease'));
  const searched = {
    device: deviceTitle(move.facts),
    serial: valueOf(move.facts, 'serial') ?? '',
    owner: move.owner,
    site: move.site,
    target: release ? releaseTitle(release) : '',
    present: present ? releaseTitle(present) : (valueOf(move.facts, 'presentRelease') ?? ''),
  };
  return {
    ...searched,
    search: [move.reference, ...Object.values(searched)].join(' '),
    stage: stageOf(move),
    route: move.decision ? routes[move.decision.routeId].title : '',
    dueOn: move.dueOn,
    next: hands.wait?.title ?? hands.nextTitle,
    begun: hands.begun,
    blockedBecause: hands.blockedBecause,
    waitTitle: hands.wait?.title ?? null,
    waitStartedAt: hands.wait ? new Date(hands.wait.startedAt) : null,
    waitMinutes: hands.wait?.minutes ?? null,
    holdUntil: move.decision?.routeId === 'hold' ? move.preparation.holdUntil : null,
    wipeOn: nextWipe(move.retention),
    driveIds: move.destinations.flatMap(({ driveId, takes }) =>
      driveId && takes.length > 0 ? [driveId] : [],
    ),
    ...outlookColumns(move, house, today),
  };
}

/** A record as it comes out of the database, parsed. */
export function recordOf(row: Pick<MoveEntity, 'record'>): Move {
  return MoveSchema.parse(upgradeRecord(row.record));
}
