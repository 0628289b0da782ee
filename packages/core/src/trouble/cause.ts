import type { Operator } from '../machine/operator';
import type { Machine } from '../machine/state';
import type { RunbookInput } from '../runbook/input';
import type { Step } from '../runbook/step';

/** What a trouble is judged from: the step at which its sign was seen, and the machine as the plan has it then. */
export type TroubleContext = {
  readonly input: RunbookInput;
  readonly step: Step;
  /** Before the step, in one of the states that the survey leaves possible. */
  readonly machine: Machine;
};

/** One stop of a detour, before it has its letter, its barrier and its place. */
export type StopDraft = {
  readonly title: string;
  readonly why: string;
  /** What to see when it worked. */
  readonly success: string;
  readonly caution?: string;
  /** Hands-on minutes. */
  readonly minutes: number;
  /** Minutes in which the device works alone. Default: none. */
  readonly waiting?: number;
  /** What it does to the machine; empty for one that only looks, or changes nothing that a plan depends on. */
  readonly operators: readonly Operator[];
  /** How it is undone when it did not help. Default: there is nothing to undo. */
  readonly undo?: string;
};

export type Remedy = { readonly title: string; readonly stops: readonly StopDraft[] };

/** Excluded, or from hardly ever to nearly always. */
export type Likelihood = 0 | 1 | 2 | 3 | 4;

/** What may be behind a sign on this device. */
export type Cause = {
  /** Unique among the causes of all troubles; kept in records. */
  readonly id: string;
  readonly title: string;
  readonly likelihood: Likelihood;
  /** Why it is likely here, or why it is excluded: from the state, never a general remark. */
  readonly because: string;
  /** How to find out whether it is this one. */
  readonly check: { readonly what: string; readonly minutes: number };
  /** How the machine really is, if this is the cause. Default: as planned. */
  readonly really?: (machine: Machine) => Machine;
  /** A sentence where nothing at this step helps: what to do with the move then. */
  readonly remedy: Remedy | string;
};

export type CausesOf = (context: TroubleContext) => readonly Cause[];
