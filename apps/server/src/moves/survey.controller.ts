import { Controller } from '@nestjs/common';
import { api, type MoveView, type SurveyPreview } from '@ulvane/contract';
import { deviceTitle, makeFactUnknown, takeSurvey, typeFact } from '@ulvane/core/record';
import { compareFacts, factKeys, factsFromSurvey, type FactKey } from '@ulvane/core/survey';
import { refuse } from '../http/problem';
import { Actor, Input, Serves, type ActorOfRequest, type InputOf } from '../http/serves';
import { MovesReader } from './moves.reader';
import { MovesWriter } from './moves.writer';
import { readSurvey } from './readSurvey';

function factKeyOf(text: string | undefined): FactKey {
  const key = factKeys.find((known) => known === text);
  if (!key) throw refuse('no-such-fact', `There is no fact named ${text ?? ''}.`);
  return key;
}

@Controller()
export class SurveyController {
  constructor(
    private readonly reader: MovesReader,
    private readonly writer: MovesWriter,
  ) {}

  @Serves(api.previewSurvey)
  async preview(@Input() { body }: InputOf<typeof api.previewSurvey>): Promise<SurveyPreview> {
    const survey = readSurvey(body.text);
    const taken = factsFromSurvey(survey, 'collector');
    const known = body.reference === null ? {} : (await this.reader.one(body.reference)).move.facts;
    const serial = survey.device?.serial;
    const sameSerial = serial === undefined ? null : await this.reader.withSerial(serial);
    return {
      device: deviceTitle(taken),
      takenAt: survey.takenAt,
      changes: [...compareFacts(known, taken)],
      sameSerial: sameSerial === body.reference ? null : sameSerial,
    };
  }

  @Serves(api.takeSurvey)
  take(
    @Input() { params, body }: InputOf<typeof api.takeSurvey>,
    @Actor() actor: ActorOfRequest,
  ): Promise<MoveView> {
    const survey = readSurvey(body.text);
    return this.writer.change(params.reference, body.version, actor, (move, context) =>
      takeSurvey(move, survey, survey.collector ? 'collector' : 'imported', context),
    );
  }

  @Serves(api.typeFact)
  type(
    @Input() { params, body }: InputOf<typeof api.typeFact>,
    @Actor() actor: ActorOfRequest,
  ): Promise<MoveView> {
    const key = factKeyOf(params.key);
    return this.writer.change(params.reference, body.version, actor, (move, context) =>
      typeFact(move, key, body.value, context),
    );
  }

  @Serves(api.forgetFact)
  forget(
    @Input() { params, body }: InputOf<typeof api.forgetFact>,
    @Actor() actor: ActorOfRequest,
  ): Promise<MoveView> {
    const key = factKeyOf(params.key);
    return this.writer.change(params.reference, body.version, actor, (move) => makeFactUnknown(move, key));
  }
}
