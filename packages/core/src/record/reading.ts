import type { MeasuredCopy } from '../backup/copies/measuredCopy';
import type { Catalogue } from '../catalogue/catalogue';
import type { Outcome } from '../outcome/outcome';
import { houseRulesOfMove, type HouseRules } from '../rules/houseRules';
import { decisionInput, planInput, type DecideInput } from '../decide/input';
import { routes } from '../route/catalogueOfRoutes';
import { buildRunbook } from '../runbook/buildRunbook';
import { barrierContext, gates, type GateContext, type GateFinding } from '../runbook/gates';
import type { RunbookInput } from '../runbook/input';
import { isSigned, stepStandings, type StepStanding } from '../runbook/signature';
import { planDifferences, type PlanDifference } from '../runbook/stale';
import type { GateId, Runbook } from '../runbook/step';
import { diskFittedSince } from './fittedDisk';
import type { Move } from './move';
import { detourSteps, heldUp, stopStandings, type TroubleCounts } from './troubles';

/** What a move is read against. */
export type House = {
  readonly catalogue: Catalogue;
  readonly houseRules: HouseRules;
  /** Copies that were timed here, the newest first; none in a house that has timed none. */
  readonly timedCopies?: readonly MeasuredCopy[];
  /** What was found behind each sign here; none in a house that had no trouble yet. */
  readonly troubleCounts?: TroubleCounts;
};

export type GateReading = {
  readonly id: GateId;
  readonly title: string;
  readonly state: GateFinding['state'] | 'overruled';
  readonly sentence: string;
  /** What closes it, each reason; also of one that was overruled. */
  readonly reasons: readonly string[];
  /** How it was found to hold; null where it does not. */
  readonly proof: GateFinding['proof'];
};

/** The barrier before a step above the Line: open once none of its gates is closed. */
export type BarrierReading = { readonly stepId: string; readonly gates: readonly GateReading[] };

export type PlanReading = {
  readonly standings: readonly StepStanding[];
  /** Of the detour that is under way, one a stop; empty where none is. */
  readonly stops: readonly StepStanding[];
  readonly gates: readonly GateReading[];
  readonly barriers: readonly BarrierReading[];
  readonly differences: readonly PlanDifference[];
};

/** What a move is decided from, with its exceptions from house rules and all that is listed, noted and planned so far. */
export function decideInput(
  move: Move,
  { catalogue, houseRules, timedCopies = [] }: House,
  today: string,
): DecideInput {
  const { facts, site, wish, departures, dataSets, destinations, preparation, capsules, diskPlan, decision } =
    move;
  return decisionInput({
    facts,
    catalogue,
    houseRules: houseRulesOfMove(houseRules, departures),
    today,
    wish,
    soFar: {
      exceptions: departures,
      dataSets,
      destinations,
      preparation,
      capsules,
      timedCopies,
      line: houseRules.lines[site] ?? null,
      diskPlan,
      decision,
    },
  });
}

/** What the runbook of this move is generated from; undefined until a route is chosen. */
export function runbookInput(move: Move, house: House): RunbookInput | undefined {
  // No plan hangs on the day.
  return move.decision
    ? planInput(decideInput(move, house, move.decision.at.slice(0, 10)), move.decision)
    : undefined;
}

/** How the made plan differs from what would be planned now. */
function differencesNow(runbook: Runbook, now: Outcome<Runbook>): readonly PlanDifference[] {
  if (now.ok) return planDifferences(runbook, now.value);
  return now.problems.map(({ sentence }) => ({ stepId: '', kind: 'changed', sentence }));
}

/** An overrule covers what was overruled, in the plan for which it was: neither another reason nor another plan. */
function covers(
  { reasons, planAt }: Move['overrules'][number],
  now: readonly string[],
  plan: string | undefined,
): boolean {
  return (
    (reasons === undefined || now.every((reason) => reasons.includes(reason))) &&
    (planAt === undefined || planAt === plan)
  );
}

/** Gates, step standings and staleness of a planned move; undefined without a plan. */
export function readPlan(move: Move, house: House): PlanReading | undefined {
  const input = runbookInput(move, house);
  if (!move.plan || !input) return undefined;
  const { runbook } = move.plan;
  const differences = differencesNow(runbook, buildRunbook(input));
  const above = runbook.steps.slice(0, runbook.lineIndex ?? 0);
  // Serial and size may also be typed at the Line itself, where it has a gate for them.
  const toldAtTheLine = runbook.gates.includes('disk-identified');
  const context = {
    ...input,
    // The gates speak of the plan's own route, even when another has been chosen since.
    route: routes[runbook.routeId],
    copies: move.copies,
    failedChecks: move.failedChecks,
    unsignedAbove: above
      .filter(
        ({ id, kind }) => !(toldAtTheLine && kind === 'identify-disk') && !isSigned(move.signatures, id),
      )
      .map(({ title }) => title),
    diskFittedSince: diskFittedSince(move),
    staleBecause: differences.map(({ sentence }) => sentence),
  };
  const readings = gates
    .filter(({ id }) => runbook.gates.includes(id))
    .map((gate) => readGate(move, gate, context));
  const barriers = [...runbook.steps, ...detourSteps(move)].flatMap(
    ({ id, barrier }): readonly BarrierReading[] =>
      barrier
        ? [
            {
              stepId: id,
              gates: gates
                .filter((gate) => barrier.gates.includes(gate.id))
                .map((gate) =>
                  readGate(
                    move,
                    gate,
                    gate.id === 'copies-verified' ? barrierContext(context, barrier.dataSetIds) : context,
                  ),
                ),
            },
          ]
        : [],
  );
  const closedBarriers = new Map(
    barriers.flatMap(({ stepId, gates: own }) => {
      const closed = own.filter(({ state }) => state === 'closed');
      return closed.length === 0
        ? []
        : [[stepId, `The barrier before it is closed. ${closed.map(({ sentence }) => sentence).join(' ')}`]];
    }),
  );
  const closed = readings.filter(({ state }) => state === 'closed');
  return {
    standings: heldUp(move, stepStandings(runbook, move.signatures, closed, closedBarriers)),
    stops: stopStandings(move, closedBarriers),
    gates: readings,
    barriers,
    differences,
  };
}

/** How a gate stands in a move: open, closed, or overruled for just what closes it. */
function readGate(move: Move, gate: (typeof gates)[number], context: GateContext): GateReading {
  const finding = gate.judge(context);
  const overrule = move.overrules.findLast(
    (one) => one.gateId === gate.id && covers(one, finding.reasons, move.plan?.at),
  );
  return finding.state === 'closed' && overrule
    ? {
        id: gate.id,
        title: gate.title,
        state: 'overruled',
        sentence: `Overruled by ${overrule.by}: ${overrule.reason}`,
        reasons: finding.reasons,
        proof: null,
      }
    : { id: gate.id, title: gate.title, ...finding };
}
