import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { systemShare } from '../../src/disk/systemShare';
import { defaultHouseRules, type HouseRules } from '../../src/rules';
import { answerSheet, nothingPrepared, planSteps, planStates, type Preparation } from '../../src/runbook';
import { layoutApart, partsBeyondDisk, shareOfDisk } from '../../src/runbook/layoutApart';
import { planDisks } from '../../src/runbook/planDisks';
import { PreparationSchema } from '../../src/runbook/preparation';
import { anyPlanInput } from '../fixtures/plans';
import { inputFor, laptopWith, releaseOf, splitDisk, technician } from '../fixtures/shop';
import { saved } from '../fixtures/story';
import { prepare } from '../../src/record';

const gb = 1e9;
const gib = 1024 ** 3;

describe('how large a system should be', () => {
  const share = (roomGb: number, dataGb: number, systemBytes = 27 * gb) =>
    systemShare({ roomBytes: roomGb * gb, systemBytes, dataBytes: dataGb * gb });

  it('is three times what it takes, four times on a roomy disk, in whole tens of gigabytes', () => {
    expect(share(256, 20).systemBytes).toBe(90 * gb);
    expect(share(1000, 20).systemBytes).toBe(110 * gb);
    expect(share(256, 20, 30 * gb).systemBytes).toBe(90 * gb);
  });

  it('leaves one partition where the rest would soon be full', () => {
    // 128 − 90 = 38 GB; 256 − 90 = 166 GB, which holds 80 GB twice and 90 GB not.
    expect([share(128, 5).isWorthIt, share(256, 5).isWorthIt]).toEqual([false, true]);
    expect([share(256, 80).isWorthIt, share(256, 90).isWorthIt]).toEqual([true, false]);
    expect(share(128, 5).sentence()).toBe(
      'A system of 27.0 GB gets 90.0 GB, 3 times that; 38.0 GB would be left for data of 5.0 GB, and 100.0 GB are wanted: one partition.',
    );
    expect(share(256, 80).sentence()).toContain('apart is worth it');
  });

  it('never gives more than there is where a split is worth it', () => {
    let worth = 0;
    const bytes = (max: number) => fc.integer({ min: 1, max: max }).map((size) => size * gb);
    fc.assert(
      fc.property(bytes(4000), bytes(60), bytes(2000), (roomBytes, systemBytes, dataBytes) => {
        const found = systemShare({ roomBytes, systemBytes, dataBytes });
        expect(found.systemBytes + found.restBytes).toBe(roomBytes);
        if (!found.isWorthIt) return;
        worth += 1;
        expect(found.restBytes).toBeGreaterThanOrEqual(2 * dataBytes);
        expect(found.systemBytes).toBeGreaterThanOrEqual(3 * systemBytes);
      }),
      { numRuns: 500 },
    );
    expect(worth).toBeGreaterThan(50);
  });
});

const given = (rules: Partial<HouseRules>, preparation: Partial<Preparation> = {}) =>
  inputFor('clean-whole-disk', 'saltbush-full', {
    houseRules: { ...defaultHouseRules, ...rules },
    preparation: { ...nothingPrepared, ...preparation },
  });
const three = [
  { name: 'home', sizeBytes: 60 * gib },
  { name: 'photos', sizeBytes: null },
];

describe('partitions for data', () => {
  it('are those that were asked for, whatever the house keeps; else one where the house and the disk want it', () => {
    expect(layoutApart(given({ dataPartition: 'one' }))).toBeUndefined();
    expect(layoutApart(given({ dataPartition: 'one' }, { dataParts: three }))?.parts).toEqual(three);
    expect(layoutApart(given({ dataPartition: 'separate' }))?.parts).toEqual([
      { name: 'data', sizeBytes: null },
    ]);
    const small = inputFor('clean-whole-disk', 'saltbush-full', {
      houseRules: { ...defaultHouseRules, dataPartition: 'separate' },
      facts: laptopWith({ disks: [{ ...splitDisk, sectorCount: 200_000_000 }] }),
    });
    expect(shareOfDisk(small)?.isWorthIt).toBe(false);
    expect(layoutApart(small)).toBeUndefined();
    // Who says how large the system is to be has thought about it.
    const wanted = { ...small, preparation: { ...small.preparation, wantedSystemBytes: 40 * gib } };
    expect(layoutApart(wanted)?.systemBytes).toBe(40 * gib);
  });

  it('are made on the installer’s page by hand, three in a row, with the installer’s own reckoned in', () => {
    const input = given({ partitioning: 'by-hand' }, { dataParts: three, wantedSystemBytes: 80 * gib });
    const states = planStates(input);
    const hand = states.ok
      ? answerSheet(input, states.value, { site: 'a', owner: 'b', reference: 'c' })?.hand
      : undefined;
    // 300 MiB for the EFI partition; 80 × 1024 and 60 × 1024; the rest of 244,198 MiB less one at either end.
    const [efi] = releaseOf('saltbush-full').installerPartitions;
    expect(hand?.made.map(({ size, mountPoint }) => [Number(size), mountPoint]).slice(0, 3)).toEqual([
      [(efi?.sizeBytes ?? 0) / 1024 ** 2, '/boot/efi'],
      [81_920, '/'],
      [61_440, '/home'],
    ]);
    const last = hand?.made.at(-1);
    expect(last?.mountPoint).toBe('/photos');
    expect(Math.abs(Number(last?.size) - (244_198 - 1 - 300 - 81_920 - 61_440))).toBeLessThan(4);
    const kinds = planSteps(input);
    const made = kinds.ok ? kinds.value.steps.map(({ step }) => step.kind) : [];
    expect(made).not.toContain('make-data-partition');
    const erase = kinds.ok ? kinds.value.steps.find(({ step }) => step.kind === 'erase-disk') : undefined;
    expect(erase?.step.why).toContain('Then the system 81920 MiB, home 61440 MiB, photos with the rest.');
  });

  it('keep their purpose whatever they are called, and are mounted by their names', () => {
    const names = ['Boot photos', 'Efi & co', 'Übersee', '…'];
    const dataParts = names.map((name) => ({ name, sizeBytes: 10 * gib }));
    const input = given({ partitioning: 'by-hand' }, { dataParts });
    const states = planStates(input);
    const hand = states.ok
      ? answerSheet(input, states.value, { site: 'a', owner: 'b', reference: 'c' })?.hand
      : undefined;
    expect(
      hand?.made
        .filter(({ label }) => names.includes(label))
        .map(({ purpose, mountPoint, fileSystem }) => [purpose, mountPoint, fileSystem]),
    ).toEqual(
      ['/boot-photos', '/efi-co', '/übersee', '/data'].map((mount) => [
        'data',
        mount,
        releaseOf('saltbush-full').systemFileSystem,
      ]),
    );
    // The loader goes to the EFI system partition, and to nothing that is called like it.
    expect(hand?.loader?.purpose).toBe('efi');
    expect(names).not.toContain(hand?.loader?.label);
  });

  it('are refused where the disk has no room for them, by their own size or the system’s', () => {
    const beyond = (preparation: Partial<Preparation>) => partsBeyondDisk(given({}, preparation));
    // 256 GB: 238 GiB, of which the system gets 80.
    const system = { wantedSystemBytes: 80 * gib };
    expect(beyond({ ...system, dataParts: [{ name: 'a', sizeBytes: 150 * gib }] })).toBeUndefined();
    expect(beyond({ ...system, dataParts: [{ name: 'a', sizeBytes: 160 * gib }] })).toContain(
      'make one of them smaller',
    );
    const noted = prepare(
      saved(),
      { ...system, dataParts: [{ name: 'a', sizeBytes: 150 * gib }] },
      technician,
    );
    if (!noted.ok) throw new Error(noted.problems[0]?.sentence);
    const larger = prepare(noted.value.move, { wantedSystemBytes: 100 * gib }, technician);
    expect(!larger.ok && larger.problems.map(({ code }) => code)).toEqual(['parts-beyond-disk']);
    expect(prepare(noted.value.move, { wantedSystemBytes: null }, technician).ok).toBe(true);
  });

  it('come after the first start where the installer lays out by itself, in one step that names them', () => {
    const planned = planSteps(
      given({ partitioning: 'guided' }, { dataParts: three, wantedSystemBytes: 80 * gib }),
    );
    const step = planned.ok
      ? planned.value.steps.find((one) => one.step.kind === 'make-data-partition')?.step
      : undefined;
    expect(step?.title).toBe('Make 2 partitions for data');
    expect(step?.why).toContain('Shrink the system to 81920 MiB, make home of 61440 MiB and give the rest');
  });

  it('have names that differ, and only the last has no size', () => {
    const read = (dataParts: unknown) =>
      PreparationSchema.safeParse({ ...nothingPrepared, dataParts }).success;
    expect(read(three)).toBe(true);
    expect(read([...three].reverse())).toBe(false);
    expect(read([three[0], { name: 'HOME', sizeBytes: null }])).toBe(false);
    // Kept before there were any.
    const { dataParts: _none, ...before } = nothingPrepared;
    expect(PreparationSchema.parse(before).dataParts).toEqual([]);
  });

  it('never overlap nor pass the end of the disk, whatever was asked for', () => {
    let drawn = 0;
    const anyParts = fc.array(fc.integer({ min: 1, max: 900 }), { minLength: 1, maxLength: 5 });
    fc.assert(
      fc.property(anyPlanInput, anyParts, fc.boolean(), (input, sizes, isLastOpen) => {
        if (!input?.route.steps.includes('make-data-partition')) return;
        const dataParts = sizes.map((size, index) => ({
          name: `part ${index}`,
          sizeBytes: isLastOpen && index === sizes.length - 1 ? null : size * gib,
        }));
        const asked = { ...input, preparation: { ...input.preparation, dataParts } };
        const states = planStates(asked);
        if (!states.ok) return;
        for (const disk of planDisks(asked, states.value))
          for (let cut = 0; cut <= states.value.steps.length; cut += 1) {
            const places = disk.bands
              .flatMap(({ cuts, label }) => {
                const place = cuts[cut];
                return place ? [{ ...place, label }] : [];
              })
              .sort((a, b) => a.startLba - b.startLba);
            for (const [index, { startLba, sectorCount, label }] of places.entries()) {
              if (label.startsWith('part ')) drawn += 1;
              expect(startLba + sectorCount).toBeLessThanOrEqual(
                places[index + 1]?.startLba ?? disk.sectorCount,
              );
            }
          }
      }),
      { numRuns: 200 },
    );
    expect(drawn).toBeGreaterThan(100);
  });
});
