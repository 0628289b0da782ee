import { callOff, importMove, resume, setIdentity, takeSurvey } from '@ulvane/core/record';
import { ProblemError } from '../http/problem';
import { controllerOf } from '../http/controller';
import { MovesReader } from './moves.reader';
import { MovesWriter } from './moves.writer';
import { PlansReader } from './plans.reader';
import { readSurvey } from './readSurvey';

export const MovesController = controllerOf(
  { reader: MovesReader, writer: MovesWriter, plans: PlansReader },
  {
    moves: ({ query }, _caller, { reader }) => reader.list(query),

    moveReferences: async ({ query }, _caller, { reader }) => ({
      references: await reader.references(query),
    }),

    addMove: ({ body }, { actor }, { writer }) => {
      const { surveyText, ...start } = body;
      if (surveyText === null) return writer.add(actor, start, undefined);
      const survey = readSurvey(surveyText);
      return writer.add(actor, start, (move, context) =>
        takeSurvey(move, survey, survey.collector ? 'collector' : 'imported', context),
      );
    },

    importMove: ({ body }, { actor }, { writer }) => {
      const document = importMove(body);
      if (!document.ok) throw new ProblemError(document.problems);
      return writer.importMove(actor, document.value);
    },

    move: ({ params }, _caller, { reader }) => reader.one(params.reference),

    options: ({ params }, _caller, { plans }) => plans.options(params.reference),

    ownerHabits: ({ params }, _caller, { plans }) => plans.ownerHabits(params.reference),

    runbook: ({ params }, _caller, { plans }) => plans.runbook(params.reference),

    exportMove: ({ params }, { response }, { reader }) => {
      response.setHeader('Content-Disposition', 'attachment');
      return reader.document(params.reference);
    },

    setIdentity: ({ params, body }, { actor }, { writer }) => {
      const { version, ...identity } = body;
      return writer.change(params.reference, version, actor, (move) => setIdentity(move, identity));
    },

    callOff: ({ params, body }, { actor }, { writer }) =>
      writer.change(params.reference, body.version, actor, (move, context) =>
        callOff(move, body.reason, context),
      ),

    resume: ({ params, body }, { actor }, { writer }) =>
      writer.change(params.reference, body.version, actor, resume),
  },
);
