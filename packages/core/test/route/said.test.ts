import { describe, expect, it } from 'vitest';
import { candidateFor, contextFor } from '../../src/decide';
import { installerMediaFor, routes, type RouteId } from '../../src/route';
import { withFacts, type Disk, type Facts } from '../../src/survey';
import { inputOf } from '../fixtures/devices';
import { endedLaptop, laptop, laptopWith, releaseOf, splitDisk, without } from '../fixtures/shop';

const reason = (facts: Facts, routeId: RouteId, releaseId: string | null, rule: string) => {
  const found = candidateFor(inputOf(facts), { routeId, releaseId })?.reasons.find(
    (one) => one.rule === rule,
  );
  if (!found) throw new Error(`${routeId} has no reason ${rule}`);
  return found;
};
const second = (sectorCount: number): Disk => ({
  ...splitDisk,
  name: 'sdb',
  serial: 'SPARE-22',
  scheme: 'none',
  partitions: [],
  sectorCount,
});

describe('what rules say', () => {
  it('of a hold: for how many days there have been no updates', () => {
    // Corvel 8 Business got its last ones 37 days before the first start.
    expect(reason(endedLaptop, 'hold', null, 'hold-is-a-stopgap').sentence).toBe(
      'Corvel 8 Business has had no security updates for 37 days: only off the network, and only until a date.',
    );
  });

  it('of a replacement: whether it is a need, a choice, or neither before somebody has looked', () => {
    const said = (facts: Facts) => reason(facts, 'replace', null, 'worth-replacing').sentence;
    expect(said(laptop)).toContain('a choice, not a need');
    // Nothing starts on a processor of 32 bit with one core at 600 MHz.
    const bare = laptopWith({
      processor: { wordBits: 32, cores: 1, clockMhz: 600, flags: [] },
      system: { release: 'corvel-7-business', language: 'en' },
    });
    expect(said(bare)).toBe('No supported release accepts the device.');
    expect(reason({}, 'replace', null, 'worth-replacing').finding).toBe('unknown');
  });

  it('of two systems on one disk: by which scheme both start', () => {
    expect(reason(laptop, 'beside-same-disk', 'saltbush-full', 'scheme-agrees').sentence).toBe(
      'Both systems start from GPT.',
    );
    const mbr = laptopWith({ disks: [{ ...splitDisk, scheme: 'mbr' }] });
    expect(reason(mbr, 'beside-same-disk', 'corvel-10-business', 'scheme-agrees').sentence).toContain(
      'has MBR',
    );
  });

  it('of a second disk: it is enough from just what the system and some work need', () => {
    const needed = releaseOf('saltbush-full').systemBytes + 20_000_000_000;
    const sectors = Math.ceil(needed / 512);
    const finding = (count: number) =>
      reason(
        withFacts(laptop, { disks: [splitDisk, second(count)] }),
        'beside-second-disk',
        'saltbush-full',
        'second-disk-there',
      ).finding;
    expect(needed % 512).toBe(0);
    expect([finding(sectors), finding(sectors - 1)]).toEqual(['allows', 'excludes']);
  });

  it('of several other disks: none is taken for the spare one, unless only one has no partition', () => {
    const { scheme: _scheme, ...marked } = splitDisk;
    const archive: Disk = {
      ...marked,
      name: 'sdc',
      serial: 'ARCH-33',
      partitions: [{ number: 1, startLba: 2048, sectorCount: 2048, role: 'data', usedBytes: 1 }],
    };
    const finding = (...disks: readonly Disk[]) =>
      reason(
        withFacts(laptop, { disks: [splitDisk, ...disks] }),
        'beside-second-disk',
        'saltbush-full',
        'second-disk-there',
      );
    expect(finding(second(400_000_000), archive).finding).toBe('allows');
    expect(finding(second(400_000_000), { ...second(400_000_000), name: 'sdd' }).finding).toBe('unknown');
    expect(finding(archive).sentence).toContain('holds data');
  });

  it('of data apart: unknown without disks, without partitions, and with one that nobody marked', () => {
    const finding = (facts: Facts) =>
      reason(facts, 'clean-system-partition', 'corvel-10-business', 'data-apart').finding;
    expect(finding(without(laptop, 'disks'))).toBe('unknown');
    const withPartitions = (partitions: Disk['partitions']) =>
      laptopWith({ disks: [{ ...splitDisk, partitions }] });
    expect(finding(withPartitions([]))).toBe('unknown');
    const [efi, , system] = splitDisk.partitions;
    if (!efi || !system) throw new Error('the disk has partitions');
    const { role: _role, ...unmarked } = efi;
    expect(finding(withPartitions([unmarked, system]))).toBe('unknown');
    expect(finding(withPartitions([efi, system]))).toBe('excludes');
  });
});

describe('a partition that holds the installer', () => {
  const finding = (facts: Facts) => {
    const context = contextFor(inputOf(facts), {
      routeId: 'clean-system-partition',
      releaseId: 'corvel-10-business',
    });
    return (
      context &&
      installerMediaFor(context, routes['clean-system-partition']).find(
        ({ installerMedium }) => installerMedium.id === 'disk-partition',
      )?.finding
    );
  };

  it('takes its room from the same disk as a second system: both have to fit', () => {
    const { imageBytes, systemBytes } = releaseOf('saltbush-full');
    // What a partition with the image takes, with six in a hundred for its tables, and what a second system asks for.
    const both = Math.ceil(imageBytes * 1.06) + systemBytes + 20_000_000_000;
    const medium = (routeId: RouteId, givesBytes: number) => {
      const partitions = splitDisk.partitions.map((partition) =>
        partition.role === 'system'
          ? { ...partition, usedBytes: Math.floor((partition.sectorCount * 512 - givesBytes) / 1.1) }
          : partition,
      );
      // No run of free sectors behind the last partition.
      const facts = laptopWith({ disks: [{ ...splitDisk, sectorCount: 226_178 * 2048, partitions }] });
      const context = contextFor(inputOf(facts), { routeId, releaseId: 'saltbush-full' });
      return (
        context &&
        installerMediaFor(context, routes[routeId]).find(
          ({ installerMedium }) => installerMedium.id === 'disk-partition',
        )?.finding.finding
      );
    };
    expect(medium('beside-same-disk', both + 1000)).toBe('allows');
    expect(medium('beside-same-disk', both - 1_000_000)).toBe('excludes');
  });

  it('waits until it is known which disk that is, and how much of it is used', () => {
    expect(finding(without(laptop, 'disks'))?.finding).toBe('unknown');
    const unused = splitDisk.partitions.map(({ usedBytes: _used, ...rest }) => rest);
    expect(finding(laptopWith({ disks: [{ ...splitDisk, partitions: unused }] }))?.finding).toBe('unknown');
    expect(finding(laptop)?.finding).toBe('allows');
  });
});
