import { after, isRisky, needsOf, risksOf } from './operatorRules';
import type { PlanStep } from './carryOut';
import type { Machine } from './state';

/** What a barrier asks to be proved: each is what one operator of a plan supplies. */
export const proofsAsked = [
  'verify',
  'identify',
  'connect-mains',
  'keep-sectors',
  'suspend-encryption',
  'note:passphrase',
] as const;
export type ProofAsked = (typeof proofsAsked)[number];

/** What stands before a step that may cost something when it is broken off half-way. */
type Barrier = {
  readonly proofs: readonly ProofAsked[];
  /** The data sets that may be gone: each has to have a copy that counts. */
  readonly sets: readonly string[];
};

/** The machine with nothing proved: what a risky operator needs then is what its barrier asks for. */
const unproved = (machine: Machine): Machine => ({
  ...machine,
  onMains: false,
  notes: machine.notes.filter((note) => note !== 'passphrase'),
  disks: machine.disks.map((disk) => ({ ...disk, identified: false, capsule: false })),
  data: machine.data.map((data) => ({ ...data, good: [] })),
  systems: machine.systems.map((system) => ({
    ...system,
    encryption: system.encryption === 'suspended' ? ('locked' as const) : system.encryption,
  })),
});

/** The barrier before a step in one state; undefined where none of its operators risks anything. */
function barrierOf(machine: Machine, step: PlanStep): Barrier | undefined {
  const proofs = new Set<ProofAsked>();
  const sets = new Set<string>();
  let state = machine;
  let risky = false;
  for (const operator of step.operators) {
    if (isRisky(operator)) {
      risky = true;
      for (const id of risksOf(state, operator)) sets.add(id);
      const suppliers = needsOf(unproved(state), operator).flatMap(({ suppliedBy }) =>
        suppliedBy === 'anything' ? [] : suppliedBy,
      );
      for (const proof of proofsAsked) if (suppliers.includes(proof)) proofs.add(proof);
    }
    state = after(state, operator);
  }
  return risky && proofs.size > 0
    ? { proofs: proofsAsked.filter((proof) => proofs.has(proof)), sets: [...sets] }
    : undefined;
}

/** The barrier before a step whatever is unknown: what any of the states asks for. */
export function barrierInAll(machines: readonly Machine[], step: PlanStep): Barrier | undefined {
  const found = machines.flatMap((machine) => barrierOf(machine, step) ?? []);
  return found.length === 0
    ? undefined
    : {
        proofs: proofsAsked.filter((proof) => found.some(({ proofs }) => proofs.includes(proof))),
        sets: [...new Set(found.flatMap(({ sets }) => sets))],
      };
}
