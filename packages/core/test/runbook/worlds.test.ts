import { describe, expect, it } from 'vitest';
import { worldsOf } from '../../src/runbook/machineOf';
import { goalOf } from '../../src/runbook/goalOf';
import { defaultHouseRules, type HouseRules } from '../../src/rules';
import type { Facts } from '../../src/survey';
import type { RouteId } from '../../src/route';
import {
  documents,
  inputFor,
  laptop,
  laptopSurvey,
  laptopWith,
  pictures,
  splitDisk,
  without,
  endedLaptop,
} from '../fixtures/shop';

const corvel = 'corvel-10-business';
const input = (facts: Facts = laptop, change: Partial<Parameters<typeof worldsOf>[0]> = {}) => ({
  ...inputFor('clean-whole-disk', corvel, { facts, ...change }),
});
const worlds = (facts?: Facts, change?: Partial<Parameters<typeof worldsOf>[0]>) =>
  worldsOf(input(facts, change));
const firmware = (change: object) => laptopWith({ firmware: { ...laptopSurvey.firmware, ...change } });
const system = (change: object) => laptopWith({ system: { ...laptopSurvey.system, ...change } });
/** Every value that something has in one of the worlds, once each. */
const values = <T>(facts: Facts, of: (world: ReturnType<typeof worlds>[number]) => T): T[] => [
  ...new Set(worlds(facts).map(of)),
];
const model = inputFor('hold', null).model;
if (!model) throw new Error('the laptop’s model is in the catalogue');

describe('the states that a survey leaves possible', () => {
  it('are two where all is known: whether USB starts, nobody knows', () => {
    expect(worlds()).toHaveLength(2);
    expect(values(laptop, ({ firmware: { usbStart } }) => usbStart)).toEqual([false, true]);
    const [world] = worlds();
    expect(world).toMatchObject({
      firmware: { starts: ['uefi'], can: ['uefi', 'legacy'], secureBoot: 'off', chip: 'off', first: 'disk' },
      running: { what: 'system', system: 'present' },
      onMains: false,
      // The maker’s tool fetches by itself.
      notes: ['image'],
      shimOnDisk: false,
      menu: false,
      dataPartition: false,
      firewall: false,
      encryptedAnew: false,
      installer: {
        kind: 'stick',
        written: false,
        modes: [],
        shim: false,
        plugged: false,
        signature: 'signed',
      },
    });
    expect(world?.systems).toEqual([
      {
        id: 'present',
        disk: 'sda',
        mode: 'uefi',
        needsShim: false,
        signature: 'signed',
        loader: true,
        setUp: true,
        licence: 'none-needed',
        networkDriver: true,
        driversFitted: true,
        updated: true,
        onNetwork: true,
        encryption: 'off',
        shutDownFully: false,
      },
    ]);
  });

  it('double with each fact that is not known', () => {
    const bare = without(without(without(laptop, 'diskEncryption'), 'fastStart'), 'tpm');
    expect(worlds(bare)).toHaveLength(16);
    expect(values(bare, ({ systems: [one] }) => one?.encryption).toSorted()).toEqual(['locked', 'off']);
    expect(values(bare, ({ systems: [one] }) => one?.shutDownFully)).toEqual([true, false]);
    expect(values(bare, ({ firmware: { chip } }) => chip)).toEqual(['on', 'off']);
    expect(values(system({ diskEncryption: 'on' }), ({ systems: [one] }) => one?.encryption)).toEqual([
      'locked',
    ]);
    expect(values(system({ fastStart: 'off' }), ({ systems: [one] }) => one?.shutDownFully)).toEqual([true]);
  });

  it('have a chip that is on in both versions, off, or none', () => {
    const chip = (tpm: string) => values(firmware({ tpm }), (world) => world.firmware.chip);
    expect(chip('2.0')).toEqual(['on']);
    expect(chip('1.2')).toEqual(['on']);
    expect(chip('present-off')).toEqual(['off']);
    expect(chip('none')).toEqual(['none']);
  });

  it('have Secure Boot only where the firmware has it, and on only in UEFI mode', () => {
    const secure = (change: object, given = model) => [
      ...new Set(
        worldsOf(input(firmware(change), { model: given })).map((world) => world.firmware.secureBoot),
      ),
    ];
    expect(secure({ secureBoot: 'on' })).toEqual(['on']);
    expect(secure({ secureBoot: 'on', mode: 'legacy' })).toEqual(['off']);
    expect(secure({ secureBoot: 'on', mode: 'uefi-with-legacy' })).toEqual(['off']);
    expect(secure({ secureBoot: 'not-supported' }, { ...model, secureBootCapable: false })).toEqual(['none']);
    // The survey of a legacy start cannot see it; the model has it.
    expect(secure({ secureBoot: 'not-supported' }, { ...model, secureBootCapable: true })).toEqual(['off']);
    expect(
      secure({ secureBoot: 'not-supported', mode: 'legacy' }, { ...model, secureBootCapable: false }),
    ).toEqual(['none']);
    expect([
      ...new Set(worlds(without(laptop, 'secureBoot')).map((world) => world.firmware.secureBoot)),
    ]).toEqual(['on', 'off']);
  });

  it('start in the modes of their firmware; where nobody knows, in one that suits the table', () => {
    const modes = (facts: Facts, given = model) =>
      [
        ...new Set(
          worldsOf(input(facts, { model: given })).map(
            ({ firmware: { starts, can }, systems: [one] }) =>
              `${starts.join('+')} of ${can.join('+')}: ${one?.mode ?? ''}`,
          ),
        ),
      ].toSorted();
    expect(modes(firmware({ mode: 'legacy' }))).toEqual(['legacy of uefi+legacy: legacy']);
    expect(modes(firmware({ mode: 'uefi-with-legacy' }))).toEqual(['uefi+legacy of uefi+legacy: uefi']);
    const unknown = (scheme: 'gpt' | 'mbr' | 'none'): Facts =>
      without(laptopWith({ disks: [{ ...splitDisk, scheme }] }), 'firmwareMode');
    expect(modes(unknown('gpt'))).toEqual(['uefi of uefi+legacy: uefi', 'uefi+legacy of uefi+legacy: uefi']);
    expect(modes(unknown('mbr'))).toEqual([
      'legacy of uefi+legacy: legacy',
      'uefi+legacy of uefi+legacy: legacy',
    ]);
    expect(modes(unknown('mbr'), { ...model, uefiCapable: false })).toEqual(['legacy of legacy: legacy']);
    expect(modes(unknown('none'))).toEqual(['legacy of uefi+legacy: legacy', 'uefi of uefi+legacy: uefi']);
    // What the firmware says goes before what the model table says.
    expect(modes(firmware({ mode: 'uefi' }), { ...model, uefiCapable: false })).toEqual([
      'uefi of uefi+legacy: uefi',
    ]);
  });

  it('have the disks of the survey, told apart where one can be pulled out', () => {
    const stick = { ...splitDisk, name: 'sdb', serial: 'STICK1', removable: true, partitions: [] };
    const [world] = worlds(laptopWith({ disks: [splitDisk, stick] }));
    expect(
      world?.disks.map(({ id, called, scheme, plugged, toldApart, identified, capsule }) => ({
        id,
        called,
        scheme,
        plugged,
        toldApart,
        identified,
        capsule,
      })),
    ).toEqual([
      {
        id: 'sda',
        called: '…9C2E',
        scheme: 'gpt',
        plugged: true,
        toldApart: false,
        identified: false,
        capsule: false,
      },
      {
        id: 'sdb',
        called: '…ICK1',
        scheme: 'gpt',
        plugged: true,
        toldApart: true,
        identified: false,
        capsule: false,
      },
    ]);
    expect(world?.disks[0]?.partitions.map(({ role }) => role)).toEqual([
      'efi',
      'reserved',
      'system',
      'data',
      'recovery',
    ]);
    const [none] = worlds(without(laptop, 'disks'));
    expect(none?.disks).toHaveLength(1);
    expect(none?.disks[0]).toMatchObject({ scheme: 'none', plugged: true, partitions: [{ role: 'system' }] });
  });

  it('have room beside only where a free run is large enough', () => {
    const room = (sectorCount: number) =>
      worldsOf(
        inputFor('beside-same-disk', 'saltbush-full', {
          facts: laptopWith({ disks: [{ ...splitDisk, sectorCount }] }),
        }),
      )[0]?.disks[0]?.room;
    expect(room(splitDisk.sectorCount)).toBe(false);
    expect(room(2 * splitDisk.sectorCount)).toBe(true);
  });

  it('have the data where they lie, and on the mains what has no battery', () => {
    const second = { ...splitDisk, name: 'sdb', serial: 'BL77A0', partitions: [] };
    const place = (facts: Facts, at: typeof documents.place, route: RouteId = 'clean-whole-disk') =>
      worldsOf({
        ...inputFor(route, corvel, { facts, dataSets: [{ ...documents, place: at }] }),
      })[0]?.data[0]?.original;
    expect(place(laptop, 'system-partition')).toEqual({ disk: 'sda', role: 'system' });
    expect(place(laptop, 'data-partition')).toEqual({ disk: 'sda', role: 'data' });
    expect(place(laptop, 'other-disk')).toBe('elsewhere');
    const two = laptopWith({ disks: [splitDisk, second] });
    expect(place(two, 'other-disk', 'beside-second-disk')).toEqual({ disk: 'sdb', role: 'data' });
    expect(place(two, 'other-disk')).toBe('elsewhere');
    const [world] = worlds(laptop, { dataSets: [documents, pictures] });
    expect(
      world?.data.map(({ id, good, unproven, back }) => [id, good.length, unproven.length, back]),
    ).toEqual([
      ['documents', 0, 0, false],
      ['pictures', 0, 0, false],
    ]);
    const desktop = laptopWith({ device: { ...laptopSurvey.device, chassis: 'desktop' } });
    expect(values(desktop, ({ onMains }) => onMains)).toEqual([true]);
  });
});

describe('what was decided, as a condition', () => {
  const goal = (
    routeId: RouteId,
    releaseId: string | null,
    { facts = laptop, rules = {} }: { readonly facts?: Facts; readonly rules?: Partial<HouseRules> } = {},
  ) =>
    goalOf({
      ...inputFor(routeId, releaseId, { facts, houseRules: { ...defaultHouseRules, ...rules } }),
    });
  it('is the target on its disk with the data back, and every copy compared', () => {
    expect(goal('clean-whole-disk', corvel)).toMatchObject({
      target: { disk: 'sda', patched: false },
      kept: [],
      back: ['documents', 'pictures'],
      isolated: null,
      emptied: null,
      notes: ['accounted'],
      firmware: { secureBoot: true, chip: true, uefi: false, firstDisk: false },
    });
    expect(goal('clean-whole-disk', corvel).copies).toHaveLength(4);
    expect(goal('clean-system-partition', corvel).back).toEqual(['documents']);
  });

  it('keeps and isolates the present system beside, empties the disk that leaves, notes a hold', () => {
    const ended = { facts: endedLaptop };
    expect(goal('beside-same-disk', 'saltbush-full', ended)).toMatchObject({
      kept: ['present'],
      isolated: 'present',
    });
    // What gets fixes stays on the network until they end; the day is noted.
    expect(goal('beside-same-disk', 'saltbush-full')).toMatchObject({
      kept: ['present'],
      isolated: null,
      notes: ['isolation-day', 'accounted'],
    });
    expect(goal('hold', null)).toMatchObject({
      target: null,
      kept: ['present'],
      isolated: 'present',
      notes: ['hold-until'],
    });
    expect(goal('replace', null)).toMatchObject({ target: null, emptied: 'sda' });
    expect(goal('replace', null).notes).toEqual(['new-device', 'disposed', 'accounted']);
    expect(goal('patched-install', 'aurin-15').target?.patched).toBe(true);
  });

  it('asks for what the house asks for', () => {
    expect(goal('clean-whole-disk', corvel, { rules: { boot: 'change-order' } }).firmware.firstDisk).toBe(
      true,
    );
    expect(goal('clean-whole-disk', corvel, { rules: { savedAs: 'both' } }).notes).toContain('image-of-disk');
    expect(goal('clean-whole-disk', corvel, { rules: { dataPartition: 'separate' } }).dataPartition).toBe(
      true,
    );
    expect(goal('clean-whole-disk', corvel, { rules: { dataPartition: 'one' } }).dataPartition).toBe(false);
    expect(goal('clean-whole-disk', corvel, { rules: { encryption: 'after' } }).encrypted).toBe(true);
    expect(goal('clean-whole-disk', corvel, { rules: { encryption: 'off' } }).encrypted).toBe(false);
    const encrypted = system({ diskEncryption: 'on' });
    const upgrade = { facts: encrypted, rules: { encryption: 'after' as const } };
    // What was on stays on: nothing is switched on anew.
    expect(goal('in-place-upgrade', corvel, upgrade)).toMatchObject({ encrypted: false });
    expect(goal('in-place-upgrade', corvel, upgrade).notes).toContain('recovery-key');
    expect(goal('in-place-upgrade', corvel, { rules: upgrade.rules })).toMatchObject({ encrypted: true });
    expect(goal('in-place-upgrade', corvel).notes).not.toContain('recovery-key');
  });
});
