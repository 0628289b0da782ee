import { deviceTitle, makeFactUnknown, takeSurvey, typeFact, typeFacts } from '@ulvane/core/record';
import { compareFacts, factKeys, factsFromSurvey, type FactKey } from '@ulvane/core/survey';
import { refuse } from '../http/problem';
import { controllerOf } from '../http/controller';
import { MovesReader } from './moves.reader';
import { MovesWriter } from './moves.writer';
import { readSurvey } from './readSurvey';

function factKeyOf(text: string | undefined): FactKey {
  const key = factKeys.find((known) => known === text);
  if (!key) throw refuse('no-such-fact', `There is no fact named ${text ?? ''}.`);
  return key;
}

export const SurveyController = controllerOf(
  { reader: MovesReader, writer: MovesWriter },
  {
    previewSurvey: async ({ body }, _caller, { reader }) => {
      const survey = readSurvey(body.text);
      const taken = factsFromSurvey(survey, 'collector');
      const known = body.reference === null ? {} : (await reader.one(body.reference)).move.facts;
      const serial = survey.device?.serial;
      const sameSerial = serial === undefined ? null : await reader.withSerial(serial);
      return {
        device: deviceTitle(taken),
        takenAt: survey.takenAt,
        changes: [...compareFacts(known, taken)],
        sameSerial: sameSerial === body.reference ? null : sameSerial,
      };
    },

    takeSurvey: ({ params, body }, { actor }, { writer }) => {
      const survey = readSurvey(body.text);
      return writer.change(params.reference, body.version, actor, (move, context) =>
        takeSurvey(move, survey, survey.collector ? 'collector' : 'imported', context),
      );
    },

    typeFact: ({ params, body }, { actor }, { writer }) => {
      const key = factKeyOf(params.key);
      return writer.change(params.reference, body.version, actor, (move, context) =>
        typeFact(move, key, body.value, context),
      );
    },

    typeFacts: ({ params, body }, { actor }, { writer }) =>
      writer.change(params.reference, body.version, actor, (move, context) =>
        typeFacts(move, body.facts, context),
      ),

    forgetFact: ({ params, body }, { actor }, { writer }) => {
      const key = factKeyOf(params.key);
      return writer.change(params.reference, body.version, actor, (move) => makeFactUnknown(move, key));
    },
  },
);
