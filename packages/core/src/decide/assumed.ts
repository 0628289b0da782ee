import type { DataSet, Destination } from '../backup/scope/dataSet';
import { dataPartitions, systemDisk } from '../survey/disk';
import { isEmptyDevice, valueOf, type Facts } from '../survey/facts';
import type { DeviceGiven } from './input';

/** Where nothing is measured yet: a quarter of a terabyte is a common disk, a third of it used. */
const assumedDataBytes = 80_000_000_000;
/** Before anything is listed an estimate is no finer than this; what would change it can be told exactly then. */
export const estimateStepBytes = 25_000_000_000;
/** Documents and pictures, one with the other. */
const bytesOfFile = 2_000_000;

const stepsOf = (bytes: number) => Math.ceil(bytes / estimateStepBytes) * estimateStepBytes;

/** Bytes on the system's partition and on those that hold only data, as far as the survey tells. */
function assumedBytes(facts: Facts): { readonly system: number; readonly data: number } {
  const disk = systemDisk(valueOf(facts, 'disks'));
  const used = disk?.partitions.map(({ usedBytes }) => usedBytes) ?? [];
  if (!disk || used.every((bytes) => bytes === undefined)) return { system: assumedDataBytes, data: 0 };
  const sum = (list: readonly { readonly usedBytes?: number }[]) =>
    list.reduce((bytes, { usedBytes = 0 }) => bytes + usedBytes, 0);
  const all = sum(disk.partitions);
  const system = stepsOf(all - sum(dataPartitions(disk)));
  return { system, data: Math.max(0, stepsOf(all) - system) };
}

const assumedDrive: Destination = {
  id: 'assumed-1',
  name: 'A backup drive',
  kind: 'drive',
  serial: '',
  capacityBytes: Number.MAX_SAFE_INTEGER,
  freeBytes: Number.MAX_SAFE_INTEGER,
  fileSystem: 'exfat',
  link: 'usb3',
  medium: 'spinning',
  takes: [],
};

/**
 * What is counted with until it is listed: the bytes of the survey as data, and as many copies as the house asks for on
 * drives over USB 3. What is listed or stated stays as it is.
 */
export function withAssumed(device: DeviceGiven): DeviceGiven {
  if (device.preparation.nothingToSave || isEmptyDevice(device.facts)) return device;
  const listed = device.dataSets.length > 0;
  if (listed && device.destinations.length > 0) return device;
  const dataSets = listed ? device.dataSets : assumedSets(device.facts);
  const takes = dataSets.map(({ id }) => id);
  // Drives that are chosen already will take what is not listed yet.
  if (device.destinations.length > 0)
    return { ...device, dataSets, destinations: device.destinations.map((one) => ({ ...one, takes })) };
  const destinations = Array.from(
    { length: device.houseRules.copiesBeforeLine },
    (_one, index): Destination => ({ ...assumedDrive, id: `assumed-${index + 1}`, takes }),
  );
  return { ...device, dataSets, destinations };
}

function assumedSets(facts: Facts): readonly DataSet[] {
  const { system, data } = assumedBytes(facts);
  const set = (id: string, sizeBytes: number, place: DataSet['place']): DataSet => ({
    id,
    name: 'Data of the owner',
    kind: 'folder',
    path: '',
    sizeBytes,
    fileCount: Math.ceil(sizeBytes / bytesOfFile),
    largestFileBytes: 0,
    place,
  });
  return [
    ...(system > 0 ? [set('assumed-system', system, 'system-partition')] : []),
    ...(data > 0 ? [set('assumed-data', data, 'data-partition')] : []),
  ];
}
