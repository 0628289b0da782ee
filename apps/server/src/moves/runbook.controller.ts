import {
  correctStep,
  mediumWritten,
  noteHandover,
  overruleGate,
  signOff,
  tellOwner,
  tickAnswer,
  signStep,
  startStep,
  unsignStep,
} from '@ulvane/core/record';
import { gateIds } from '@ulvane/core/runbook';
import { refuse } from '../http/problem';
import { controllerOf } from '../http/controller';
import { MovesWriter } from './moves.writer';
import { noteOnShelf } from '../drives/noteOnShelf';

/** Cross, Settle and Hand over. */
export const RunbookController = controllerOf(
  { writer: MovesWriter },
  {
    startStep: ({ params, body }, { actor }, { writer }) =>
      writer.change(params.reference, body.version, actor, (move, context) =>
        startStep(move, params.stepId, context, body.crossing ?? null),
      ),

    signStep: ({ params, body }, { actor }, { writer }) =>
      writer.changeWith(params.reference, async (change, manager) => {
        const written: NonNullable<ReturnType<typeof mediumWritten>>[] = [];
        const view = await change(body.version, actor, (move, context) => {
          const on = { at: context.now.slice(0, 10), by: actor.name };
          written.push(...[mediumWritten(move, params.stepId, context, on) ?? []].flat());
          return signStep(move, params.stepId, body, context);
        });
        for (const medium of written) await noteOnShelf(manager, medium, view.move.site);
        return view;
      }),

    unsignStep: ({ params, body }, { actor }, { writer }) =>
      writer.change(params.reference, body.version, actor, (move, context) =>
        unsignStep(move, params.stepId, body.reason, context),
      ),

    overruleGate: ({ params, body }, { actor }, { writer }) => {
      const gateId = gateIds.find((id) => id === params.gateId);
      if (!gateId) throw refuse('no-such-gate', `There is no gate named ${params.gateId}.`);
      return writer.change(params.reference, body.version, actor, (move, context) =>
        overruleGate(move, gateId, body.reason, context),
      );
    },

    correctStep: ({ params, body }, { actor }, { writer }) =>
      writer.change(params.reference, body.version, actor, (move, context) =>
        correctStep(move, params.stepId, body.reason, context),
      ),

    noteHandover: ({ params, body }, { actor }, { writer }) =>
      writer.change(params.reference, body.version, actor, (move, context) =>
        noteHandover(move, body.handover, context),
      ),

    tickAnswer: ({ params, body }, { actor }, { writer }) =>
      writer.change(params.reference, body.version, actor, (move, context) =>
        tickAnswer(move, body, context),
      ),

    tellOwner: ({ params, body }, { actor }, { writer }) =>
      writer.change(params.reference, body.version, actor, (move, context) => tellOwner(move, body, context)),

    signOff: ({ params, body }, { actor }, { writer }) =>
      writer.change(params.reference, body.version, actor, (move, context) =>
        signOff(move, body.ownerName, context),
      ),
  },
);
