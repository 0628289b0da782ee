import { diskIdOf } from '../runbook/machineOf';
import { diskOf, type DiskState } from '../machine/state';
import type { TroubleContext } from './cause';

/** The disk that the plan writes to, as the machine has it; undefined where it writes to none, or nobody can tell. */
export function diskOfWork({ input, machine }: TroubleContext): DiskState | undefined {
  return input.route.writesOver === 'nothing' ? undefined : diskOf(machine, diskIdOf(input));
}
