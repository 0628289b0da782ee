import type { Machine } from '@ulvane/core/machine';
import { runbookInput } from '@ulvane/core/record';
import { planDisks, planStates, type PlanDisk } from '@ulvane/core/runbook';
import { useMemo } from 'react';
import { useOpenMove } from '../MoveContext';

type Planned = {
  readonly states: Extract<ReturnType<typeof planStates>, { readonly ok: true }>['value'];
  readonly disks: readonly PlanDisk[];
};

/** The plan as it would be made now, carried out step by step; undefined where it cannot be made. */
export function usePlanned(): Planned | undefined {
  const { move, house } = useOpenMove();
  return useMemo(() => {
    const input = runbookInput(move, house);
    const states = input && planStates(input);
    return input && states?.ok ? { states: states.value, disks: planDisks(input, states.value) } : undefined;
  }, [move, house]);
}

/** Good copies of a data set at one moment: elsewhere, on the device, or back in its place. */
export function copiesIn({ original, good, back }: Machine['data'][number]): number {
  return good.length + (original === 'gone' ? 0 : 1) + (back && original === 'gone' ? 1 : 0);
}
