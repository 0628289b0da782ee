import type { z } from 'zod';
import { api } from '@ulvane/contract';
import { parseWrites } from '@ulvane/core/disk';
import {
  chooseRoute,
  depart,
  keepCapsule,
  plan,
  planDisk,
  prepare,
  setDataSets,
  setDestinations,
  stateWish,
  tickCopy,
  type PreparationPatch,
} from '@ulvane/core/record';
import { ProblemError } from '../http/problem';
import { controllerOf } from '../http/controller';
import { MovesWriter } from './moves.writer';

/** Drops the keys that a partial body left out, so that absent and undefined are the same. */
function given(patch: z.output<typeof api.prepare.body>['preparation']): PreparationPatch {
  return Object.fromEntries(Object.entries(patch).filter(([, value]) => value !== undefined));
}

/** Decide, Save and Prepare. */
export const PlanController = controllerOf(
  { writer: MovesWriter },
  {
    choose: ({ params, body }, { actor }, { writer }) =>
      writer.change(params.reference, body.version, actor, (move, context) =>
        chooseRoute(move, body, context),
      ),

    stateWish: ({ params, body }, { actor }, { writer }) =>
      writer.change(params.reference, body.version, actor, (move, context) =>
        stateWish(move, body.wish, context),
      ),

    depart: ({ params, body }, { actor }, { writer }) =>
      writer.change(params.reference, body.version, actor, (move, context) => depart(move, body, context)),

    planDisk: ({ params, body }, { actor }, { writer }) =>
      writer.change(params.reference, body.version, actor, (move, context) => planDisk(move, body, context)),

    keepCapsule: ({ params, body }, { actor }, { writer }) => {
      const { version, ...capsule } = body;
      // What was decoded once is checked once more: a capsule that does not hold together undoes nothing.
      const undo = parseWrites(capsule.undo);
      if (!undo.ok) throw new ProblemError(undo.problems);
      return writer.change(params.reference, version, actor, (move, context) =>
        keepCapsule(move, capsule, context),
      );
    },

    setDataSets: ({ params, body }, { actor }, { writer }) =>
      writer.change(params.reference, body.version, actor, (move, context) =>
        setDataSets(move, body.dataSets, context),
      ),

    setDestinations: ({ params, body }, { actor }, { writer }) =>
      writer.change(params.reference, body.version, actor, (move, context) =>
        setDestinations(move, body.destinations, context),
      ),

    tickCopy: ({ params, body }, { actor }, { writer }) =>
      writer.change(params.reference, body.version, actor, (move, context) => tickCopy(move, body, context)),

    prepare: ({ params, body }, { actor }, { writer }) =>
      writer.change(params.reference, body.version, actor, (move, context) =>
        prepare(move, given(body.preparation), context),
      ),

    plan: ({ params, body }, { actor }, { writer }) =>
      writer.change(params.reference, body.version, actor, plan),
  },
);
