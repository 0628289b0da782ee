import { describe, expect, it } from 'vitest';
import { installerMediumIds } from '../../src/catalogue';
import { type RouteId } from '../../src/route';
import { buildRunbook, nothingPrepared, type Runbook, type RunbookInput, type Step } from '../../src/runbook';
import { defaultHouseRules, type HouseRules } from '../../src/rules';
import type { Facts } from '../../src/survey';
import {
  catalogue,
  documents,
  driveB7,
  inputFor,
  laptop,
  laptopSurvey,
  laptopWith,
  now,
  releaseOf,
  share,
  splitDisk,
  without,
} from '../fixtures/shop';

type Given = Partial<RunbookInput> & { readonly rules?: Partial<HouseRules> };

const inputOf = (routeId: RouteId, releaseId: string | null, { rules, ...given }: Given = {}) =>
  inputFor(routeId, releaseId, {
    ...given,
    ...(rules ? { houseRules: { ...defaultHouseRules, ...rules } } : {}),
  });
const built = (...given: Parameters<typeof inputOf>): Runbook => {
  const runbook = buildRunbook(inputOf(...given));
  if (!runbook.ok) throw new Error(runbook.problems.map(({ sentence }) => sentence).join(' '));
  return runbook.value;
};
const kinds = (...given: Parameters<typeof inputOf>) => built(...given).steps.map(({ kind }) => kind);
/** The first step of a kind; fails where there is none. */
const step = (kind: Step['kind'], ...given: Parameters<typeof inputOf>): Step => {
  const found = built(...given).steps.find((one) => one.kind === kind);
  if (!found) throw new Error(`no ${kind}`);
  return found;
};
const corvel = 'corvel-10-business';
const system = (change: object): Facts => laptopWith({ system: { ...laptopSurvey.system, ...change } });
const second = { ...splitDisk, name: 'sdb', serial: 'BL77A0QQ31', partitions: [], scheme: 'none' as const };
const twoDisks = laptopWith({ disks: [splitDisk, second] });
const fenwright = inputFor('hold', null).model;
if (!fenwright) throw new Error('the laptop’s model is in the catalogue');
const locked = catalogue.models.find(({ patch }) => patch);
if (!locked?.patch) throw new Error('a model of the locked family is in the catalogue');

describe('keys', () => {
  const keyless = {
    ...fenwright,
    bootMenuKey: undefined,
    setupKey: undefined,
  } as unknown as typeof fenwright;
  it('are the model’s, or are looked for', () => {
    const start = (rules: Partial<HouseRules>, model: RunbookInput['model']) =>
      step('start-from-stick', 'clean-whole-disk', corvel, { rules, model });
    const known = start({ boot: 'menu-once' }, fenwright);
    expect(known.title).toBe(`Start from the stick: ${fenwright.bootMenuKey ?? ''}`);
    expect(known.why).toContain(
      `Boot-menu key ${fenwright.bootMenuKey ?? ''}, from the model table. All other sticks out.`,
    );
    expect(start({ boot: 'change-order' }, fenwright).title).toBe(
      `Put the stick first in the boot order: set-up key ${fenwright.setupKey ?? ''}`,
    );
    const unknown = start({ boot: 'menu-once' }, keyless);
    // Of Kestle’s models two have F7 and one F8; three have F2 for the set-up, one Delete.
    expect(unknown.title).toBe('Start from the stick: F7 or F8');
    expect(unknown.why).toContain('as on other models of Kestle');
    expect(start({ boot: 'menu-once' }, { ...fenwright, quirks: ['The lid must be open.'] }).why).toContain(
      ' The lid must be open.',
    );
    expect(step('firmware', 'clean-whole-disk', corvel, { model: keyless }).why).toContain(
      'Set-up key: F2 or Delete, as on other models of Kestle.',
    );
  });

  it('start a disc and a partition, too', () => {
    const disc = (model: RunbookInput['model']) =>
      step('start-from-disc', 'clean-whole-disk', corvel, { installerMedium: 'optical-disc', model });
    expect(disc(fenwright).title).toBe(`Start from the disc: ${fenwright.bootMenuKey ?? ''}`);
    expect(disc(fenwright).why).toContain('from the model table');
    expect(disc(fenwright).why).toContain('“Press any key” once, and never again');
    expect(disc(keyless).title).toBe('Start from the disc: F7 or F8');
  });
});

describe('media', () => {
  const all = (installerMedium: RunbookInput['installerMedium'], releaseId = corvel, given: Given = {}) =>
    kinds('clean-whole-disk', releaseId, { installerMedium, ...given });
  it('each have their own steps and no others', () => {
    expect(installerMediumIds).toContain('optical-disc');
    const stick = all('stick');
    const disc = all('optical-disc');
    const only = (own: readonly string[], other: readonly string[]) =>
      own.filter((kind) => !other.includes(kind));
    expect(only(stick, disc).toSorted()).toEqual(['start-from-stick', 'stick-out', 'write-stick']);
    // The maker’s tool fetches by itself what it writes to the stick.
    expect(only(disc, stick).toSorted()).toEqual(['burn-disc', 'disc-out', 'fetch-image', 'start-from-disc']);
  });

  it('say how large the image is, and when a disc needs two layers', () => {
    const burn = (imageBytes: number) =>
      step('burn-disc', 'clean-whole-disk', corvel, {
        installerMedium: 'optical-disc',
        release: { ...releaseOf(corvel), imageBytes },
      });
    expect(burn(4_700_000_000).why).toBe('The image has 4.7 GB (4.4 GiB).');
    expect(burn(4_700_000_001).why).toBe('The image has 4.7 GB (4.4 GiB): a dual-layer disc.');
    expect(burn(1).success).toContain(`begins with ${releaseOf(corvel).imageSha256.slice(0, 8)}`);
  });

  it('are written as the house writes them', () => {
    const why = (stickTool: HouseRules['stickTool']) =>
      step('write-stick', 'clean-whole-disk', corvel, { rules: { stickTool } }).why;
    expect(why('official')).toContain('With the maker’s own tool: it fetches');
    expect(why('image-writer')).toContain('With the image writer');
  });
});

describe('encryption', () => {
  const why = (facts: Facts) => step('record-recovery-key', 'clean-whole-disk', corvel, { facts }).why;
  it('names the place of the key only where the survey was told of one', () => {
    const on = system({ diskEncryption: 'on' });
    expect(why(on)).not.toContain('said to be kept');
    expect(
      why({ ...on, recoveryKeyPlace: { value: 'office safe', source: 'typed', at: now } } as Facts),
    ).toContain('It is said to be kept: office safe.');
  });

  it('is looked for where nobody knows, and suspended where it is known', () => {
    const suspend = (facts: Facts) => step('suspend-encryption', 'clean-whole-disk', corvel, { facts });
    expect(suspend(system({ diskEncryption: 'on' }))).toMatchObject({
      title: 'Suspend disk encryption',
      success: 'The encryption page says suspended.',
    });
    expect(suspend(without(laptop, 'diskEncryption')).success).toContain('or that it is off');
  });

  it('is resumed on the system that was suspended', () => {
    const resume = (routeId: RouteId, releaseId: string, facts: Facts) =>
      step('resume-encryption', routeId, releaseId, { facts }).title;
    const on = system({ diskEncryption: 'on' });
    expect(resume('in-place-upgrade', corvel, on)).toBe('Resume the encryption');
    expect(resume('in-place-upgrade', corvel, without(laptop, 'diskEncryption'))).toBe(
      'Where it was suspended, resume the encryption',
    );
    expect(resume('beside-same-disk', 'saltbush-full', on)).toBe(
      'Resume the encryption of the present system',
    );
    expect(kinds('in-place-upgrade', corvel)).not.toContain('resume-encryption');
  });
});

describe('the licence', () => {
  it('says how the present one is held, where that is known', () => {
    const why = (facts: Facts) => step('record-licence', 'clean-whole-disk', corvel, { facts }).why;
    expect(why(laptop)).toContain('The present one is digital: ');
    expect(why(without(laptop, 'activation'))).not.toContain('The present one');
  });
});

describe('drivers', () => {
  const withDevices = (facts: Facts): Facts =>
    ({
      ...facts,
      attachedDevices: {
        value: [
          { name: 'Plotter 7', needsDriver: true },
          { name: 'Mouse', needsDriver: false },
        ],
        source: 'typed',
        at: now,
      },
    }) as Facts;
  const carry = (facts: Facts) => step('carry-drivers', 'clean-whole-disk', corvel, { facts });
  it('of attached devices are carried beside the network’s', () => {
    expect(carry(withDevices(laptop))).toMatchObject({
      title: 'Put the drivers for Plotter 7 on a second stick',
      why: 'Plotter 7 needs its maker’s driver.',
    });
    const noNetwork = withDevices(laptopWith({ network: [{ name: 'wl-a', kind: 'wireless' }] }));
    expect(carry(noNetwork)).toMatchObject({
      title: 'Put the network driver and those for Plotter 7 on a second stick',
      why: 'No driver for its network adapter comes with the release. Plotter 7 needs its maker’s driver.',
    });
    expect(carry(laptopWith({ network: [] })).title).toBe('Put the network driver on a second stick');
  });
});

describe('the other disks', () => {
  const three = laptopWith({ disks: [splitDisk, second, { ...second, name: 'sdc', serial: 'BL77A0QQ32' }] });
  it('are plugged in again when they were unplugged', () => {
    const back = (facts: Facts) =>
      step('other-disks-back', 'clean-whole-disk', corvel, { facts, rules: { otherDisks: 'unplug' } }).title;
    expect(back(twoDisks)).toBe('Plug the other disk in again: …QQ31 256.1 GB');
    expect(back(three)).toBe('Plug the other disks in again: …QQ31 256.1 GB, …QQ32 256.1 GB');
    expect(kinds('clean-whole-disk', corvel)).not.toContain('other-disks-back');
    expect(
      kinds('clean-whole-disk', corvel, { facts: twoDisks, rules: { otherDisks: 'tell-apart' } }),
    ).not.toContain('other-disks-back');
  });

  it('take the second system, and the first one is unplugged meanwhile', () => {
    const given = { facts: twoDisks };
    expect(step('fit-second-disk', 'beside-second-disk', 'saltbush-full', given).title).toBe(
      'Look at the second disk …QQ31, and unplug the present one',
    );
    expect(step('fit-second-disk', 'beside-second-disk', 'saltbush-full').title).toContain(
      'Fit the second disk',
    );
    expect(step('erase-disk', 'beside-second-disk', 'saltbush-full', given).title).toContain(
      'disk …QQ31, 256.1 GB',
    );
    expect(step('boot-menu', 'beside-second-disk', 'saltbush-full', given).title).toContain(
      'Plug the first disk in again',
    );
    expect(step('boot-menu', 'beside-same-disk', 'saltbush-full').title).toContain(
      'set the default and its seconds',
    );
  });

  it('that cannot be told are written by their marks', () => {
    const facts = without(laptop, 'disks');
    expect(step('erase-disk', 'clean-whole-disk', corvel, { facts }).title).toContain(
      'the serial number and size noted',
    );
    expect(
      step('wipe-old-disk', 'replace', null, {
        facts,
        dataSets: [documents],
        destinations: [driveB7, share].map((one) => ({ ...one, takes: ['documents'] })),
      }).title,
    ).toBe('Wipe the old disk');
    expect(step('wipe-old-disk', 'replace', null).title).toBe('Wipe the old disk …9C2E');
  });
});

describe('beside', () => {
  it('shrinks only where no run is free that is large enough', () => {
    const roomy = laptopWith({ disks: [{ ...splitDisk, sectorCount: 2 * splitDisk.sectorCount }] });
    expect(kinds('beside-same-disk', 'saltbush-full', { facts: roomy })).not.toContain('shrink-system');
    const { systemBytes } = releaseOf('saltbush-full');
    const shrink = step('shrink-system', 'beside-same-disk', 'saltbush-full');
    expect(shrink.why).toContain(`type ${Math.ceil((systemBytes + 20e9) / 1024 ** 2)}:`);
  });

  it('says which EFI partition the house takes, and which system is isolated', () => {
    const efi = (efiPartition: HouseRules['efiPartition']) =>
      step('install-beside', 'beside-same-disk', 'saltbush-full', { rules: { efiPartition } }).why;
    expect(efi('share')).toContain('share the EFI system partition');
    expect(efi('own')).toContain('make an EFI system partition of its own');
    expect(step('isolate-old-system', 'beside-same-disk', 'saltbush-full').title).toContain(
      '(Corvel 9 Business)',
    );
    expect(
      step('isolate-old-system', 'beside-same-disk', 'saltbush-full', { present: undefined }).title,
    ).toBe('Isolate the old system: no network when it is started');
  });
});

describe('past the vendor’s ceiling', () => {
  const patched = (kind: Step['kind'], model: RunbookInput['model'] = locked) =>
    step(kind, 'patched-install', 'aurin-15', { model });
  it('names the model, its key and its limits, or does without', () => {
    expect(patched('write-shim').why).toBe(`The ${locked.model} refuses Aurin 15 without it.`);
    expect(patched('start-by-key').title).toBe(
      `Start the shim from the stick: ${locked.patch?.startKey ?? ''}`,
    );
    expect(patched('install-over').why).toContain(`each with ${locked.patch?.startKey ?? ''}.`);
    expect(patched('shim-to-disk').why).toBe(
      `The install restarts from the disk, and refuses without it; once it is the default no start needs the stick and ${locked.patch?.startKey ?? ''}.`,
    );
    expect(patched('updates-by-hand').why).toContain(locked.model);
    // The shim on the disk is tried with the present system; the stick stays until the new one starts alone.
    const order = built('patched-install', 'aurin-15', { model: locked }).steps.map(({ kind }) => kind);
    const at = (kind: Step['kind']) => order.indexOf(kind);
    const wanted: readonly Step['kind'][] = [
      'write-shim',
      'shim-to-disk',
      'start-by-key',
      'install-over',
      'stick-out',
      'updates',
      'driver-patch',
      'updates-by-hand',
    ];
    expect(wanted.map(at)).toEqual(wanted.map(at).toSorted((a, b) => a - b));
    expect(Math.min(...wanted.map(at))).toBeGreaterThanOrEqual(0);
    for (const { sentence } of locked.patch?.limits ?? [])
      expect(patched('driver-patch').why).toContain(sentence);
    const plain = patched('driver-patch', fenwright);
    expect(plain.why).toBe('For graphics and wireless.');
    expect(patched('start-by-key', fenwright).title).toContain(fenwright.bootMenuKey ?? 'none');
    expect(patched('install-over', fenwright).why).toContain('each with the key.');
    expect(patched('shim-to-disk', fenwright).why).toContain('the stick and the key.');
  });
});

describe('replacing the device', () => {
  const moved = (given: Given = {}) => built('replace', null, given).steps;
  it('names the new one when it is named, and each place that the data come from', () => {
    const replacement = { maker: 'Ostley', model: 'Quern', serial: 'OQ-1', at: now, by: 'Ines' };
    const pair = (given: Given) => moved(given).find(({ kind }) => kind === 'pair-device')?.title;
    expect(pair({})).toBe('Name the new device and set it up');
    expect(pair({ preparation: { ...nothingPrepared, replacement } })).toBe('Set up Ostley Quern, OQ-1');
    const from = (destinations: RunbookInput['destinations']) =>
      moved({ destinations, rules: { copiesBeforeLine: 1 } }).filter(({ kind }) => kind === 'move-data');
    expect(from([driveB7]).map(({ id, title }) => [id, title])).toEqual([
      ['move-data', 'Restore 2 data sets onto the new device from B-07'],
    ]);
    const two = from([
      { ...driveB7, takes: ['documents'] },
      { ...share, takes: ['pictures'] },
    ]);
    expect(two.map(({ id }) => id).toSorted()).toEqual(['move-data:b-07', 'move-data:pier-store']);
    expect(two.flatMap(({ effects }) => effects.map(({ kind }) => kind))).toEqual(['restored', 'restored']);
  });
});

describe('accounts', () => {
  it('of others are named, where there are any', () => {
    const why = (accounts: readonly string[]) =>
      step('forgotten-things', 'clean-whole-disk', corvel, {
        facts: { ...laptop, accounts: { value: accounts, source: 'typed', at: now } } as unknown as Facts,
      }).why;
    expect(why(['crew', 'guest'])).toContain('2 accounts are on the device: crew, guest.');
    expect(why(['crew'])).not.toContain('accounts are on the device');
    expect(step('forgotten-things', 'clean-whole-disk', corvel).why).not.toContain(
      'accounts are on the device',
    );
  });
});
