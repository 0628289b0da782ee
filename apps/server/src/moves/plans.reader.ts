import { Injectable } from '@nestjs/common';
import { decide } from '@ulvane/core/decide';
import { decideInput, ownerHabits, readPlan, runbookInput } from '@ulvane/core/record';
import { planStates } from '@ulvane/core/runbook';
import { Clock } from '../clock/clock';
import { ProblemError, refuse } from '../http/problem';
import { HouseService } from '../house/house.service';
import { MovesReader } from './moves.reader';

/** What a move could become, and the plan of what was chosen, as programs read them. */
@Injectable()
export class PlansReader {
  constructor(
    private readonly reader: MovesReader,
    private readonly house: HouseService,
    private readonly clock: Clock,
  ) {}

  async options(reference: string) {
    const { version, move } = await this.reader.one(reference);
    const house = await this.house.house();
    const today = this.clock.today(house.houseRules.timeZone);
    const { advised, candidates, problems } = decide(decideInput(move, house, today));
    const { routeId, releaseId } = advised;
    return { version, advised: { routeId, releaseId }, options: candidates, problems };
  }

  /** What the owner was shown and set up with their earlier devices, the latest first. */
  async ownerHabits(reference: string) {
    const { move } = await this.reader.one(reference);
    return { owner: move.owner, earlier: ownerHabits(await this.reader.ofOwner(move)) };
  }

  async runbook(reference: string) {
    const { version, move } = await this.reader.one(reference);
    const house = await this.house.house();
    const input = runbookInput(move, house);
    if (!input) throw refuse('no-route', 'No route is chosen yet: choose one on Decide.');
    const planned = planStates(input);
    if (!planned.ok) throw new ProblemError(planned.problems);
    const { runbook, before, steps, possible } = planned.value;
    const reading = readPlan(move, house);
    return {
      version,
      title: runbook.title,
      lineIndex: runbook.lineIndex,
      lineSentence: runbook.lineSentence,
      gates: reading?.gates ?? [],
      differences: reading?.differences.map(({ sentence }) => sentence) ?? null,
      before,
      possible,
      steps: steps.map(({ step, operators, after }, index) => ({
        number: index + 1,
        step,
        operators,
        standing: reading?.standings.find(({ stepId }) => stepId === step.id) ?? null,
        barrier: reading?.barriers.find(({ stepId }) => stepId === step.id)?.gates ?? [],
        after,
      })),
    };
  }
}
