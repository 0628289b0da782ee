import { addMinutes } from '../src/quantity';
import {
  chooseRoute,
  type CommandContext,
  type Move,
  plan,
  prepare,
  readPlan,
  recordCheck,
  setDataSets,
  setDestinations,
  signStep,
  takeSurvey,
} from '../src/record';
import type { GateId, Step } from '../src/runbook';
import { documents, done, driveB7, emptyMove, laptopSurvey, now, pictures, share, technician } from './shop';

export const clean = {
  routeId: 'clean-whole-disk' as const,
  releaseId: 'corvel-10-business',
  reason: 'The owner asked for a fresh start.',
};

export function surveyed(): Move {
  return done(takeSurvey(emptyMove, laptopSurvey, 'collector', technician));
}

export function saved(): Move {
  let move = done(chooseRoute(surveyed(), clean, technician));
  move = done(setDataSets(move, [documents, pictures], technician));
  return done(setDestinations(move, [driveB7, share], technician));
}

/** A move with its runbook made, and nothing ready yet. */
export function planned(): Move {
  return done(plan(saved(), technician));
}

/** Everything noted that a gate asks for, except copies and signatures. */
export function ready(move: Move): Move {
  return done(
    prepare(
      move,
      {
        stick: { name: 'S-03', serial: 'KST-C7' },
        licence: { kind: 'digital', keptWhere: 'office safe' },
        diskMarks: { serialEnd: '9C2E', sizeGigabytes: 256.1 },
        power: {},
      },
      technician,
    ),
  );
}

export const gateOf = (move: Move, id: GateId) =>
  readPlan(move, technician)?.gates.find((gate) => gate.id === id);
export const later = (minutes: number, context: CommandContext = technician): CommandContext => ({
  ...context,
  now: addMinutes(now, minutes),
});

/** What the installer's page shows of the bench laptop's disk, in GiB though it says GB. */
export const shownByInstaller = { serialEnd: '9C2E', sizeShown: 238.5 };

/** Compares in full every copy that a step verifies; Save then signs the step. */
export function compareAll(move: Move, { effects }: Step, context: CommandContext = technician): Move {
  const pairs = effects.flatMap((effect) =>
    effect.kind === 'verified-copy'
      ? effect.dataSetIds.map((dataSetId) => ({ dataSetId, destinationId: effect.destinationId }))
      : [],
  );
  return pairs.reduce((current, pair) => {
    const files = current.dataSets.find(({ id }) => id === pair.dataSetId)?.fileCount ?? 0;
    const check = { method: 'full' as const, files };
    return done(recordCheck(current, { ...pair, check, count: 0, files: [] }, context));
  }, move);
}

/** Signs every open step until `stopAt`, as a technician would go down the list. */
export function signThrough(move: Move, stopAt?: string): Move {
  let current = move;
  for (let count = 0; count < 60; count += 1) {
    const next = readPlan(current, technician)?.standings.find(({ state }) => state === 'open');
    const step = current.plan?.runbook.steps.find(({ id }) => id === next?.stepId);
    // Accounting for every file signs itself, on Hand over.
    if (!step || step.kind === 'sign-off' || step.kind === 'reconcile' || step.kind === stopAt)
      return current;
    if (step.effects.some(({ kind }) => kind === 'verified-copy')) {
      current = compareAll(current, step, later(count));
      continue;
    }
    const actualMinutes = Math.max(5, Math.ceil(step.waiting.low));
    const atLine = current.plan?.runbook.steps[current.plan.runbook.lineIndex ?? -1] === step;
    const signing = { actualMinutes, note: '', ...(atLine ? { crossing: shownByInstaller } : {}) };
    current = done(signStep(current, step.id, signing, later(count)));
  }
  return current;
}

export const crossable = () => signThrough(ready(planned()), 'erase-disk');
