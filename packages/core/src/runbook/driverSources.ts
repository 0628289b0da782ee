import type { DriverPart } from '../catalogue/catalogue';
import { valueOf } from '../survey/facts';
import type { StepInput } from './input';
import { devicesWithoutDriver, hasNetworkDriver } from './machineOf';

type DriverSource = {
  readonly device: string;
  /** Where its driver comes from. */
  readonly from: string;
  /** What is tried with it. */
  readonly tried: string;
};

const withRelease = 'its driver comes with the release';
const carried = 'its driver is carried on the second stick';

/** Parts that the survey does not list one by one, and how each is tried. */
const unlisted: readonly (readonly [part: DriverPart, name: string, tried: string])[] = [
  ['sound', 'Sound', 'sound plays'],
  ['storage', 'Storage controller', 'every disk is listed'],
  ['camera', 'Camera', 'the camera shows'],
];

/** The maker's set of drivers for this model and the family of the target; undefined where none is listed. */
export function driverSetOf({ release, model }: Pick<StepInput, 'release' | 'model'>) {
  return model?.driverSets.find(({ family }) => family === release?.family);
}

/** Every part of the device of which a driver is known to matter, with where its driver comes from; the network first. */
export function driverSources({ facts, release, model }: StepInput): readonly DriverSource[] {
  // Carried where no adapter would work without: else the network that there is brings the others.
  const online = hasNetworkDriver({ facts, release });
  const comes = (driver: string | undefined) =>
    driver !== undefined && release?.bundledDrivers.includes(driver) === true;
  const set = driverSetOf({ release, model });
  const page = model === undefined ? 'the maker’s page' : `the maker’s page for the ${model.model}`;
  const elsewhere = (part: DriverPart) =>
    set?.serves.includes(part)
      ? `its driver is in the maker’s set for the ${model?.model ?? ''}, ${set.from}`
      : `its driver comes by the update service, else from ${page}`;
  const without = devicesWithoutDriver(facts);
  return [
    ...(valueOf(facts, 'networkAdapters') ?? []).map(({ name, driver }) => ({
      device: name,
      from: comes(driver) ? withRelease : online ? elsewhere('network') : carried,
      tried: `${name} reaches the network`,
    })),
    ...(valueOf(facts, 'graphicsChips') ?? []).map(({ name, driver }) => ({
      device: name,
      from: comes(driver) ? withRelease : elsewhere('graphics'),
      tried: `${name} draws at the screen’s full size`,
    })),
    ...unlisted
      .filter(([part]) => set?.serves.includes(part))
      .map(([part, device, tried]) => ({ device, from: elsewhere(part), tried })),
    ...(valueOf(facts, 'attachedDevices') ?? []).map(({ name }) => ({
      device: name,
      from: without.includes(name) ? carried : 'the system’s own driver serves it',
      tried: `${name} does its work`,
    })),
  ];
}
