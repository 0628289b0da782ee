import { describe, expect, it } from 'vitest';
import { supportedUntil } from '../../src/catalogue';
import { roomNeededBytes } from '../../src/disk/room';
import { addDays } from '../../src/quantity';
import type { RouteContext } from '../../src/route/definition';
import { applicationsHaveEquivalents, workCanMove } from '../../src/route/rules/applications';
import { entryFree, roomBeside, secondDiskThere } from '../../src/route/rules/beside';
import { diskSound, enoughFreeSpace, schemeSuits } from '../../src/route/rules/disks';
import { requirementsBesideTheModel, requirementsMet } from '../../src/route/rules/requirements';
import { notForItself, notOlder, stillSupported } from '../../src/route/rules/support';
import { allowedJump, sameLanguage, sameWordSize } from '../../src/route/rules/upgrade';
import { contextFor } from '../../src/decide';
import { withFacts, type Disk, type Facts } from '../../src/survey';
import { inputOf } from '../fixtures/devices';
import { laptop, releaseOf, splitDisk, without } from '../fixtures/shop';

/** What a rule is asked with, for the laptop and a release. */
function asked(releaseId: string, facts: Facts = laptop, change: Partial<RouteContext> = {}): RouteContext {
  const context = contextFor(inputOf(facts), { routeId: 'clean-whole-disk', releaseId });
  if (!context) throw new Error('there is such an option');
  return { ...context, ...change };
}
const corvel = 'corvel-10-business';
const saltbush = 'saltbush-full';
const system = splitDisk.partitions.find(({ role }) => role === 'system');
if (!system) throw new Error('the laptop has a system partition');
const systemBytes = system.sectorCount * 512;
/** The laptop's disk with so many bytes in use by the system. */
const using = (usedBytes: number | undefined, more: object = {}): Facts =>
  withFacts(laptop, {
    disks: [
      {
        ...splitDisk,
        partitions: splitDisk.partitions.map((partition) => {
          if (partition !== system) return partition;
          const { usedBytes: _used, ...bare } = partition;
          return { ...bare, ...(usedBytes === undefined ? {} : { usedBytes }), ...more };
        }),
      },
    ],
  });

describe('support of a release', () => {
  it('has no end, lasts through its last day, and is over on the next', () => {
    const { finding, sentence } = stillSupported.judge(asked('rushlight'));
    expect([finding, sentence]).toEqual(['allows', 'Rushlight gets fixes without an end date.']);
    const until = supportedUntil(releaseOf(corvel)) ?? '';
    expect(stillSupported.judge(asked(corvel, laptop, { today: until })).finding).toBe('allows');
    expect(stillSupported.judge(asked(corvel, laptop, { today: addDays(until, 1) })).finding).toBe(
      'excludes',
    );
  });

  it('keeps a release from being wiped for itself through its last day', () => {
    const runs = withFacts(laptop, { presentRelease: corvel });
    const until = supportedUntil(releaseOf(corvel)) ?? '';
    const on = (today: string) => notForItself.judge(asked(corvel, runs, { today })).finding;
    expect([on(until), on(addDays(until, 1))]).toEqual(['excludes', 'allows']);
    expect(notForItself.judge(asked('corvel-9-business', runs)).finding).toBe('allows');
  });

  it('is asked of the version: the same is not older, and nobody knows of nothing', () => {
    const present = releaseOf('corvel-10-personal');
    expect(notOlder.judge(asked(corvel, laptop, { present })).finding).toBe('allows');
    expect(notOlder.judge(asked('corvel-9-business', laptop, { present })).finding).toBe('excludes');
    expect(notOlder.judge(asked(corvel, laptop, { present: undefined })).finding).toBe('unknown');
    expect(notOlder.judge(asked(corvel, laptop, { present: undefined, isEmpty: true })).finding).toBe(
      'allows',
    );
  });
});

describe('an upgrade in place', () => {
  it('asks for the language, and waits for it', () => {
    const { finding, sentence } = sameLanguage.judge(asked(corvel, without(laptop, 'presentLanguage')));
    expect(finding).toBe('unknown');
    expect(sentence).toContain('the upgrade must be in the same one');
    expect(sameLanguage.judge(asked(corvel, withFacts(laptop, { presentLanguage: 'fo' }))).finding).toBe(
      'excludes',
    );
    const [remedy] = sameLanguage.remedies?.(asked(corvel)) ?? [];
    expect(remedy?.gives(laptop)).toEqual({ presentLanguage: releaseOf(corvel).languages[0] });
  });

  it('goes over a release between that has the same word size, where one leads on', () => {
    const from = (id: string) =>
      (allowedJump.remedies?.(asked(corvel, laptop, { present: releaseOf(id) })) ?? []).map(
        ({ id: one }) => one,
      );
    // What may be upgraded from Corvel 7 and to Corvel 10, and works with as many bits as Corvel 7.
    const { releases } = asked(corvel);
    for (const id of ['corvel-7-business', 'corvel-8-business', 'corvel-9-business'])
      expect(from(id)).toEqual(
        releases
          .filter(
            (one) =>
              one.wordBits === releaseOf(id).wordBits &&
              one.upgradesFrom.includes(id) &&
              releaseOf(corvel).upgradesFrom.includes(one.id),
          )
          .map((one) => `upgrade-first-${one.id}`),
      );
    expect(from('corvel-8-business').length).toBeGreaterThan(0);
    expect(allowedJump.remedies?.(asked(corvel, laptop, { present: undefined }))).toEqual([]);
    expect(sameWordSize.judge(asked(corvel, laptop, { present: undefined })).finding).toBe('unknown');
  });

  it('has room from just the bytes that it needs', () => {
    const free = releaseOf(corvel).upgradeFreeBytes;
    expect(enoughFreeSpace.judge(asked(corvel, using(systemBytes - free))).finding).toBe('allows');
    expect(enoughFreeSpace.judge(asked(corvel, using(systemBytes - free + 1))).finding).toBe('excludes');
    expect(enoughFreeSpace.judge(asked(corvel, using(undefined))).finding).toBe('unknown');
    const [remedy] =
      enoughFreeSpace.remedies?.(asked(corvel, using(systemBytes - free + 5_000_000_000))) ?? [];
    expect(remedy?.action).toBe('Free 5.0 GB on the system partition');
  });

  it('goes on a sound disk, waits for one that nobody looked at, and never on a failing one', () => {
    const on = (health: Disk['health'] | undefined) => {
      const { health: _health, ...bare } = splitDisk;
      const disk: Disk = { ...bare, ...(health === undefined ? {} : { health }) };
      return diskSound.judge(asked(corvel, withFacts(laptop, { disks: [disk] })));
    };
    expect(on('good').finding).toBe('allows');
    expect(on('worn').finding).toBe('allows');
    expect(on('failing').finding).toBe('excludes');
    expect(on(undefined).finding).toBe('unknown');
  });

  it('starts from GPT, from MBR where it can, and after a conversion that is planned', () => {
    const mbr = withFacts(laptop, { disks: [{ ...splitDisk, scheme: 'mbr' }] });
    expect(schemeSuits.judge(asked(corvel, mbr)).finding).toBe('excludes');
    expect(schemeSuits.judge(asked(corvel, mbr, { converting: 'gpt' })).finding).toBe('allows');
    expect(schemeSuits.judge(asked(corvel)).finding).toBe('allows');
    expect(schemeSuits.judge(asked(corvel, laptop, { converting: 'mbr' })).finding).toBe('excludes');
    expect(schemeSuits.judge(asked(saltbush, mbr)).finding).toBe('allows');
  });
});

describe('room for a second system', () => {
  const needed = roomNeededBytes(releaseOf(saltbush).systemBytes);

  it('comes from a partition that is not kept in its place by a block, after files were deleted', () => {
    const full = using(systemBytes - 1_000_000_000);
    expect(roomBeside.judge(asked(saltbush, full)).finding).toBe('excludes');
    const [remedy] = roomBeside.remedies?.(asked(saltbush, full)) ?? [];
    expect(remedy?.id).toBe('free-space');
    const blocked = using(systemBytes - 1_000_000_000, { lastImmovableByte: systemBytes - 10 });
    expect(roomBeside.remedies?.(asked(saltbush, blocked))).toEqual([]);
    // After the remedy there is just the room, with a tenth of what stays used in reserve.
    const after = remedy?.gives(full);
    const freed = withFacts(full, after ?? {});
    expect(roomBeside.judge(asked(saltbush, freed)).finding).toBe('allows');
  });

  it('is on a second disk from just what system and work need', () => {
    const second = (sectorCount: number): Facts =>
      withFacts(laptop, {
        disks: [
          splitDisk,
          { ...splitDisk, name: 'sdb', serial: 'NEW-1', scheme: 'none', partitions: [], sectorCount },
        ],
      });
    const sectors = Math.ceil(needed / 512);
    expect(secondDiskThere.judge(asked(saltbush, second(sectors))).finding).toBe('allows');
    expect(secondDiskThere.judge(asked(saltbush, second(sectors - 1))).finding).toBe('excludes');
    expect(secondDiskThere.judge(asked(saltbush)).sentence).toBe('There is no second disk in the device.');
  });
});

describe('an entry for a second system', () => {
  const mbr = (numbers: readonly number[], scheme: 'mbr' | 'gpt' = 'mbr'): Facts =>
    withFacts(laptop, {
      disks: [
        {
          ...splitDisk,
          scheme,
          partitions: numbers.map((number, index) => ({
            number,
            startLba: 2048 + index * 1_000_000,
            sectorCount: 900_000,
            role: index === 0 ? ('system' as const) : ('data' as const),
          })),
        },
      ],
    });
  const on = (facts: Facts, change: Partial<RouteContext> = {}) =>
    entryFree.judge(asked(saltbush, facts, change)).finding;

  it('is free in an MBR of three, in a chain of logical ones, in GPT, and after a conversion', () => {
    expect(on(mbr([1, 2, 3]))).toBe('allows');
    expect(on(mbr([1, 2, 3, 4]))).toBe('excludes');
    expect(on(mbr([1, 2, 3, 5]))).toBe('allows');
    expect(on(mbr([1, 2, 3, 4], 'gpt'))).toBe('allows');
    expect(on(mbr([1, 2, 3, 4], 'gpt'), { converting: 'mbr' })).toBe('excludes');
    expect(on(mbr([1, 2, 3, 4]), { converting: 'gpt' })).toBe('allows');
    expect(on(without(laptop, 'disks'))).toBe('unknown');
  });
});

describe('applications', () => {
  const using_ = (...applications: readonly string[]) =>
    withFacts(laptop, { applications: [...applications] });
  const locked = asked(corvel).applications.find(({ lockedToFamily }) => lockedToFamily === 'corvel');
  if (!locked) throw new Error('an application is locked to Corvel');

  it('that are locked to a family go no other way, and within it they are no obstacle', () => {
    expect(applicationsHaveEquivalents.judge(asked(saltbush, using_(locked.name)))).toMatchObject({
      finding: 'excludes',
      sentence: `${locked.name} exists for the present family only.`,
    });
    expect(applicationsHaveEquivalents.judge(asked(corvel, using_(locked.name))).finding).toBe('allows');
    const [remedy] =
      applicationsHaveEquivalents.remedies?.(asked(saltbush, using_(locked.name, 'Tidebook'))) ?? [];
    expect(remedy?.gives(using_(locked.name, 'Tidebook'))).toEqual({ applications: ['Tidebook'] });
  });

  it('stay with the present system where they cannot move, in the same family nothing does', () => {
    expect(workCanMove.judge(asked(corvel, using_(locked.name))).finding).toBe('allows');
    expect(workCanMove.judge(asked(saltbush, using_(locked.name))).finding).toBe('unknown');
    expect(workCanMove.judge(asked(saltbush, using_())).finding).toBe('allows');
    expect(workCanMove.judge(asked(saltbush, without(laptop, 'applications'))).finding).toBe('unknown');
  });
});

describe('requirements', () => {
  it('are waived past the maker’s ceiling, and excluded elsewhere', () => {
    const below = withFacts(laptop, { tpm: '1.2', firmwareMode: 'uefi', secureBoot: 'on' });
    const context = asked(corvel, below);
    expect(context.target?.assessment.verdict).toBe('waivable');
    expect(requirementsMet.judge(context).finding).toBe('excludes');
    expect(requirementsBesideTheModel.judge(context).finding).toBe('allows');
  });
});
