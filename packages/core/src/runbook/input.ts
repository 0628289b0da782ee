import type { TroubleId } from './troubles';
import type { DataSet, Destination } from '../backup/scope/dataSet';
import type { MeasuredCopy } from '../backup/copies/measuredCopy';
import type { Catalogue, InstallerMediumId, Model, Release } from '../catalogue/catalogue';
import type { BootKeys } from '../firmware/bootKey';
import type { RequirementKind } from '../catalogue/requirement';
import type { RuleException, HouseRules } from '../rules/houseRules';
import type { StepKind } from '../rules/stepTimes';
import type { RouteDefinition } from '../route/definition';
import type { Facts } from '../survey/facts';
import type { ThreePoint } from '../quantity/duration';
import type { Outcome } from '../outcome/outcome';
import type { ChosenDisk, ChosenRoom } from './chosen';
import type { Capsule } from './diskPlan';
import type { DiskWorkPlan } from './diskWork';
import type { Preparation } from './preparation';
import type { Operator } from '../machine/operator';
import type { Effect } from './step';

declare const made: unique symbol;

/** All that a runbook is generated from. Made by `planInput` alone: page, server and Decide count and plan from the same. */
export type RunbookInput = PlanGiven & { readonly [made]: true };

/** What `planInput` gathers. */
export type PlanGiven = {
  readonly route: RouteDefinition;
  readonly installerMedium: InstallerMediumId;
  /** Checks that the installer is told to skip, each chosen by itself. */
  readonly waivers: readonly RequirementKind[];
  readonly release: Release | undefined;
  readonly present: Release | undefined;
  /** ISO date: the day of the decision. What gets fixes on it need not be isolated yet. */
  readonly today: string;
  readonly facts: Facts;
  readonly model: Model | undefined;
  /** Which keys open boot menu and set-up. */
  readonly keys: BootKeys;
  readonly houseRules: HouseRules;
  /** Settings in which this move makes an exception from a house rule; `houseRules` has them in it. */
  readonly exceptions: readonly RuleException[];
  readonly dataSets: readonly DataSet[];
  readonly destinations: readonly Destination[];
  readonly preparation: Preparation;
  /** The disk and the room that were chosen; default: as the route goes. */
  readonly disk?: ChosenDisk | null;
  readonly room?: ChosenRoom | null;
  /** What is planned on the disk's table; problems when it cannot be done any more. */
  readonly diskPlan?: Outcome<DiskWorkPlan>;
  readonly capsules?: readonly Capsule[];
  /** Of the catalogue: how things are done in each. */
  readonly families?: Catalogue['families'];
  /** What the line of the device’s site carries, megabits a second; null or absent where nobody has said. */
  readonly line?: number | null;
  /** Copies that this house has timed. */
  readonly timedCopies?: readonly MeasuredCopy[];
};

/** The one place in which an input comes about; nothing outside of core reaches it. */
export function asRunbookInput(given: PlanGiven): RunbookInput {
  return given as RunbookInput;
}

/** What makers of steps see: disk work that can be done, or none. */
export type StepInput = RunbookInput & { readonly diskWork?: DiskWorkPlan };

/** What a step says to the one who does it. */
export type StepWords = {
  readonly title: string;
  readonly why: string;
  /** What to see when it worked. */
  readonly success: string;
  readonly caution?: string;
};

export function withDiskWork(given: RunbookInput): StepInput {
  const { diskPlan } = given;
  // A copy only where there is work: this runs for every option of every device.
  return diskPlan?.ok ? { ...given, diskWork: diskPlan.value } : given;
}

/** What a kind of step says of itself; the builder adds stage, times and defaults. */
export type StepDraft = {
  /** Default: the kind. */
  readonly id?: string;
  /** Default: the kind that was asked for. */
  readonly kind?: StepKind;
  /** Asked only for a plan that somebody looks at: counting needs none. */
  readonly words: () => StepWords;
  /** Default: what the kind takes. */
  readonly handsOn?: ThreePoint;
  readonly extraWaiting?: ThreePoint;
  /** Money, whole units of the house's currency. Default: none. */
  readonly cost?: number;
  readonly destructive?: boolean;
  readonly requiresLead?: boolean;
  readonly effects?: readonly Effect[];
  /** What it does to the machine, in this order; empty for a courtesy. */
  readonly operators: () => readonly Operator[];
  readonly troubles?: readonly TroubleId[];
};

/** One kind of step: none, one or several drafts for this input. */
export type StepMaker = (input: StepInput) => readonly StepDraft[];
