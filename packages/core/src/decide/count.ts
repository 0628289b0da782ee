import type { InstallerMediumId } from '../catalogue/catalogue';
import type { StepKind } from '../rules/stepTimes';
import type { RouteId } from '../route/definition';
import { kindsOf, timesOf } from '../runbook/draftSteps';
import { withDiskWork, type RunbookInput, type StepInput } from '../runbook/input';
import { stepMakers } from '../runbook/stepMakers';

/** What a plan comes to: the likely minutes of its steps, and the money for what they fit. */
export type PlanCount = {
  readonly handsOnMinutes: number;
  readonly waitingMinutes: number;
  readonly cost: number;
};

/**
 * Kinds of steps whose number and times are the same for all options of a device, for all targets of a route, or for a
 * release on whatever route: they are drafted once and not for each. Whatever is not named here is drafted for every option.
 */
export const hangsOn: Readonly<Partial<Record<StepKind, 'device' | 'route' | 'release'>>> = {
  'forgotten-things': 'device',
  'full-image': 'device',
  copy: 'device',
  verify: 'device',
  isolate: 'device',
  'end-date': 'device',
  'fetch-image': 'release',
  'write-stick': 'release',
  'fit-part': 'release',
  'record-licence': 'release',
  'record-consents': 'route',
  // Which disks lie beside the one that is written hangs on the route.
  'record-recovery-key': 'route',
  'pair-device': 'device',
  'move-data': 'route',
  'burn-disc': 'device',
  'make-installer-partition': 'device',
  'open-image': 'device',
  'write-shim': 'device',
  'try-live': 'device',
  'carry-drivers': 'release',
  'fast-start-off': 'device',
  'suspend-encryption': 'device',
  charger: 'device',
  'fit-second-disk': 'device',
  'other-disks': 'route',
  'identify-disk': 'device',
  'start-upgrade': 'device',
  'start-from-stick': 'device',
  'start-from-disc': 'device',
  'start-from-partition': 'device',
  'start-installer': 'device',
  'start-by-key': 'device',
  'erase-disk': 'device',
  'format-system': 'device',
  'wipe-old-disk': 'device',
  'stick-out': 'device',
  'disc-out': 'device',
  'make-data-partition': 'release',
  'shim-to-disk': 'device',
  'updates-by-hand': 'device',
  'driver-patch': 'device',
  'first-start': 'device',
  'other-disks-back': 'route',
  'resume-encryption': 'device',
  'boot-menu': 'device',
  updates: 'device',
  'optional-updates': 'device',
  drivers: 'device',
  activate: 'release',
  firewall: 'device',
  restore: 'route',
  'isolate-old-system': 'device',
  applications: 'device',
  habits: 'device',
  'installer-partition-away': 'device',
  disposal: 'device',
  reconcile: 'device',
  'sign-off': 'device',
};

/** What no plan comes to. */
export const nothing: PlanCount = { handsOnMinutes: 0, waitingMinutes: 0, cost: 0 };

const plus = (a: PlanCount, b: PlanCount): PlanCount => ({
  handsOnMinutes: a.handsOnMinutes + b.handsOnMinutes,
  waitingMinutes: a.waitingMinutes + b.waitingMinutes,
  cost: a.cost + b.cost,
});

function countOfKind(asked: StepKind, input: StepInput): PlanCount {
  let handsOnMinutes = 0;
  let waitingMinutes = 0;
  let cost = 0;
  for (const draft of stepMakers[asked].make(input)) {
    const { handsOn, waiting } = timesOf(draft.kind ?? asked, draft);
    handsOnMinutes += handsOn.likely;
    waitingMinutes += waiting.likely;
    cost += draft.cost ?? 0;
  }
  return { handsOnMinutes, waitingMinutes, cost };
}

/** Kinds by what they hang on. */
type Sorted = Readonly<Record<'device' | 'route' | 'release' | 'option', readonly StepKind[]>>;

/** Lists of kinds are made once for a route and a medium. */
const sortedKinds = new WeakMap<readonly StepKind[], Sorted>();

function sorted(kinds: readonly StepKind[]): Sorted {
  const known = sortedKinds.get(kinds);
  if (known) return known;
  const each = (on: keyof Sorted) => kinds.filter((kind) => (hangsOn[kind] ?? 'option') === on);
  const made = {
    device: each('device'),
    route: each('route'),
    release: each('release'),
    option: each('option'),
  };
  sortedKinds.set(kinds, made);
  return made;
}

/**
 * Counts plans of one device: the steps that a runbook for the same input holds, without their words. Inputs differ in
 * route, release, medium and waivers alone: what differs otherwise is counted by a counter of its own.
 */
export function planCounter(): (input: RunbookInput) => PlanCount {
  const ofDevice = new Map<StepKind, PlanCount>();
  const ofRoute = new Map<RouteId, Partial<Record<InstallerMediumId, PlanCount>>>();
  const ofRelease = new Map<string, Map<StepKind, PlanCount>>();
  const once = (counts: Map<StepKind, PlanCount>, kind: StepKind, input: StepInput): PlanCount => {
    const known = counts.get(kind);
    if (known) return known;
    const count = countOfKind(kind, input);
    counts.set(kind, count);
    return count;
  };
  const shared = (input: StepInput, { device, route }: Sorted): PlanCount => {
    const { id } = input.route;
    const known = ofRoute.get(id);
    const before = known?.[input.installerMedium];
    if (before) return before;
    let count = nothing;
    for (const kind of device) count = plus(count, once(ofDevice, kind, input));
    for (const kind of route) count = plus(count, countOfKind(kind, input));
    ofRoute.set(id, { ...known, [input.installerMedium]: count });
    return count;
  };
  return (given) => {
    const input = withDiskWork(given);
    const kinds = sorted(kindsOf(input));
    let { handsOnMinutes, waitingMinutes, cost } = shared(input, kinds);
    const add = (more: PlanCount) => {
      handsOnMinutes += more.handsOnMinutes;
      waitingMinutes += more.waitingMinutes;
      cost += more.cost;
    };
    const { release, installerMedium, waivers } = input;
    const key = [release?.id, installerMedium, ...waivers].join(' ');
    const counts = ofRelease.get(key) ?? new Map<StepKind, PlanCount>();
    ofRelease.set(key, counts);
    for (const kind of kinds.release) add(once(counts, kind, input));
    for (const kind of kinds.option) add(countOfKind(kind, input));
    return { handsOnMinutes, waitingMinutes, cost };
  };
}
