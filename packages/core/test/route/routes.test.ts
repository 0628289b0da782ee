import { describe, expect, it } from 'vitest';
import type { InstallerMediumId } from '../../src/catalogue';
import { candidateFor, contextFor, decide, type Candidate } from '../../src/decide';
import { installerMedia, installerMediaFor, routes, stepsOfRoute, type RouteId } from '../../src/route';
import type { Disk, Facts, Survey } from '../../src/survey';
import { inputOf } from '../fixtures/devices';
import { laptop, laptopSurvey, laptopWith, splitDisk, without, endedLaptop } from '../fixtures/shop';

function candidate(facts: Facts, routeId: RouteId, releaseId: string | null): Candidate {
  const found = candidateFor(inputOf(facts), { routeId, releaseId });
  if (!found) throw new Error(`no candidate ${routeId} ${releaseId ?? ''}`);
  return found;
}

function against(facts: Facts, routeId: RouteId, releaseId: string | null): string[] {
  return candidate(facts, routeId, releaseId)
    .reasons.filter(({ finding }) => finding === 'excludes')
    .map(({ rule }) => rule);
}

const system = (change: Partial<NonNullable<Survey['system']>>) => ({
  system: { ...laptopSurvey.system, ...change },
});
/** A chip of version 1.2: below what Corvel 10 asks for, and waivable. */
const oldChip = { firmware: { mode: 'uefi', secureBoot: 'on', tpm: '1.2' } } as const;
const secondDisk: Disk = { ...splitDisk, name: 'sdb', serial: 'BL77A0', partitions: [], scheme: 'none' };
const withDisk = (change: Partial<typeof splitDisk>) => laptopWith({ disks: [{ ...splitDisk, ...change }] });
const systemUsing = (usedBytes: number, lastImmovableByte?: number) =>
  withDisk({
    partitions: splitDisk.partitions.map((partition) =>
      partition.role === 'system'
        ? { ...partition, usedBytes, ...(lastImmovableByte === undefined ? {} : { lastImmovableByte }) }
        : partition,
    ),
  });

/** A vendor-locked computer at its ceiling, Aurin 13. */
const studio = (change: Partial<Survey> = {}) =>
  laptopWith({
    device: { maker: 'Pellworth', model: 'Studio 27', year: 2014, chassis: 'desktop', serial: 'PS27' },
    graphics: undefined,
    display: { graphicsTier: 3, widthPixels: 2560, heightPixels: 1440 },
    memoryBytes: 16 * 1024 ** 3,
    ...system({ release: 'aurin-13', activation: 'account-bound', applications: ['chartroom'] }),
    ...change,
  } as Partial<Survey>);

describe('installing with waived checks', () => {
  it('is offered only where there is something to waive', () => {
    expect(
      candidateFor(inputOf(laptop), { routeId: 'waived-upgrade', releaseId: 'corvel-10-business' }),
    ).toBe(undefined);
  });

  it('is allowed below the stated minimum, names each check and what skipping it costs, and asks for consent', () => {
    const upgrade = candidate(laptopWith(oldChip), 'waived-upgrade', 'corvel-10-business');
    expect(upgrade.status).toBe('allowed');
    expect(upgrade.waivers).toEqual([
      {
        rule: 'tpm',
        sentence: 'Security chip of version 1.2; version 2.0 is needed.',
        consequence: 'Device encryption and some sign-in ways are off; no promised fixes.',
      },
    ]);
    expect(routes['waived-upgrade'].consent).toEqual(['owner', 'organisation']);
    expect(candidate(laptopWith(oldChip), 'waived-clean', 'corvel-10-business').status).toBe('allowed');
  });

  it('keeps what the route underneath keeps, and its other rules', () => {
    expect(candidate(laptopWith(oldChip), 'waived-upgrade', 'corvel-10-business').keeps).toEqual(
      routes['in-place-upgrade'].keeps,
    );
    expect(
      against(
        laptopWith({ ...oldChip, disks: [{ ...splitDisk, health: 'failing' }] }),
        'waived-upgrade',
        'corvel-10-business',
      ),
    ).toEqual(['disk-sound']);
  });

  it('waives nothing that the installer does not let itself be told to skip', () => {
    const noFlags = laptopWith({ ...oldChip, processor: { ...laptopSurvey.processor, flags: [] } });
    expect(against(noFlags, 'waived-clean', 'corvel-10-business')).toEqual(['requirements-met-or-waived']);
  });
});

describe('patched install', () => {
  it('is allowed for a model on the list past its ceiling, with its limits spelled out', () => {
    const patched = candidate(studio(), 'patched-install', 'aurin-15');
    expect(patched.status).toBe('allowed');
    const said = patched.reasons.find(({ rule }) => rule === 'patch-known')?.sentence;
    for (const part of ['graphics:', 'display:', 'wireless:']) expect(said).toContain(part);
  });

  it('is not a way for other makers’ computers', () => {
    expect(candidateFor(inputOf(laptop), { routeId: 'patched-install', releaseId: 'aurin-15' })).toBe(
      undefined,
    );
  });

  it.each([
    [
      'a model without a known patch',
      { device: { maker: 'Pellworth', model: 'Slate 13', year: 2018 } },
      ['patch-known', 'past-its-ceiling'],
    ],
    ['a failing disk', { disks: [{ ...splitDisk, health: 'failing' as const }] }, ['disk-sound']],
    ['too little memory for good', { memoryBytes: 1024 ** 3 }, []],
    ['another language', system({ release: 'aurin-13', language: 'fo' }), ['same-language']],
    [
      'a 32-bit processor',
      {
        processor: { ...laptopSurvey.processor, wordBits: 32 as const },
        ...system({ release: 'corvel-7-business' }),
      },
      ['requirements-beside-the-model'],
    ],
  ])('with %s', (_what, change, rules) => {
    expect(against(studio(change), 'patched-install', 'aurin-15')).toEqual(rules);
  });

  it('to a release whose support is over is excluded', () => {
    expect(against(studio(), 'patched-install', 'aurin-12')).toContain('still-supported');
  });

  it('waits while the model is unknown', () => {
    expect(candidate(without(studio(), 'model'), 'patched-install', 'aurin-15').status).toBe('undecided');
  });
});

describe('side by side, same disk', () => {
  // 120 GiB = 128.8 GB; 40 GB used and a tenth: 84.8 GB can be given. Saltbush takes its bytes and 20 GB.
  it('is allowed where the system partition can give the room', () => {
    expect(candidate(laptop, 'beside-same-disk', 'saltbush-full').status).toBe('allowed');
  });

  it.each([
    ['too little to give', systemUsing(110_000_000_000), ['room-beside']],
    ['an immovable block far behind', systemUsing(40_000_000_000, 125_000_000_000), ['room-beside']],
    ['a failing disk', withDisk({ health: 'failing' }), ['disk-sound']],
  ])('is excluded by %s', (_what, facts, rules) => {
    expect(against(facts, 'beside-same-disk', 'saltbush-full')).toEqual(rules);
  });

  it('is excluded by a scheme that the second system does not start from, and by its licence', () => {
    expect(
      against(
        laptopWith({ disks: [{ ...splitDisk, scheme: 'mbr' }], ...system({ activation: 'none' }) }),
        'beside-same-disk',
        'corvel-10-business',
      ),
    ).toEqual(['scheme-agrees', 'licence-fits']);
  });

  it('takes free space as it lies, without shrinking', () => {
    const disk = {
      ...splitDisk,
      partitions: splitDisk.partitions
        .filter(({ role }) => role !== 'data')
        .map((partition) =>
          partition.role === 'system' ? { ...partition, usedBytes: 120_000_000_000 } : partition,
        ),
    };
    // The data partition's 100 GiB are free: 107.4 GB.
    expect(
      candidate(laptopWith({ disks: [disk] }), 'beside-same-disk', 'saltbush-full').reasons.find(
        ({ rule }) => rule === 'room-beside',
      )?.sentence,
    ).toContain('107.4 GB (100.0 GiB) are free');
  });

  it('waits where used bytes are not known', () => {
    const disk = {
      ...splitDisk,
      partitions: splitDisk.partitions.map(({ usedBytes: _used, ...partition }) => partition),
    };
    expect(candidate(laptopWith({ disks: [disk] }), 'beside-same-disk', 'saltbush-full').status).toBe(
      'undecided',
    );
  });
});

describe('side by side, with another family', () => {
  it('waits where work would stay on the system without fixes', () => {
    const ledger = laptopWith(system({ applications: ['ledgerstone', 'browser'] }));
    const beside = candidate(ledger, 'beside-same-disk', 'saltbush-full');
    expect(beside.status).toBe('undecided');
    expect(beside.reasons.find(({ rule }) => rule === 'work-can-move')?.sentence).toContain(
      'Ledgerstone Accounts',
    );
    expect(candidate(ledger, 'beside-same-disk', 'corvel-10-business').status).toBe('allowed');
  });
});

describe('side by side, second disk', () => {
  it('is allowed with a second disk, and writes over that one only', () => {
    expect(
      candidate(laptopWith({ disks: [splitDisk, secondDisk] }), 'beside-second-disk', 'saltbush-full').status,
    ).toBe('allowed');
    expect(routes['beside-second-disk'].writesOver).toBe('second-disk');
  });

  it.each([
    ['no second disk', laptop],
    [
      'a second disk that holds data',
      laptopWith({
        disks: [
          splitDisk,
          {
            ...secondDisk,
            partitions: [{ number: 1, startLba: 2048, sectorCount: 4096, label: 'ARCHIVE', usedBytes: 1 }],
          },
        ],
      }),
    ],
    [
      'a second disk that is too small',
      laptopWith({ disks: [splitDisk, { ...secondDisk, sectorCount: 20_000_000 }] }),
    ],
    ['a second disk that fails', laptopWith({ disks: [splitDisk, { ...secondDisk, health: 'failing' }] })],
  ])('is excluded by %s', (_what, facts) => {
    expect(against(facts, 'beside-second-disk', 'saltbush-full')).toEqual(['second-disk-there']);
  });
});

describe('a second disk whose partitions nobody has looked into', () => {
  it('waits: it may hold somebody’s files', () => {
    const unread: Disk = { ...secondDisk, partitions: [{ number: 1, startLba: 2048, sectorCount: 4096 }] };
    expect(
      candidate(laptopWith({ disks: [splitDisk, unread] }), 'beside-second-disk', 'saltbush-full').status,
    ).toBe('undecided');
  });
});

describe('replace', () => {
  it('is allowed where no supported release accepts the device, and says so', () => {
    const old = laptopWith({
      processor: { ...laptopSurvey.processor, wordBits: 32 },
      ...system({ release: 'corvel-7-business', activation: 'key' }),
    });
    const replaced = candidate(old, 'replace', null);
    expect(replaced.status).toBe('allowed');
    expect(replaced.reasons[0]?.sentence).toBe('No supported release accepts the device.');
  });

  it('waits while facts are unknown: no device is given up for want of a look', () => {
    expect(candidate({}, 'replace', null).status).toBe('undecided');
  });
});

describe('hold', () => {
  it('is allowed where no fixes come, and where nobody knows', () => {
    expect(candidate({}, 'hold', null).status).toBe('allowed');
    expect(candidate(endedLaptop, 'hold', null).status).toBe('allowed');
    expect(candidate(laptop, 'hold', null).status).toBe('excluded');
  });
});

describe('the installer medium', () => {
  const finding = (facts: Facts, routeId: RouteId, releaseId: string, id: InstallerMediumId) => {
    const context = contextFor(inputOf(facts), { routeId, releaseId });
    return (
      context &&
      installerMediaFor(context, routes[routeId]).find(({ installerMedium }) => installerMedium.id === id)
        ?.finding.finding
    );
  };

  it('by stick is always allowed; by a partition not where the whole disk is erased', () => {
    expect(finding(laptop, 'clean-whole-disk', 'corvel-10-business', 'stick')).toBe('allows');
    expect(finding(laptop, 'clean-whole-disk', 'corvel-10-business', 'disk-partition')).toBe('excludes');
    expect(finding(laptop, 'clean-system-partition', 'corvel-10-business', 'disk-partition')).toBe('allows');
    const full = laptopWith({
      disks: [
        {
          ...splitDisk,
          // No run of free sectors behind the last partition.
          sectorCount: 226_178 * 2048,
          partitions: splitDisk.partitions.map((partition) =>
            partition.role === 'system' ? { ...partition, usedBytes: 125_000_000_000 } : partition,
          ),
        },
      ],
    });
    // 6.24 GB of image and 6 % do not fit where 125 of 128.8 GB are used.
    expect(finding(full, 'clean-system-partition', 'corvel-10-business', 'disk-partition')).toBe('excludes');
    expect(
      finding(
        laptopWith({ firmware: { mode: 'legacy' } }),
        'clean-system-partition',
        'corvel-9-business',
        'disk-partition',
      ),
    ).toBe('excludes');
  });

  it('from the running system goes for upgrades and second systems only', () => {
    expect(finding(laptop, 'in-place-upgrade', 'corvel-10-business', 'running-system')).toBe('allows');
    expect(finding(laptop, 'clean-whole-disk', 'corvel-10-business', 'running-system')).toBe('excludes');
    expect(finding(laptop, 'beside-same-disk', 'corvel-10-business', 'running-system')).toBe('allows');
  });

  it('by disc waits for a look at the device, and is excluded where the release has no such installer', () => {
    expect(finding(laptop, 'clean-whole-disk', 'corvel-10-business', 'optical-disc')).toBe('unknown');
    expect(finding(studio(), 'in-place-upgrade', 'aurin-15', 'optical-disc')).toBe('excludes');
  });

  it('changes the steps of a plan: none of the stick’s is left', () => {
    for (const id of ['optical-disc', 'disk-partition', 'running-system'] as const) {
      const steps = stepsOfRoute(routes['beside-same-disk'], id);
      for (const kind of Object.keys(installerMedia[id].replaces)) expect(steps).not.toContain(kind);
      for (const kinds of Object.values(installerMedia[id].replaces))
        expect(steps).toEqual(expect.arrayContaining([...kinds]));
    }
  });
});

describe('contradictions', () => {
  const typed = <T>(value: T) => ({ value, source: 'typed' as const, at: laptopSurvey.takenAt, by: 'Ines' });

  it('are named, and count as unknown: neither of the two is picked', () => {
    const facts: Facts = {
      ...laptop,
      firmwareMode: typed('legacy' as const),
      secureBoot: typed('on' as const),
    };
    const choice = decide(inputOf(facts));
    expect(choice.problems[0]).toContain('Firmware mode is legacy and Secure Boot is on');
    const tower = choice.assessments.find(({ releaseId }) => releaseId === 'corvel-10-business');
    expect(tower?.judgements.find(({ rule }) => rule === 'secure-boot')?.verdict).toBe('unknown');
    expect(tower?.judgements.find(({ rule }) => rule === 'firmware-mode')?.verdict).toBe('unknown');
  });

  it('are found between a 64-bit system and a 32-bit processor', () => {
    const facts: Facts = { ...laptop, wordBits: typed(32 as const) };
    expect(decide(inputOf(facts)).problems[0]).toContain('64 bit and the processor with 32');
  });

  it('are found in used bytes above the partition’s', () => {
    expect(decide(inputOf(systemUsing(200_000_000_000))).problems[0]).toContain(
      'more bytes used than it has',
    );
  });
});
