import { Controller } from '@nestjs/common';
import { api, type MoveView } from '@ulvane/contract';
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
  tickCopy,
  type PreparationPatch,
} from '@ulvane/core/record';
import { ProblemError } from '../http/problem';
import { Actor, Input, Serves, type ActorOfRequest, type InputOf } from '../http/serves';
import { MovesWriter } from './moves.writer';

/** Drops the keys that a partial body left out, so that absent and undefined are the same. */
function given(patch: InputOf<typeof api.prepare>['body']['preparation']): PreparationPatch {
  return Object.fromEntries(Object.entries(patch).filter(([, value]) => value !== undefined));
}

/** Decide, Save and Prepare. */
@Controller()
export class PlanController {
  constructor(private readonly writer: MovesWriter) {}

  @Serves(api.choose)
  choose(
    @Input() { params, body }: InputOf<typeof api.choose>,
    @Actor() actor: ActorOfRequest,
  ): Promise<MoveView> {
    return this.writer.change(params.reference, body.version, actor, (move, context) =>
      chooseRoute(move, body, context),
    );
  }

  @Serves(api.depart)
  depart(
    @Input() { params, body }: InputOf<typeof api.depart>,
    @Actor() actor: ActorOfRequest,
  ): Promise<MoveView> {
    return this.writer.change(params.reference, body.version, actor, (move, context) =>
      depart(move, body, context),
    );
  }

  @Serves(api.planDisk)
  planDisk(
    @Input() { params, body }: InputOf<typeof api.planDisk>,
    @Actor() actor: ActorOfRequest,
  ): Promise<MoveView> {
    return this.writer.change(params.reference, body.version, actor, (move, context) =>
      planDisk(move, body, context),
    );
  }

  @Serves(api.keepCapsule)
  capsule(
    @Input() { params, body }: InputOf<typeof api.keepCapsule>,
    @Actor() actor: ActorOfRequest,
  ): Promise<MoveView> {
    const { version, ...capsule } = body;
    // What was decoded once is checked once more: a capsule that does not hold together undoes nothing.
    const undo = parseWrites(capsule.undo);
    if (!undo.ok) throw new ProblemError(undo.problems);
    return this.writer.change(params.reference, version, actor, (move, context) =>
      keepCapsule(move, capsule, context),
    );
  }

  @Serves(api.setDataSets)
  dataSets(
    @Input() { params, body }: InputOf<typeof api.setDataSets>,
    @Actor() actor: ActorOfRequest,
  ): Promise<MoveView> {
    return this.writer.change(params.reference, body.version, actor, (move, context) =>
      setDataSets(move, body.dataSets, context),
    );
  }

  @Serves(api.setDestinations)
  destinations(
    @Input() { params, body }: InputOf<typeof api.setDestinations>,
    @Actor() actor: ActorOfRequest,
  ): Promise<MoveView> {
    return this.writer.change(params.reference, body.version, actor, (move, context) =>
      setDestinations(move, body.destinations, context),
    );
  }

  @Serves(api.tickCopy)
  tick(
    @Input() { params, body }: InputOf<typeof api.tickCopy>,
    @Actor() actor: ActorOfRequest,
  ): Promise<MoveView> {
    return this.writer.change(params.reference, body.version, actor, (move, context) =>
      tickCopy(move, body, context),
    );
  }

  @Serves(api.prepare)
  prepare(
    @Input() { params, body }: InputOf<typeof api.prepare>,
    @Actor() actor: ActorOfRequest,
  ): Promise<MoveView> {
    return this.writer.change(params.reference, body.version, actor, (move, context) =>
      prepare(move, given(body.preparation), context),
    );
  }

  @Serves(api.plan)
  plan(
    @Input() { params, body }: InputOf<typeof api.plan>,
    @Actor() actor: ActorOfRequest,
  ): Promise<MoveView> {
    return this.writer.change(params.reference, body.version, actor, plan);
  }
}
