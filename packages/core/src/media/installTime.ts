import { copyTime } from '../backup/copies/copyTime';
import type { InstallerMediumId, Release } from '../catalogue/catalogue';
import type { ThreePoint } from '../quantity/duration';
import { writingMinutes } from './writing';

/** Megabytes a second of a disc that is read: three, six and eight times the 1.385 MB/s of its standard (ECMA-267). */
const discSpeeds: ThreePoint = { low: 4.2, likely: 8.3, high: 11.1 };

type DiskMedium = 'spinning' | 'solid-state';

const diskWrite = (bytes: number, medium: DiskMedium) =>
  copyTime({ sizeBytes: bytes, fileCount: 0 }, 'solid-state', { link: 'sata', medium }).minutes;

function readMinutes(bytes: number, medium: InstallerMediumId, disk: DiskMedium): ThreePoint {
  switch (medium) {
    case 'stick':
      return writingMinutes(bytes);
    case 'optical-disc':
      return {
        low: bytes / (discSpeeds.high * 1e6) / 60,
        likely: bytes / (discSpeeds.likely * 1e6) / 60,
        high: bytes / (discSpeeds.low * 1e6) / 60,
      };
    case 'disk-partition':
    case 'running-system':
      return diskWrite(bytes, disk);
  }
}

type Timed = Pick<Release, 'installMinutes' | 'imageBytes' | 'systemBytes'>;

/** A release of the catalogue never changes, and ten thousand devices ask for the same few. */
const known = new WeakMap<Timed, Map<string, ThreePoint>>();

/**
 * Minutes in which an installer works alone. A release's own minutes are those from a stick onto a solid-state disk;
 * what reading its image from another medium, and writing its bytes onto another disk, takes longer or shorter is added.
 * @param disk that is written to
 * @returns at least a minute each
 */
export function installMinutes(release: Timed, medium: InstallerMediumId, disk: DiskMedium): ThreePoint {
  const ofRelease = known.get(release) ?? new Map<string, ThreePoint>();
  known.set(release, ofRelease);
  const key = `${medium} ${disk}`;
  const minutes = ofRelease.get(key) ?? reckon(release, medium, disk);
  ofRelease.set(key, minutes);
  return minutes;
}

function reckon(
  { installMinutes: usual, imageBytes, systemBytes }: Timed,
  medium: InstallerMediumId,
  disk: DiskMedium,
): ThreePoint {
  const read = readMinutes(imageBytes, medium, disk);
  const readUsual = readMinutes(imageBytes, 'stick', disk);
  const write = diskWrite(systemBytes, disk);
  const writeUsual = diskWrite(systemBytes, 'solid-state');
  const at = (point: keyof ThreePoint) =>
    Math.max(1, usual[point] + read[point] - readUsual[point] + write[point] - writeUsual[point]);
  const [low, likely, high] = [at('low'), at('likely'), at('high')];
  // A medium that is quicker in all may bring the three closer, and never past each other.
  return { low: Math.min(low, likely), likely, high: Math.max(likely, high) };
}
