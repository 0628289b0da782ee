import { Controller } from '@nestjs/common';
import { api, type MoveView } from '@ulvane/contract';
import {
  correctStep,
  noteHandover,
  overruleGate,
  signOff,
  tellOwner,
  signStep,
  startStep,
  unsignStep,
} from '@ulvane/core/record';
import { gateIds } from '@ulvane/core/runbook';
import { refuse } from '../http/problem';
import { Actor, Input, Serves, type ActorOfRequest, type InputOf } from '../http/serves';
import { MovesWriter } from './moves.writer';

/** Cross, Settle and Hand over. */
@Controller()
export class RunbookController {
  constructor(private readonly writer: MovesWriter) {}

  @Serves(api.startStep)
  start(
    @Input() { params, body }: InputOf<typeof api.startStep>,
    @Actor() actor: ActorOfRequest,
  ): Promise<MoveView> {
    return this.writer.change(params.reference, body.version, actor, (move, context) =>
      startStep(move, params.stepId, context, body.crossing ?? null),
    );
  }

  @Serves(api.signStep)
  sign(
    @Input() { params, body }: InputOf<typeof api.signStep>,
    @Actor() actor: ActorOfRequest,
  ): Promise<MoveView> {
    return this.writer.change(params.reference, body.version, actor, (move, context) =>
      signStep(move, params.stepId, body, context),
    );
  }

  @Serves(api.unsignStep)
  unsign(
    @Input() { params, body }: InputOf<typeof api.unsignStep>,
    @Actor() actor: ActorOfRequest,
  ): Promise<MoveView> {
    return this.writer.change(params.reference, body.version, actor, (move, context) =>
      unsignStep(move, params.stepId, body.reason, context),
    );
  }

  @Serves(api.overruleGate)
  overrule(
    @Input() { params, body }: InputOf<typeof api.overruleGate>,
    @Actor() actor: ActorOfRequest,
  ): Promise<MoveView> {
    const gateId = gateIds.find((id) => id === params.gateId);
    if (!gateId) throw refuse('no-such-gate', `There is no gate named ${params.gateId}.`);
    return this.writer.change(params.reference, body.version, actor, (move, context) =>
      overruleGate(move, gateId, body.reason, context),
    );
  }

  @Serves(api.correctStep)
  correct(
    @Input() { params, body }: InputOf<typeof api.correctStep>,
    @Actor() actor: ActorOfRequest,
  ): Promise<MoveView> {
    return this.writer.change(params.reference, body.version, actor, (move, context) =>
      correctStep(move, params.stepId, body.reason, context),
    );
  }

  @Serves(api.noteHandover)
  note(
    @Input() { params, body }: InputOf<typeof api.noteHandover>,
    @Actor() actor: ActorOfRequest,
  ): Promise<MoveView> {
    return this.writer.change(params.reference, body.version, actor, (move, context) =>
      noteHandover(move, body.handover, context),
    );
  }

  @Serves(api.tellOwner)
  tell(
    @Input() { params, body }: InputOf<typeof api.tellOwner>,
    @Actor() actor: ActorOfRequest,
  ): Promise<MoveView> {
    return this.writer.change(params.reference, body.version, actor, (move, context) =>
      tellOwner(move, body, context),
    );
  }

  @Serves(api.signOff)
  signOff(
    @Input() { params, body }: InputOf<typeof api.signOff>,
    @Actor() actor: ActorOfRequest,
  ): Promise<MoveView> {
    return this.writer.change(params.reference, body.version, actor, (move, context) =>
      signOff(move, body.ownerName, context),
    );
  }
}
