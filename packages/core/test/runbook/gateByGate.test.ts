import { describe, expect, it } from 'vitest';
import { routes, type RouteId } from '../../src/route';
import {
  buildRunbook,
  diskBytesPerSecond,
  gates,
  nothingPrepared,
  planDifferences,
  promisedPartitions,
  stepStandings,
  type GateId,
  type Runbook,
  type RunbookInput,
  type Step,
} from '../../src/runbook';
import { defaultHouseRules, type HouseRules } from '../../src/rules';
import type { Facts } from '../../src/survey';
import {
  documents,
  driveB7,
  inputFor,
  laptop,
  laptopSurvey,
  laptopWith,
  now,
  pictures,
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
const corvel = 'corvel-10-business';
const system = (change: object): Facts => laptopWith({ system: { ...laptopSurvey.system, ...change } });
const second = { ...splitDisk, name: 'sdb', serial: 'BL77A0QQ31', partitions: [], scheme: 'none' as const };
const twoDisks = laptopWith({ disks: [splitDisk, second] });

describe('the Line', () => {
  const line = (...given: Parameters<typeof inputOf>) => built(...given).lineSentence;
  it('says what is gone behind it, by what is written over', () => {
    expect(line('clean-whole-disk', corvel)).toContain('nothing on this disk');
    expect(line('clean-system-partition', corvel)).toContain('the files on the system partition');
    expect(line('beside-second-disk', 'saltbush-full', { facts: twoDisks })).toContain(
      'nothing on the second disk',
    );
    expect(line('beside-same-disk', 'saltbush-full')).toContain(
      'is not the one that the present system knew',
    );
    expect(line('in-place-upgrade', corvel)).toContain('cannot be brought back for certain');
  });
});

describe('house rules that were followed', () => {
  it('are all of them where something is installed, a few elsewhere, and exceptions by name', () => {
    const practice = (...given: Parameters<typeof inputOf>) => built(...given).practice;
    const all = practice('clean-whole-disk', corvel);
    const few = practice('hold', null);
    expect(few).toHaveLength(6);
    expect(all.length).toBeGreaterThan(few.length);
    expect(all.join()).not.toContain('for this move');
    const exception = (by: string) => ({
      setting: 'encryption' as const,
      value: 'off' as const,
      reason: 'Told so.',
      by,
      at: now,
    });
    const [said] = practice('clean-whole-disk', corvel, {
      exceptions: [exception('Ines'), exception('Maud')] as RunbookInput['exceptions'],
    }).filter((sentence) => sentence.includes('for this move'));
    // The last one counts.
    expect(said).toContain('(for this move, says Maud: Told so.)');
  });
});

describe('what changed in a plan', () => {
  const made = built('clean-whole-disk', corvel);
  const differences = (change: (runbook: Runbook) => Runbook) =>
    planDifferences(made, change(made)).map(({ kind, sentence }) => [kind, sentence]);
  const withStep =
    (change: Partial<Step>) =>
    (runbook: Runbook): Runbook => ({
      ...runbook,
      steps: runbook.steps.map((one, index) => (index === 3 ? { ...one, ...change } : one)),
    });
  const fourth = made.steps[3];
  if (!fourth) throw new Error('four steps');
  it('is said one by one, by the words that changed', () => {
    expect(differences((same) => same)).toEqual([]);
    expect(differences(withStep({ title: 'Other' }))).toEqual([
      ['changed', `“${fourth.title}” is now “Other”.`],
    ]);
    expect(differences(withStep({ why: 'Other.' }))).toEqual([
      ['changed', `${fourth.title}: “${fourth.why}” is now “Other.”`],
    ]);
    expect(differences(withStep({ success: 'Other.' }))).toEqual([
      ['changed', `${fourth.title}: its details have changed.`],
    ]);
    // Times are estimates: no plan is stale for them.
    expect(differences(withStep({ waiting: { low: 1, likely: 999, high: 1000 } }))).toEqual([]);
    expect(differences(withStep({ id: 'new' }))).toEqual([
      ['added', `New: ${fourth.title}.`],
      ['removed', `No longer: ${fourth.title}.`],
    ]);
    expect(differences((one) => ({ ...one, title: 'Other' }))).toEqual([
      ['changed', `The route was “${made.title}” and is now “Other”.`],
    ]);
    expect(differences((one) => ({ ...one, practice: [...one.practice, 'Other'] }))).toEqual([
      ['changed', 'The house rule is now “Other”.'],
    ]);
    expect(differences((one) => ({ ...one, steps: one.steps.toReversed() }))).toEqual([
      ['moved', 'The order of the steps has changed.'],
    ]);
  });
});

describe('standings', () => {
  const runbook = built('clean-whole-disk', corvel);
  const [first] = runbook.steps;
  if (!first) throw new Error('a step');
  const mark = (action: 'sign' | 'start') => ({
    stepId: first.id,
    title: first.title,
    action,
    at: now,
    by: 'Ines',
    actualMinutes: null,
    note: '',
  });
  it('a step that was started waits, one that was signed is signed', () => {
    const state = (...actions: ('sign' | 'start')[]) =>
      stepStandings(runbook, actions.map(mark), [])[0]?.state;
    expect(state()).toBe('open');
    expect(state('start')).toBe('waiting');
    expect(state('start', 'sign')).toBe('signed');
  });
});

describe('gates, each by itself', () => {
  const judge = (
    id: GateId,
    given: Given,
    more: object = {},
    routeId: RouteId = 'clean-whole-disk',
    releaseId: string | null = corvel,
  ) => {
    const gate = gates.find((one) => one.id === id);
    if (!gate) throw new Error(id);
    return gate.judge({
      ...inputOf(routeId, releaseId, given),
      copies: [],
      failedChecks: [],
      unsignedAbove: [],
      staleBecause: [],
      ...more,
    });
  };
  const concerns = (id: GateId, routeId: RouteId, medium: RunbookInput['installerMedium'] = 'stick') =>
    gates.find((one) => one.id === id)?.concerns(routes[routeId], medium, undefined, null);
  const by = { at: now, by: 'Ines' };

  it('concern the routes that they are about', () => {
    expect(
      ['clean-whole-disk', 'patched-install', 'in-place-upgrade', 'hold'].map((id) =>
        concerns('stick-apart', id as RouteId),
      ),
    ).toEqual([true, true, false, false]);
    expect(concerns('stick-apart', 'clean-whole-disk', 'optical-disc')).toBe(false);
    expect(['clean-whole-disk', 'replace'].map((id) => concerns('licence', id as RouteId))).toEqual([
      true,
      false,
    ]);
    expect(['clean-whole-disk', 'replace'].map((id) => concerns('data-moved', id as RouteId))).toEqual([
      false,
      true,
    ]);
    expect(['waived-clean', 'clean-whole-disk'].map((id) => concerns('consents', id as RouteId))).toEqual([
      true,
      false,
    ]);
    expect(
      ['clean-whole-disk', 'in-place-upgrade'].map((id) => concerns('disk-identified', id as RouteId)),
    ).toEqual([true, false]);
  });

  it('scope: listed, stated to be nothing, or neither', () => {
    expect(judge('scope-stated', {})).toMatchObject({ state: 'green', sentence: '2 data sets listed.' });
    const empty: Given = { dataSets: [], destinations: [], facts: without(laptop, 'disks') };
    expect(judge('scope-stated', empty).state).toBe('closed');
    const nothingToSave = { statement: 'New.', ...by };
    expect(
      judge('scope-stated', { ...empty, preparation: { ...nothingPrepared, nothingToSave } }).sentence,
    ).toBe('Nothing to save, says Ines: New.');
  });

  it('copies: a comparison that failed closes it, with the first file', () => {
    const check = (count: number) => ({
      failedChecks: [
        {
          dataSetId: 'documents',
          destinationId: 'b-07',
          count,
          files: [{ path: 'a/b.txt' }],
          at: now,
          by: 'Ines',
        },
      ],
    });
    expect(judge('copies-verified', {}, check(1)).sentence).toBe(
      'Documents on B-07: 1 file differs, first a/b.txt. Copy them again, and compare on Save.',
    );
    expect(judge('copies-verified', {}, check(1200)).sentence).toContain('1,200 files differ');
    expect(judge('copies-verified', {}, check(2)).reasons).toEqual([
      `documents on b-07: 2 differ, compared ${now}`,
    ]);
    expect(judge('copies-verified', { dataSets: [] })).toMatchObject({
      state: 'green',
      sentence: 'There is nothing to copy.',
    });
    expect(judge('copies-verified', {}).sentence).toContain('Short of copies: Documents');
  });

  it('stick: named, and no backup', () => {
    expect(judge('stick-apart', {}).sentence).toContain('is not named');
    const stick = (serial: string) => ({
      preparation: { ...nothingPrepared, stick: { name: 'S-03', serial } },
    });
    expect(judge('stick-apart', stick('X1')).state).toBe('green');
    expect(judge('stick-apart', stick(driveB7.serial)).sentence).toBe(
      'Stick S-03 is also the backup B-07: installing would erase the backup.',
    );
  });

  it('licence: what is noted must activate the target', () => {
    const noted = (kind: 'digital' | 'account' | 'none') =>
      judge('licence', {
        preparation: { ...nothingPrepared, licence: { kind, keptWhere: 'register', ...by } as never },
      });
    expect(noted('digital')).toMatchObject({ state: 'green', sentence: 'digital, register.' });
    expect(noted('none').sentence).toContain('does not activate the target');
    expect(judge('licence', {}).sentence).toContain('is not noted');
    expect(judge('licence', {}, {}, 'alternative-system', 'saltbush-full').sentence).toBe(
      'The system needs no licence.',
    );
    expect(judge('licence', { facts: system({ activation: 'none' }) }).state).toBe('closed');
  });

  it('disk: named by what is missing on a second disk, and on the first', () => {
    const facts = without(laptop, 'disks');
    expect(judge('disk-identified', { facts }, {}, 'beside-second-disk', 'saltbush-full').sentence).toContain(
      'fit the second disk',
    );
    expect(judge('disk-identified', { facts }).sentence).toContain('cannot be told from the survey');
    const diskMarks = { serialEnd: '9C2E', sizeGigabytes: 256, ...by };
    expect(judge('disk-identified', { preparation: { ...nothingPrepared, diskMarks } }).sentence).toBe(
      '…9C2E, 256.1 GB.',
    );
  });

  it('network: an adapter of the release, a statement, or neither', () => {
    expect(judge('network-driver', {}).sentence).toBe('The driver of wl-a comes with the release.');
    const bare = laptopWith({ network: [{ name: 'wl-a', kind: 'wireless' }] });
    expect(judge('network-driver', { facts: bare }).sentence).toContain('carry one over');
    expect(judge('network-driver', { facts: without(laptop, 'networkAdapters') }).sentence).toContain(
      'is unknown',
    );
    const networkDriver = { how: 'Cable', ...by };
    expect(
      judge('network-driver', { facts: bare, preparation: { ...nothingPrepared, networkDriver } }).sentence,
    ).toBe('Cable.');
  });

  it('consents: one, both or neither', () => {
    const paper = (signer: string) => ({ signer, keptWhere: 'folder', ...by });
    const said = (ownerConsent: object | null, organisationConsent: object | null) =>
      judge(
        'consents',
        { preparation: { ...nothingPrepared, ownerConsent, organisationConsent } as never },
        {},
        'waived-clean',
      );
    expect(said(null, null).sentence).toContain('The owner and the organisation have not agreed');
    expect(said(paper('Jon'), null).sentence).toContain('The organisation has not agreed');
    expect(said(paper('Jon'), paper('Maud')).sentence).toBe(
      'Agreed in writing: Jon for the owner, Maud for the organisation.',
    );
  });

  it('the new device: named, and the data on it', () => {
    const replacement = { maker: 'Ostley', model: 'Quern', serial: 'OQ-1', ...by };
    const dataMoved = { statement: 'Compared.', ...by };
    const said = (preparation: object) =>
      judge('data-moved', { preparation: { ...nothingPrepared, ...preparation } }, {}, 'replace', null)
        .sentence;
    expect(said({})).toContain('is not named');
    expect(said({ replacement })).toContain('Nobody has stated yet');
    expect(said({ replacement, dataMoved })).toBe('On Ostley Quern, OQ-1: Compared.');
  });

  it('the plan: current, or stale with its first reason', () => {
    expect(judge('plan-current', {}).state).toBe('green');
    expect(judge('plan-current', {}, { staleBecause: ['New: X.', 'New: Y.'] }).sentence).toBe(
      'The plan is stale: New: X. Make it again.',
    );
  });
});

describe('disks and routes', () => {
  it('promise to keep what the route does not write over', () => {
    const kept = (routeId: RouteId | undefined) => [
      ...promisedPartitions(splitDisk, routeId && routes[routeId]),
    ];
    expect(kept('clean-whole-disk')).toEqual([]);
    expect(kept('beside-second-disk')).toEqual([]);
    expect(kept('clean-system-partition')).toEqual([1, 2, 4, 5]);
    expect(kept('in-place-upgrade')).toEqual([1, 2, 3, 4, 5]);
    expect(kept(undefined)).toEqual([1, 2, 3, 4, 5]);
  });

  it('write as fast as what they are made of', () => {
    const speed = (more: object) => diskBytesPerSecond({ ...splitDisk, ...more });
    expect(speed({ bus: 'nvme' })).toBe(600_000_000);
    expect(speed({ bus: 'sata', rotational: false })).toBe(250_000_000);
    expect(speed({ bus: 'sata', rotational: true })).toBe(60_000_000);
  });
});

describe('a plan that cannot be made', () => {
  const codes = (...given: Parameters<typeof inputOf>) => {
    const runbook = buildRunbook(inputOf(...given));
    return runbook.ok ? [] : runbook.problems.map(({ code, path }) => `${code} ${path}`);
  };
  it('says what is in the way, and where', () => {
    expect(codes('clean-whole-disk', null)).toEqual(['no-release /decision/releaseId']);
    expect(
      codes('clean-whole-disk', corvel, { destinations: [{ ...driveB7, freeBytes: 1e9 }, share] }),
    ).toEqual(['does-not-fit /destinations/0']);
    expect(
      codes('clean-whole-disk', corvel, {
        dataSets: [{ ...documents, largestFileBytes: 5e9 }, pictures],
        destinations: [share, { ...driveB7, fileSystem: 'fat32' }],
      }),
    ).toEqual(['file-too-large /destinations/1']);
    expect(codes('clean-whole-disk', corvel, { destinations: [] })).toContain(
      'no-good-copy /dataSets/documents',
    );
    const unmarked = laptopWith({
      disks: [{ ...splitDisk, partitions: splitDisk.partitions.filter(({ role }) => role !== 'system') }],
    });
    expect(codes('clean-system-partition', corvel, { facts: unmarked })).toContain(
      'no-system-partition /facts/disks',
    );
  });
});
