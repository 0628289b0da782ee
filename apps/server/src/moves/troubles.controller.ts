import { answerCause, closeTrouble, leaveDetour, openTrouble, startDetour } from '@ulvane/core/record';
import { controllerOf } from '../http/controller';
import { MovesWriter } from './moves.writer';

/** What goes wrong at a step, and the way back to the runbook. */
export const TroublesController = controllerOf(
  { writer: MovesWriter },
  {
    openTrouble: ({ params, body }, { actor }, { writer }) =>
      writer.change(params.reference, body.version, actor, (move, context) =>
        openTrouble(move, body, context),
      ),

    answerCause: ({ params, body }, { actor }, { writer }) =>
      writer.change(params.reference, body.version, actor, (move, context) =>
        answerCause(move, body, context),
      ),

    startDetour: ({ params, body }, { actor }, { writer }) =>
      writer.change(params.reference, body.version, actor, (move, context) =>
        startDetour(move, body, context),
      ),

    leaveDetour: ({ params, body }, { actor }, { writer }) =>
      writer.change(params.reference, body.version, actor, (move, context) =>
        leaveDetour(move, Number(params.number), body.reason, context),
      ),

    closeTrouble: ({ params, body }, { actor }, { writer }) =>
      writer.change(params.reference, body.version, actor, (move, context) =>
        closeTrouble(move, Number(params.number), body.note, context),
      ),
  },
);
