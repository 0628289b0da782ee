import { riskOf } from '../backup/scope/scope';
import type { InstallerMediumId, LoaderSignature } from '../catalogue/catalogue';
import type { NewSystem, WorkPlace } from '../machine/operator';
import { startingMode } from '../media/startingMode';
import type {
  DiskState,
  FirmwareState,
  Machine,
  MediumState,
  Mode,
  OriginalPlace,
  Scheme,
} from '../machine/state';
import { diskMark, isFixed, secondDisk, systemDisk, type Disk } from '../survey/disk';
import { ownDisk } from '../survey/emptyDevice';
import { isEmptyDevice, valueOf } from '../survey/facts';
import { diskToWrite } from './diskToWrite';
import type { StepInput } from './input';
import { imageIsFetched } from './mediumOf';
import { partsToFit } from './partsToFit';
import { hasRoom } from './roomToMake';
import { startOn, type StartGiven } from './startOn';

/** Stand for disks that the survey cannot tell yet: one is identified before it is written. */
const untoldDisk = 'untold';
const untoldSecond = 'untold-second';

type WriteGiven = Pick<StepInput, 'facts' | 'route' | 'disk'>;

/** The name of the disk that the route writes to. */
export function diskIdOf(input: WriteGiven): string {
  const { route } = input;
  return diskToWrite(input)?.name ?? (route.writesOver === 'second-disk' ? untoldSecond : untoldDisk);
}

/** The name of the disk with the present system. */
export function presentDiskId({ facts }: Pick<StepInput, 'facts'>): string {
  return ownDisk(facts)?.name ?? untoldDisk;
}

const mediumKinds: Readonly<Record<InstallerMediumId, MediumState['kind']>> = {
  stick: 'stick',
  'optical-disc': 'disc',
  'disk-partition': 'partition',
  'running-system': 'image',
};

/** Whether one of the device's adapters works with a driver that comes with the release. */
export function hasNetworkDriver({ facts, release }: Pick<StepInput, 'facts' | 'release'>): boolean {
  return (
    valueOf(facts, 'networkAdapters')?.some(
      ({ driver }) => driver !== undefined && release?.bundledDrivers.includes(driver) === true,
    ) === true
  );
}

/** The names of attached devices that need their maker's driver. */
export function devicesWithoutDriver(facts: StepInput['facts']): readonly string[] {
  return (valueOf(facts, 'attachedDevices') ?? [])
    .filter(({ needsDriver }) => needsDriver)
    .map(({ name }) => name);
}

/** The fixed disks that the route does not write to, and that stay in the device meanwhile. */
export function disksBeside(input: WriteGiven): readonly Disk[] {
  const { facts, route } = input;
  const disks = valueOf(facts, 'disks') ?? [];
  const written = diskToWrite(input);
  // Beside on a second disk the first one is unplugged by a step of its own.
  const unplugged = route.steps.includes('fit-second-disk') ? systemDisk(disks) : undefined;
  return disks.filter((disk) => disk !== written && disk !== unplugged && isFixed(disk));
}

/** Encrypted disks beside, where the present system that unlocks them goes. */
export function unlockedByPresent(input: WriteGiven): readonly Disk[] {
  const { writesOver } = input.route;
  if (isEmptyDevice(input.facts) || (writesOver !== 'whole-disk' && writesOver !== 'system-partition'))
    return [];
  return disksBeside(input).filter(({ partitions }) =>
    partitions.some(({ encrypted }) => encrypted === true),
  );
}

/** The modes that the medium is written for; both where nobody knows yet in which one it is started. */
export function installerModes(input: StartGiven): readonly Mode[] {
  const on = startOn(input);
  const mode = on ? startingMode(on) : 'unknown';
  return mode === 'unknown' ? ['uefi', 'legacy'] : [mode];
}

/** Where the owner works when the route is done. */
export function workPlace({ route }: Pick<StepInput, 'route'>): WorkPlace {
  if (route.hasTarget) return 'target';
  return route.id === 'replace' ? 'new-device' : 'present';
}

/** The data sets that the route writes over. */
export function setsAtRisk({ dataSets, route }: Pick<StepInput, 'dataSets' | 'route'>): readonly string[] {
  return dataSets.filter((dataSet) => riskOf(dataSet, route.writesOver) === 'at-risk').map(({ id }) => id);
}

/**
 * When the plan switches disk encryption on: as the house wants it, or at the other moment where the release cannot do
 * that. Null where the house does not encrypt, and where a system stays in its place with what it has.
 */
export function encryptedWhen({
  houseRules,
  route,
  facts,
  release,
}: Pick<StepInput, 'houseRules' | 'route' | 'facts' | 'release'>): 'during-setup' | 'after' | null {
  const wanted = houseRules.encryption;
  if (wanted === 'off' || (isInPlace(route) && valueOf(facts, 'diskEncryption') === 'on')) return null;
  return release === undefined || release.encryptsAt.includes(wanted)
    ? wanted
    : (release.encryptsAt[0] ?? wanted);
}

/** Whether the stick is put first in the firmware's order to start the installer, and the disk back afterwards. */
export function changesBootOrder({
  houseRules,
  installerMedium,
  route,
}: Pick<StepInput, 'houseRules' | 'installerMedium' | 'route'>): boolean {
  return (
    houseRules.boot === 'change-order' &&
    installerMedium === 'stick' &&
    route.steps.includes('start-from-stick')
  );
}

/** What is known of the system that the route puts on the disk. */
export function newSystem(input: StepInput): NewSystem {
  const { route, release } = input;
  const on = startOn(input);
  const mode = on ? startingMode(on) : 'unknown';
  return {
    disk: diskIdOf(input),
    mode: mode === 'unknown' ? undefined : mode,
    consents: route.consent.length > 0,
    after: {
      needsShim: route.id === 'patched-install',
      signature: release?.loader ?? 'signed',
      licence: release?.activation.some((kind) => kind !== 'none') === true,
      networkDriver: hasNetworkDriver(input),
    },
  };
}

/** Whether a system takes the place of the present one, with what the owner has there. */
export const isInPlace = ({ steps }: StepInput['route']): boolean =>
  steps.includes('start-upgrade') || steps.includes('install-over');

/** Whether the maker of the release asks that the present system is brought up to date before it takes its place. */
export function updatesFirst({ route, release }: Pick<StepInput, 'route' | 'release'>): boolean {
  return isInPlace(route) && release?.presentUpdatedFirst === true;
}

/** Whether the present system makes a recovery medium of itself. */
export function makesRecovery({ present }: Pick<StepInput, 'present'>): boolean {
  return present !== undefined && present.recoveryMediumBytes > 0;
}

const either = <T>(known: T | undefined, ...values: readonly T[]): readonly T[] =>
  known === undefined ? values : [known];

/** Every pair of one and the other. */
const times = <A, B>(as: readonly A[], bs: readonly B[]): readonly (A & B)[] =>
  as.flatMap((a) => bs.map((b) => ({ ...a, ...b })));

function firmwares(input: StepInput, scheme: Scheme | undefined): readonly FirmwareState[] {
  const { facts, model, release } = input;
  const mode = valueOf(facts, 'firmwareMode');
  const uefi = model?.uefiCapable !== false || mode === 'uefi' || mode === 'uefi-with-legacy';
  // Where nobody knows, the present system starts in the mode that suits its disk, perhaps beside the other one.
  const suiting = scheme === 'gpt' ? ('uefi' as const) : ('legacy' as const);
  const guessed =
    scheme === 'gpt' || scheme === 'mbr'
      ? ([suiting, ...(uefi ? (['uefi-with-legacy'] as const) : [])] as const)
      : release && !release.firmwareModes.includes('legacy') && !uefi
        ? (['uefi'] as const)
        : (['uefi', 'legacy'] as const);
  const possible = mode === undefined ? guessed : [mode];
  const secure = valueOf(facts, 'secureBoot');
  const chip = valueOf(facts, 'tpm');
  const can: readonly Mode[] = uefi ? ['uefi', 'legacy'] : ['legacy'];
  return possible.flatMap((one) =>
    times(
      either(
        secure === undefined
          ? undefined
          : secure === 'not-supported'
            ? model?.secureBootCapable
              ? ('off' as const)
              : ('none' as const)
            : secure,
        'on' as const,
        'off' as const,
      ).map((secureBoot) => ({
        // Secure Boot is a matter of UEFI mode.
        secureBoot: one === 'uefi' || secureBoot === 'none' ? secureBoot : ('off' as const),
      })),
      times(
        either(
          chip === undefined
            ? undefined
            : chip === 'none'
              ? ('none' as const)
              : chip === 'present-off'
                ? ('off' as const)
                : ('on' as const),
          'on' as const,
          'off' as const,
        ).map((state) => ({ chip: state })),
        [false, true].map((usbStart) => ({ usbStart })),
      ),
    ).flatMap((switches) => {
      const starts = one === 'uefi-with-legacy' ? (['uefi', 'legacy'] as const) : [one];
      return othersLoaders(input, { starts, ...switches }).map((others) => ({
        starts,
        can,
        first: 'disk' as const,
        othersLoaders: others,
        ...switches,
      }));
    }),
  );
}

/** What runs now starts: where Secure Boot is on, an unsigned loader cannot be what the catalogue says of the release. */
function presentSignature({ present }: StepInput, { starts, secureBoot }: FirmwareState): LoaderSignature {
  const loader = present?.loader ?? 'signed';
  return loader === 'unsigned' && secureBoot === 'on' && starts.includes('uefi') ? 'signed' : loader;
}

/** Whether loaders that others signed are started: both, where the new one is such; as the present one shows, where that is. */
function othersLoaders(
  { present, release }: StepInput,
  firmware: Pick<FirmwareState, 'starts' | 'secureBoot'>,
): readonly boolean[] {
  if (present?.loader === 'third-party' && firmware.secureBoot === 'on' && firmware.starts.includes('uefi'))
    return [true];
  return release?.loader === 'third-party' ? [false, true] : [false];
}

function diskState(disk: Disk, input: StepInput): DiskState {
  return {
    id: disk.name,
    called: diskMark(disk),
    scheme: disk.scheme ?? 'none',
    plugged: true,
    identified: false,
    toldApart: !isFixed(disk),
    capsule: false,
    room: hasRoom(disk, input),
    partitions: disk.partitions.map(({ number, role }) => ({ number, role })),
  };
}

/** The states of the machine that the survey leaves possible: one for every value of what is unknown and matters. */
export function worldsOf(input: StepInput): readonly Machine[] {
  const { facts, dataSets, route, installerMedium } = input;
  const disks = valueOf(facts, 'disks') ?? [];
  const isEmpty = isEmptyDevice(facts);
  const own = presentDiskId(input);
  const target = diskIdOf(input);
  const known = disks.map((disk) => diskState(disk, input));
  const untold = (id: string): DiskState => ({
    id,
    called: 'that is to be told',
    scheme: 'none',
    plugged: true,
    identified: false,
    toldApart: false,
    capsule: false,
    room: false,
    partitions: [{ number: 1, role: 'system' }],
  });
  const names = new Set(known.map(({ id }) => id));
  const states = [
    ...known,
    ...[...new Set(isEmpty ? [target] : [own, target])].filter((id) => !names.has(id)).map(untold),
  ];
  const scheme = states.find(({ id }) => id === own)?.scheme;
  const original = (place: (typeof dataSets)[number]['place']): OriginalPlace => {
    if (place !== 'other-disk') return { disk: own, role: place === 'data-partition' ? 'data' : 'system' };
    const second = secondDisk(disks);
    return second ? { disk: second.name, role: 'data' } : 'elsewhere';
  };
  const encryption = valueOf(facts, 'diskEncryption');
  const fastStart = valueOf(facts, 'fastStart');
  const systems = times(
    either(
      encryption === undefined ? undefined : encryption === 'on' ? ('locked' as const) : ('off' as const),
      'locked' as const,
      'off' as const,
    ).map((state) => ({ encryption: state })),
    either(fastStart === undefined ? undefined : fastStart === 'off', true, false).map((shutDownFully) => ({
      shutDownFully,
    })),
  );
  return firmwares(input, scheme).flatMap((firmware) =>
    systems.map((present): Machine => ({
      firmware,
      disks: states,
      systems: isEmpty
        ? []
        : [
            {
              id: 'present',
              disk: own,
              mode:
                firmware.starts.length === 1
                  ? (firmware.starts[0] ?? 'uefi')
                  : scheme === 'mbr'
                    ? 'legacy'
                    : 'uefi',
              needsShim: false,
              signature: presentSignature(input, firmware),
              loader: true,
              setUp: true,
              licence: 'none-needed',
              networkDriver: true,
              driversFitted: true,
              updated: !updatesFirst(input),
              onNetwork: true,
              ...present,
            },
          ],
      installer: {
        kind: mediumKinds[installerMedium],
        written: false,
        modes: [],
        shim: false,
        plugged: false,
        signature: input.release?.loader ?? 'signed',
      },
      running: isEmpty ? { what: 'off' } : { what: 'system', system: 'present' },
      onMains: valueOf(facts, 'chassis') === 'desktop',
      lacking: partsToFit(input).map(({ part }) => part),
      unlockedByPresent: unlockedByPresent(input).map(diskMark),
      data: dataSets.map((dataSet) => ({
        id: dataSet.id,
        name: dataSet.name,
        original:
          riskOf(dataSet, route.writesOver) === 'at-risk' || dataSet.place !== 'other-disk'
            ? original(dataSet.place)
            : 'elsewhere',
        unproven: [],
        good: [],
        back: false,
      })),
      // A stick of the shelf, or a tool that fetches by itself, needs no image beside it.
      notes: input.release && !imageIsFetched(input) ? ['image'] : [],
      shimOnDisk: false,
      menu: false,
      dataPartition: false,
      firewall: false,
      encryptedAnew: false,
      recovery: makesRecovery(input) ? 'missing' : 'not-offered',
    })),
  );
}
