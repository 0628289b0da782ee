import { describe, expect, it } from 'vitest';
import { fatesOn } from '../src/move/diskFate';

const partition = (number: number, role?: 'system' | 'data') => ({
  number,
  startLba: number * 2048,
  sectorCount: 2048,
  ...(role ? { role } : {}),
});
const disk = {
  name: 'sda',
  bus: 'sata' as const,
  sectorBytes: 512 as const,
  sectorCount: 100_000,
  partitions: [partition(1, 'system'), partition(2, 'data'), partition(3)],
};
const fates = (written: typeof disk | undefined, writesOver: Parameters<typeof fatesOn>[2]) =>
  disk.partitions.map(fatesOn(disk, written, writesOver));

describe('what a route does to the partitions of a disk', () => {
  it('erases all of the disk that it takes whole, and of another one nothing', () => {
    expect(fates(disk, 'whole-disk')).toEqual(['erased', 'erased', 'erased']);
    expect(fates(disk, 'second-disk')).toEqual(['erased', 'erased', 'erased']);
    expect(fates({ ...disk }, 'whole-disk')).toEqual(['kept', 'kept', 'kept']);
    expect(fates(undefined, 'whole-disk')).toEqual(['kept', 'kept', 'kept']);
  });

  it('erases the system’s partition alone where that is all that it writes over', () => {
    expect(fates(disk, 'system-partition')).toEqual(['erased', 'kept', 'unknown']);
  });

  it('claims no loss where the route writes over nothing, also on the disk of its step', () => {
    expect(fates(disk, 'nothing')).toEqual(['kept', 'kept', 'kept']);
  });
});
