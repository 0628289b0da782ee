import type { Catalogue, InstallerMediumId } from '../catalogue/catalogue';
import { findModel, findRelease } from '../catalogue/find';
import type { RequirementKind } from '../catalogue/requirement';
import { bootKeys } from '../firmware/bootKey';
import { routes } from '../route/catalogueOfRoutes';
import type { RouteId } from '../route/definition';
import type { Wish } from '../route/wish';
import type { HouseRules } from '../rules/houseRules';
import type { ChosenDisk, ChosenRoom } from '../runbook/chosen';
import type { DiskPlan } from '../runbook/diskPlan';
import { diskWorkOf } from '../runbook/diskWork';
import { asRunbookInput, type PlanGiven, type RunbookInput } from '../runbook/input';
import { nothingPrepared } from '../runbook/preparation';
import { contradictionsOf, undisputedFacts } from '../survey/contradictions';
import { systemDisk } from '../survey/disk';
import { withImplied } from '../survey/emptyDevice';
import { valueOf, type Facts } from '../survey/facts';

declare const made: unique symbol;

/** A way that was chosen: how its installer is brought, and which checks are waived. */
type Chosen = {
  readonly routeId: RouteId;
  readonly releaseId: string | null;
  readonly bringing: InstallerMediumId;
  readonly waivers: readonly RequirementKind[];
  readonly disk?: ChosenDisk | null;
  readonly room?: ChosenRoom | null;
};

/** What has been listed, noted, planned and chosen for a device so far. */
type SoFar = Required<
  Pick<PlanGiven, 'exceptions' | 'dataSets' | 'destinations' | 'preparation' | 'capsules' | 'timedCopies'>
> & {
  readonly diskPlan: DiskPlan | null;
  readonly line?: number | null;
  readonly decision: Chosen | null;
};

type Given = {
  readonly facts: Facts;
  readonly catalogue: Catalogue;
  readonly houseRules: HouseRules;
  /** ISO date. */
  readonly today: string;
  /** Why the move is made; undefined or null where nobody has said. */
  readonly wish?: Wish | null;
  /** Default: nothing yet. */
  readonly soFar?: SoFar;
};

/** What is decided from. Only `decisionInput` makes one. */
export type DecideInput = Given & { readonly [made]: true };

export function decisionInput(given: Given): DecideInput {
  return given as DecideInput;
}

const nothingYet: SoFar = {
  exceptions: [],
  dataSets: [],
  destinations: [],
  preparation: nothingPrepared,
  capsules: [],
  timedCopies: [],
  diskPlan: null,
  decision: null,
};

export function soFarOf({ soFar = nothingYet }: DecideInput): SoFar {
  return soFar;
}

/** Facts that contradict each other count as unknown, for the decision and for the plan alike. */
function undisputed({ facts, catalogue }: Pick<DecideInput, 'facts' | 'catalogue'>): Facts {
  return withImplied(undisputedFacts(facts, contradictionsOf(facts, catalogue)));
}

/** The scheme that the disk with the present system gets first; a conversion of another disk changes no rule. */
export function convertingOf(input: DecideInput): 'gpt' | 'mbr' | undefined {
  const { diskPlan } = soFarOf(input);
  return diskPlan?.work.kind === 'convert' &&
    diskPlan.disk === systemDisk(valueOf(input.facts, 'disks'))?.name
    ? diskPlan.work.target
    : undefined;
}

/** What plans for a device have in common, whatever the way. */
export type DeviceGiven = Omit<SoFar, 'diskPlan' | 'decision'> &
  Pick<PlanGiven, 'present' | 'today' | 'facts' | 'model' | 'keys' | 'houseRules' | 'families'> & {
    readonly planned: DiskPlan | null;
  };

export function deviceGiven(input: DecideInput, facts: Facts = undisputed(input)): DeviceGiven {
  const { catalogue, houseRules } = input;
  const { diskPlan, decision: _decision, ...soFar } = soFarOf(input);
  const maker = valueOf(facts, 'maker');
  const { model } = findModel(catalogue, maker, valueOf(facts, 'model'), valueOf(facts, 'year'));
  return {
    ...soFar,
    planned: diskPlan,
    present: findRelease(catalogue, valueOf(facts, 'presentRelease')),
    today: input.today,
    facts,
    model,
    keys: bootKeys(model, maker, catalogue),
    families: catalogue.families,
    houseRules,
  };
}

/** The input of a plan for one way. What is planned on a disk is planned anew: it may not be possible on every route. */
export function wayInput(
  device: DeviceGiven,
  {
    route,
    release,
    bringing,
    waivers,
    disk = null,
    room = null,
  }: Pick<Chosen, 'bringing' | 'waivers' | 'disk' | 'room'> & Pick<PlanGiven, 'route' | 'release'>,
): RunbookInput {
  // Field by field: this runs for every option of every device.
  const given: PlanGiven = {
    route,
    release,
    installerMedium: bringing,
    waivers,
    disk,
    room,
    present: device.present,
    today: device.today,
    facts: device.facts,
    model: device.model,
    keys: device.keys,
    houseRules: device.houseRules,
    exceptions: device.exceptions,
    dataSets: device.dataSets,
    destinations: device.destinations,
    preparation: device.preparation,
    capsules: device.capsules,
    timedCopies: device.timedCopies,
    line: device.line ?? null,
    families: device.families ?? [],
  };
  return asRunbookInput(
    device.planned ? { ...given, diskPlan: diskWorkOf(device.facts, device.planned, route) } : given,
  );
}

/** What a plan for a way is made from: by the page, the server, and where options are counted. */
export function planInput(input: DecideInput, chosen: Chosen): RunbookInput {
  return wayInput(deviceGiven(input), {
    ...chosen,
    route: routes[chosen.routeId],
    release: findRelease(input.catalogue, chosen.releaseId ?? undefined),
  });
}
