import { describe, expect, it } from 'vitest';
import { buildRunbook, nothingPrepared, type RunbookInput, type Step } from '../../src/runbook';
import { defaultHouseRules, type HouseRules } from '../../src/rules';
import type { RouteId } from '../../src/route';
import type { Facts } from '../../src/survey';
import {
  catalogue,
  documents,
  driveB7,
  inputFor,
  laptop,
  laptopSurvey,
  laptopWith,
  pictures,
  releaseOf,
  share,
  splitDisk,
  without,
} from '../fixtures/shop';

type Given = Partial<RunbookInput> & { readonly rules?: Partial<HouseRules> };

const stepsOf = (
  routeId: RouteId,
  releaseId: string | null,
  { rules, ...given }: Given = {},
): readonly Step[] => {
  const runbook = buildRunbook(
    inputFor(routeId, releaseId, {
      ...given,
      ...(rules ? { houseRules: { ...defaultHouseRules, ...rules } } : {}),
    }),
  );
  if (!runbook.ok) throw new Error(runbook.problems[0]?.sentence);
  return runbook.value.steps;
};
const clean = (given: Given = {}) => stepsOf('clean-whole-disk', 'corvel-10-business', given);
const only = (steps: readonly Step[], kind: string) => {
  const found = steps.filter((step) => step.kind === kind);
  expect([kind, found.length]).toEqual([kind, 1]);
  return found[0];
};
const none = (steps: readonly Step[], kind: string) =>
  expect([kind, steps.filter((step) => step.kind === kind).length]).toEqual([kind, 0]);
const system = (change: object): Facts => laptopWith({ system: { ...laptopSurvey.system, ...change } });

describe('what the present system has switched on', () => {
  it('fast start is switched off unless it is off', () => {
    const apart = (facts: Facts) => stepsOf('clean-system-partition', 'corvel-10-business', { facts });
    only(apart(system({ fastStart: 'on' })), 'fast-start-off');
    only(apart(without(laptop, 'fastStart')), 'fast-start-off');
    none(apart(system({ fastStart: 'off' })), 'fast-start-off');
  });

  it('encryption is suspended where it is on or may be, and nowhere else', () => {
    only(clean({ facts: system({ diskEncryption: 'on' }) }), 'suspend-encryption');
    none(clean({ facts: system({ diskEncryption: 'off' }) }), 'suspend-encryption');
    // Nobody knows: it is looked at.
    expect(only(clean({ facts: without(laptop, 'diskEncryption') }), 'suspend-encryption')?.title).toBe(
      'Look whether the disk is encrypted, and if so suspend that',
    );
  });

  it('a charger is asked for but on a desktop', () => {
    only(clean(), 'charger');
    none(clean({ facts: laptopWith({ device: { ...laptopSurvey.device, chassis: 'desktop' } }) }), 'charger');
    only(clean({ facts: without(laptop, 'chassis') }), 'charger');
  });
});

describe('the other disks', () => {
  const archive = (serial: string) => ({ ...splitDisk, name: serial, serial, partitions: [] });
  const stick = { ...archive('STICK-0001'), removable: true };
  const steps = (otherDisks: HouseRules['otherDisks'], ...serials: readonly string[]) =>
    clean({
      facts: laptopWith({ disks: [splitDisk, stick, ...serials.map(archive)] }),
      rules: { otherDisks },
    });

  it('are unplugged or told apart as the house has it; what can be pulled out is none of them', () => {
    none(steps('unplug'), 'other-disks');
    expect(only(steps('unplug', 'ARCH-0001'), 'other-disks')?.title).toBe(
      'Unplug the other disk: …0001 256.1 GB',
    );
    expect(only(steps('unplug', 'ARCH-0001', 'ARCH-0002'), 'other-disks')?.title).toBe(
      'Unplug the other disks: …0001 256.1 GB, …0002 256.1 GB',
    );
    expect(only(steps('tell-apart', 'ARCH-0001'), 'other-disks')?.title).toBe(
      'Label the other disk do not touch: …0001 256.1 GB',
    );
    expect(only(steps('tell-apart', 'ARCH-0001', 'ARCH-0002'), 'other-disks')?.title).toContain(
      'Label the other disks do not touch',
    );
  });

  it('never stand in for the one that is written', () => {
    const disk = only(steps('unplug', 'ARCH-0001'), 'identify-disk');
    expect(disk?.title).toContain('9C2E');
    expect(disk?.why).toBe('Serial HX7714A9C2E, 256.1 GB. Never by its number in a list.');
    const unknown = only(clean({ facts: without(laptop, 'disks') }), 'identify-disk');
    expect(unknown?.title).toBe('Identify the disk that is to be written, by serial number and size');
  });
});

describe('house rules in the first hours of the new system', () => {
  it('say whose account, which network, and when it is encrypted', () => {
    const first = (rules: Partial<HouseRules>, releaseId = 'corvel-10-business') =>
      only(stepsOf('clean-whole-disk', releaseId, { rules }), 'first-start');
    expect(first({ account: 'local' })?.title).toContain('a local account');
    expect(first({ account: 'online' })?.title).toContain('the owner’s online account');
    expect(first({ networkDuringSetup: 'online' })?.why).toContain('online during set-up');
    expect(first({ encryption: 'during-setup' })?.why).toContain('encryption on now');
    expect(first({ encryption: 'after' })?.why).not.toContain('encryption on now');
    // A release that goes no further without a network says so where the house stays offline, and only there.
    const needsNetwork = catalogue.releases.find(
      ({ firstStartNetwork, setUpWithout }) => firstStartNetwork && setUpWithout.length === 0,
    );
    const needsNone = catalogue.releases.find(({ firstStartNetwork }) => !firstStartNetwork);
    const said = (releaseId: string | undefined, networkDuringSetup: 'online' | 'offline') =>
      buildRunbook(
        inputFor('clean-whole-disk', releaseId ?? null, {
          houseRules: { ...defaultHouseRules, networkDuringSetup },
        }),
      );
    const hasSentence = (runbook: ReturnType<typeof said>) =>
      runbook.ok &&
      runbook.value.steps.some(
        ({ kind, why }) => kind === 'first-start' && why.includes('without a network'),
      );
    expect(needsNetwork).toBeDefined();
    expect(hasSentence(said(needsNetwork?.id, 'offline'))).toBe(true);
    expect(hasSentence(said(needsNetwork?.id, 'online'))).toBe(false);
    expect(hasSentence(said(needsNone?.id, 'offline'))).toBe(false);
  });

  it('take or leave optional updates, and put the boot order back where it was changed', () => {
    only(clean({ rules: { optionalUpdates: true } }), 'optional-updates');
    none(clean({ rules: { optionalUpdates: false } }), 'optional-updates');
    only(clean({ rules: { boot: 'change-order' } }), 'boot-order-back');
    none(clean({ rules: { boot: 'menu-once' } }), 'boot-order-back');
    only(clean({ rules: { encryption: 'after' } }), 'encrypt');
    none(clean({ rules: { encryption: 'off' } }), 'encrypt');
    none(clean({ rules: { encryption: 'during-setup' } }), 'encrypt');
  });

  it('activate what takes a licence', () => {
    only(clean(), 'activate');
    const free = catalogue.releases.find(({ activation }) => activation.every((kind) => kind === 'none'));
    expect(free).toBeDefined();
    none(stepsOf('alternative-system', free?.id ?? null), 'activate');
  });
});

describe('what is saved and comes back', () => {
  it('an image is made beside the files where the house keeps both', () => {
    none(clean({ rules: { savedAs: 'data' } }), 'full-image');
    const image = only(clean({ rules: { savedAs: 'both' } }), 'full-image');
    expect(image?.title).toBe('Make a full image of the disk on B-07');
    // 40 GB on the system partition and 60 GB of data.
    expect(image?.why).toContain('100.0 GB');
    none(
      clean({ rules: { savedAs: 'both', copiesBeforeLine: 1 }, destinations: [], dataSets: [] }),
      'full-image',
    );
  });

  it('every destination that takes something is copied to and verified, with its own sets', () => {
    const steps = clean({
      destinations: [
        { ...driveB7, takes: ['documents'] },
        { ...share, takes: ['documents', 'pictures'] },
        { ...driveB7, id: 'b-11', name: 'B-11', takes: ['pictures'] },
        { ...driveB7, id: 'b-12', name: 'B-12', takes: [] },
      ],
    });
    expect(steps.filter(({ kind }) => kind === 'copy').map(({ id }) => id)).toEqual([
      'copy:b-07',
      'copy:pier-store',
      'copy:b-11',
    ]);
    expect(
      steps
        .filter(({ kind }) => kind === 'verify')
        .map(({ effects }) => effects.flatMap((one) => one.dataSetIds)),
    ).toEqual([['documents'], ['documents', 'pictures'], ['pictures']]);
  });

  it('comes back from the one destination that holds all, else from as many as it takes', () => {
    const restored = (destinations: RunbookInput['destinations']) =>
      clean({ destinations, rules: { copiesBeforeLine: 1 } })
        .filter(({ kind }) => kind === 'restore')
        .map(({ id, title, effects }) => [id, title, effects.flatMap(({ dataSetIds }) => dataSetIds)]);
    const one = restored([
      { ...driveB7, takes: ['documents'] },
      { ...share, takes: ['documents', 'pictures'] },
    ]);
    expect(one).toEqual([['restore', 'Restore 2 data sets from Pier store', ['documents', 'pictures']]]);
    const two = restored([
      { ...driveB7, takes: ['documents'] },
      { ...share, takes: ['pictures'] },
    ]);
    expect(two.map(([id]) => id).toSorted()).toEqual(['restore:b-07', 'restore:pier-store']);
    expect(two.map(([, title]) => title).toSorted()).toEqual([
      `Restore 1 data set from B-07: ${documents.name}`,
      `Restore 1 data set from Pier store: ${pictures.name}`,
    ]);
  });

  it('is accounted for, file by file, where there is anything', () => {
    const files = (documents.fileCount + pictures.fileCount).toLocaleString('en');
    expect(only(clean(), 'reconcile')?.why).toContain(`${files} files before`);
    none(clean({ dataSets: [], destinations: [] }), 'reconcile');
  });
});

describe('sizes that are typed', () => {
  it('a data partition gets what the system’s share leaves, or what was wanted', () => {
    const made = (wantedSystemBytes: number | null) =>
      only(
        clean({
          rules: { dataPartition: 'separate' },
          preparation: { ...nothingPrepared, wantedSystemBytes },
        }),
        'make-data-partition',
      )?.why;
    // Three times 27 GB, in whole tens: 90 GB, and 90 · 10⁹ / 1024² is 85,830.7.
    expect(made(null)).toContain('Shrink the system to 85831 MiB');
    expect(made(100 * 1024 ** 3)).toContain('Shrink the system to 102400 MiB');
    // 500,118,192 sectors of 512 bytes less 100 GiB: 148.7 GB.
    expect(made(100 * 1024 ** 3)).toContain('about 148.7 GB');
    none(clean({ rules: { dataPartition: 'one' } }), 'make-data-partition');
  });

  it('partitions by hand name those that the installer would have made', () => {
    const erase = (partitioning: HouseRules['partitioning']) =>
      only(clean({ rules: { partitioning } }), 'erase-disk');
    const own = releaseOf('corvel-10-business').installerPartitions;
    expect(own.length).toBeGreaterThan(0);
    expect(erase('by-hand')?.why).toContain(`Make first: ${own[0]?.purpose ?? ''}`);
    expect(erase('guided')?.why).not.toContain('Make first');
  });
});

describe('what is installed and asked', () => {
  it('counts the applications, or says that nobody knows them', () => {
    const why = (facts: Facts) => only(clean({ facts }), 'applications')?.why;
    expect(why(system({ applications: ['letterpress', 'browser', 'chartroom'] }))).toBe('3 on the list.');
    expect(why(without(laptop, 'applications'))).toContain('not known yet');
    expect(only(stepsOf('alternative-system', 'saltbush-full'), 'applications')?.title).toContain(
      'equivalents',
    );
  });

  it('asks for consent where a route needs it, and names each check that is waived', () => {
    none(clean(), 'record-consents');
    const waived = (waivers: RunbookInput['waivers']) =>
      stepsOf('waived-clean', 'corvel-10-business', { waivers }).find(
        ({ kind }) => kind === 'record-consents',
      )?.why;
    expect(waived([])).toBe('What is lost and not promised any more is on the paper.');
    const requirement = releaseOf('corvel-10-business').requirements.find(
      (one) => 'waiver' in one && one.waiver !== undefined,
    );
    expect(requirement).toBeDefined();
    if (requirement) expect(waived([requirement.kind])).toContain('Waived one by one: ');
  });
});
