import { Controller, Header } from '@nestjs/common';
import { api, type MoveList, type MoveView } from '@ulvane/contract';
import { callOff, importMove, resume, setIdentity, takeSurvey, type MoveExport } from '@ulvane/core/record';
import { ProblemError } from '../http/problem';
import { Actor, Input, Serves, type ActorOfRequest, type InputOf } from '../http/serves';
import { MovesReader } from './moves.reader';
import { MovesWriter } from './moves.writer';
import { readSurvey } from './readSurvey';

@Controller()
export class MovesController {
  constructor(
    private readonly reader: MovesReader,
    private readonly writer: MovesWriter,
  ) {}

  @Serves(api.moves)
  list(@Input() { query }: InputOf<typeof api.moves>): Promise<MoveList> {
    return this.reader.list(query);
  }

  @Serves(api.moveReferences)
  async references(
    @Input() { query }: InputOf<typeof api.moveReferences>,
  ): Promise<{ references: string[] }> {
    return { references: await this.reader.references(query) };
  }

  @Serves(api.addMove)
  add(@Input() { body }: InputOf<typeof api.addMove>, @Actor() actor: ActorOfRequest): Promise<MoveView> {
    const { surveyText, ...start } = body;
    if (surveyText === null) return this.writer.add(actor, start, undefined);
    const survey = readSurvey(surveyText);
    return this.writer.add(actor, start, (move, context) =>
      takeSurvey(move, survey, survey.collector ? 'collector' : 'imported', context),
    );
  }

  @Serves(api.importMove)
  takeIn(
    @Input() { body }: InputOf<typeof api.importMove>,
    @Actor() actor: ActorOfRequest,
  ): Promise<MoveView> {
    const document = importMove(body);
    if (!document.ok) throw new ProblemError(document.problems);
    return this.writer.takeIn(actor, document.value);
  }

  @Serves(api.move)
  one(@Input() { params }: InputOf<typeof api.move>): Promise<MoveView> {
    return this.reader.one(params.reference);
  }

  @Serves(api.exportMove)
  @Header('Content-Disposition', 'attachment')
  document(@Input() { params }: InputOf<typeof api.exportMove>): Promise<MoveExport> {
    return this.reader.document(params.reference);
  }

  @Serves(api.setIdentity)
  identity(
    @Input() { params, body }: InputOf<typeof api.setIdentity>,
    @Actor() actor: ActorOfRequest,
  ): Promise<MoveView> {
    const { version, ...identity } = body;
    return this.writer.change(params.reference, version, actor, (move) => setIdentity(move, identity));
  }

  @Serves(api.callOff)
  callOff(
    @Input() { params, body }: InputOf<typeof api.callOff>,
    @Actor() actor: ActorOfRequest,
  ): Promise<MoveView> {
    return this.writer.change(params.reference, body.version, actor, (move, context) =>
      callOff(move, body.reason, context),
    );
  }

  @Serves(api.resume)
  resume(
    @Input() { params, body }: InputOf<typeof api.resume>,
    @Actor() actor: ActorOfRequest,
  ): Promise<MoveView> {
    return this.writer.change(params.reference, body.version, actor, resume);
  }
}
