import {
  findRelease,
  handsOf,
  MoveSchema,
  releaseTitle,
  deviceTitle,
  routes,
  stageOf,
  valueOf,
  type House,
  type Move,
} from '@ulvane/core';
import type { MoveEntity } from './move.entity';

/** The columns that lists use, from a move's record. */
export function columnsOf(
  move: Move,
  house: House,
): Omit<MoveEntity, 'id' | 'reference' | 'version' | 'record'> {
  const hands = handsOf(move, house);
  const release = findRelease(house.catalogue, move.decision?.releaseId ?? undefined);
  const present = findRelease(house.catalogue, valueOf(move.facts, 'presentRelease'));
  return {
    device: deviceTitle(move.facts),
    serial: valueOf(move.facts, 'serial') ?? '',
    owner: move.owner,
    site: move.site,
    stage: stageOf(move),
    route: move.decision ? routes[move.decision.routeId].title : '',
    target: release ? releaseTitle(release) : '',
    present: present ? releaseTitle(present) : (valueOf(move.facts, 'presentRelease') ?? ''),
    dueOn: move.dueOn,
    next: hands.wait?.title ?? hands.nextTitle,
    begun: hands.begun,
    blockedBecause: hands.blockedBecause,
    waitTitle: hands.wait?.title ?? null,
    waitStartedAt: hands.wait ? new Date(hands.wait.startedAt) : null,
    waitMinutes: hands.wait?.minutes ?? null,
  };
}

/** A record as it comes out of the database, parsed. */
export function recordOf(row: Pick<MoveEntity, 'record'>): Move {
  return MoveSchema.parse(row.record);
}
