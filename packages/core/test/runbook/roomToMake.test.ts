import { describe, expect, it } from 'vitest';
import { roomNeededBytes } from '../../src/disk/room';
import { installerPartitionBytes } from '../../src/route/installerMedia';
import { buildRunbook } from '../../src/runbook';
import { hasRoom, roomToMake } from '../../src/runbook/roomToMake';
import { laptopWith, inputFor, releaseOf, splitDisk } from '../fixtures/shop';

const saltbush = releaseOf('saltbush-full');
const system = splitDisk.partitions.find(({ role }) => role === 'system');
/** The sector behind the last partition. */
const used = splitDisk.partitions.reduce(
  (end, { startLba, sectorCount }) => Math.max(end, startLba + sectorCount),
  0,
);
const unmarked = laptopWith({
  disks: [{ ...splitDisk, partitions: splitDisk.partitions.map(({ role: _role, ...bare }) => bare) }],
});

describe('the one shrink that makes room', () => {
  const beside = roomNeededBytes(saltbush.systemBytes);
  const installer = installerPartitionBytes(saltbush);

  it('is for the second system, for the installer, or for both together', () => {
    expect(roomToMake(inputFor('beside-same-disk', 'saltbush-full'))?.bytes).toBe(beside);
    const both = inputFor('beside-same-disk', 'saltbush-full', { installerMedium: 'disk-partition' });
    expect(roomToMake(both)).toEqual({ bytes: beside + installer, partition: system?.number });
    const alone = inputFor('clean-system-partition', 'saltbush-full', {
      installerMedium: 'disk-partition',
      facts: laptopWith({ disks: [{ ...splitDisk, sectorCount: used + 4096 }] }),
    });
    expect(roomToMake(alone)?.bytes).toBe(installer);
    expect(roomToMake(inputFor('clean-system-partition', 'saltbush-full'))).toBeUndefined();
  });

  it('is not needed where a free run takes it all, to the byte', () => {
    const input = inputFor('beside-same-disk', 'saltbush-full');
    // A megabyte at the end of the disk belongs to the table.
    const enough = used + Math.ceil(beside / 512) + 2048;
    expect(hasRoom({ ...splitDisk, sectorCount: enough }, input)).toBe(true);
    expect(hasRoom({ ...splitDisk, sectorCount: enough - 1 }, input)).toBe(false);
    const chosen = { ...input, room: { bytes: beside, fromPartition: 4 } };
    expect(hasRoom({ ...splitDisk, sectorCount: enough }, chosen)).toBe(false);
  });

  it('comes before the installer’s partition is made, once, with both in its words', () => {
    const plan = buildRunbook(
      inputFor('beside-same-disk', 'saltbush-full', { installerMedium: 'disk-partition' }),
    );
    if (!plan.ok) throw new Error(plan.problems.map(({ sentence }) => sentence).join(' '));
    const kinds = plan.value.steps.map(({ kind }) => kind);
    expect(kinds.filter((kind) => kind === 'shrink-system')).toHaveLength(1);
    expect(kinds.indexOf('shrink-system')).toBeLessThan(kinds.indexOf('make-installer-partition'));
    const shrink = plan.value.steps.find(({ kind }) => kind === 'shrink-system');
    expect(shrink?.why).toContain('Room for the installer’s partition and the second system.');
  });

  it('is refused where nobody has marked which partition carries the system', () => {
    const plan = buildRunbook(inputFor('beside-same-disk', 'saltbush-full', { facts: unmarked }));
    expect(plan.ok ? '' : plan.problems.map(({ sentence }) => sentence).join(' ')).toContain(
      'nobody has marked which partition carries the system',
    );
  });
});
