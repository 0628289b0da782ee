import { findModel, findRelease, type Model, type Release } from '@ulvane/core/catalogue';
import { bootKeys, type BootKeys } from '@ulvane/core/firmware';
import { decideInput, readPlan, type PlanReading } from '@ulvane/core/record';
import { decide, type Choice, type DecideInput } from '@ulvane/core/decide';
import { valueOf } from '@ulvane/core/survey';
import memoizeOne from 'memoize-one';
import { useOpenMove } from './MoveContext';
import { useDay } from '../shell/useDay';

// One move is open: whoever reads it in the same state shares one reading.
const inputOf = memoizeOne(decideInput);
const choiceOf = memoizeOne(decide);
const planReadingOf = memoizeOne(readPlan);

/** What the open move is decided from. */
export function useDecideInput(): DecideInput {
  const { move, house } = useOpenMove();
  const today = useDay();
  return inputOf(move, house, today);
}

/** Assessment and candidates of the open move. */
export function useChoice(): Choice {
  return choiceOf(useDecideInput());
}

/** Gates, step standings and staleness; undefined without a plan. */
export function usePlanReading(): PlanReading | undefined {
  const { move, house } = useOpenMove();
  return planReadingOf(move, house);
}

function useModel(): Model | undefined {
  const { move, house } = useOpenMove();
  return findModel(
    house.catalogue,
    valueOf(move.facts, 'maker'),
    valueOf(move.facts, 'model'),
    valueOf(move.facts, 'year'),
  ).model;
}

export function useTarget(): Release | undefined {
  const { move, house } = useOpenMove();
  return findRelease(house.catalogue, move.decision?.releaseId ?? undefined);
}

/** Which keys open boot menu and set-up of the open move's device. */
export function useBootKeys(): BootKeys {
  const { move, house } = useOpenMove();
  return bootKeys(useModel(), valueOf(move.facts, 'maker'), house.catalogue);
}
