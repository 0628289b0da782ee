import { describe, expect, it } from 'vitest';
import {
  chooseRoute,
  depart,
  diskWorkContext,
  houseRulesEffect,
  outlookOf,
  planDisk,
  prepare,
  rowChanged,
  signStep,
  takeRow,
  typeFact,
  unsignStep,
  type Move,
} from '../../src/record';
import { missingFor } from '../../src/record/signable';
import { isolationIds } from '../../src/runbook';
import { supportDaysLeft } from '../../src/catalogue';
import { defaultHouseRules } from '../../src/rules';
import { codesOf, documents, done, driveB7, emptyMove, lead, now, technician, today } from '../fixtures/shop';
import { said } from '../fixtures/said';
import { clean, crossable, later, planned, ready, saved, surveyed } from '../fixtures/story';

const by = { at: now, by: 'Ines' };
const noted = (preparation: Partial<Move['preparation']>): Move => ({
  ...emptyMove,
  preparation: { ...emptyMove.preparation, ...preparation },
});

describe('what a step waits for', () => {
  const missing = (kind: Parameters<typeof missingFor>[0]['kind'], move: Move, id: string = kind) =>
    missingFor({ kind, id }, move);
  it('is noted on Prepare, each for its own step', () => {
    const device = { maker: 'Ostley', model: 'Quern', serial: 'OQ-1', ...by };
    const cases = [
      ['pair-device', { replacement: device }, 'maker, model and serial'],
      ['move-data', { dataMoved: { statement: 'Compared.', ...by } }, 'on the new device'],
      ['wipe-old-disk', { wipe: { method: 'Overwritten', ...by } }, 'by which method'],
      ['disposal', { disposal: { how: 'Yard', ...by } }, 'who disposes'],
      ['end-date', { holdUntil: '2026-06-01' }, 'has a last day'],
    ] as const;
    for (const [kind, note, words] of cases) {
      expect(missing(kind, emptyMove)).toContain(words);
      expect([kind, missing(kind, noted(note))]).toEqual([kind, null]);
    }
    expect(missing('habits', emptyMove)).toBeNull();
  });

  it('is every line of the isolation list', () => {
    const [first, ...rest] = isolationIds;
    const ticked = (ids: readonly (typeof isolationIds)[number][]) =>
      missing('isolate', noted({ isolation: { done: [...ids], ...by } }));
    expect(ticked(isolationIds)).toBeNull();
    expect(ticked(rest)).toBe(
      'Not ticked on the isolation list of Prepare: Network cable out, and its socket marked.',
    );
    expect(first).toBe('cable');
    expect(missing('isolate', emptyMove)).toContain('The owner knows what it may be used for');
  });

  it('is a comparison of that destination that was not passed', () => {
    const failed = (destinationId: string): Move => ({
      ...emptyMove,
      failedChecks: [{ dataSetId: 'documents', destinationId, count: 1, files: [], ...by }],
    });
    expect(missing('verify', failed('b-07'), 'verify:b-07')).toContain('files that differ');
    expect(missing('verify', failed('b-08'), 'verify:b-07')).toBeNull();
  });

  it('is the last data set that nobody accounted for', () => {
    const both = missing('reconcile', saved());
    expect(both).toContain('2 data sets are not accounted for, first Documents');
    expect(missing('reconcile', { ...saved(), dataSets: [documents] })).toContain(
      '1 data set is not accounted for',
    );
    expect(missing('reconcile', emptyMove)).toBeNull();
  });
});

describe('an exception from a house rule', () => {
  it('needs an answer of that rule, a reason, and is taken back by the house’s own', () => {
    const move = surveyed();
    const off = { setting: 'encryption' as const, value: 'off' as const, reason: ' The dock asks for it. ' };
    expect(defaultHouseRules.encryption).not.toBe('off');
    expect(codesOf(depart(move, { ...off, value: 'purple' as never }, technician))).toEqual([
      'no-such-answer',
    ]);
    expect(codesOf(depart(move, { ...off, reason: '  ' }, technician))).toEqual(['reason-needed']);
    const departed = done(depart(move, off, technician));
    expect(departed.departures).toEqual([{ ...off, reason: 'The dock asks for it.', ...by }]);
    expect(said(depart(move, off, technician))).toContain('other than the house: The dock asks for it.');
    const twice = done(depart(departed, { ...off, reason: 'Again.' }, technician));
    expect(twice.departures).toHaveLength(1);
    const other = done(
      depart(twice, { setting: 'boot', value: 'change-order', reason: 'Again.' }, technician),
    );
    expect(other.departures.map(({ setting }) => setting)).toEqual(['encryption', 'boot']);
    const back = depart(other, { ...off, value: defaultHouseRules.encryption, reason: '' }, technician);
    expect(done(back).departures.map(({ setting }) => setting)).toEqual(['boot']);
    expect(said(back)).toContain('as the house does');
  });
});

describe('a row of a list', () => {
  it('adds what is new, keeps the source of what is the same, and is refused where it contradicts', () => {
    const move = surveyed();
    const row = (
      facts: readonly { readonly key: 'cores' | 'wordBits' | 'memoryBytes'; readonly value: number }[],
      identity: object = {},
    ) => ({ identity, facts }) as unknown as Parameters<typeof takeRow>[1];
    const same = takeRow(move, row([{ key: 'cores', value: 4 }]), technician);
    expect(said(same)).toBe('Row of a list applied: 0 facts new or changed.');
    expect(rowChanged(move, done(same))).toBe(false);
    const other = takeRow(
      move,
      row([
        { key: 'cores', value: 4 },
        { key: 'memoryBytes', value: 4 * 1024 ** 3 },
      ]),
      technician,
    );
    expect(said(other)).toBe('Row of a list applied: 1 fact new or changed.');
    expect(done(other).facts.cores?.source).toBe('collector');
    expect(done(other).facts.memoryBytes).toMatchObject({ source: 'imported', by: 'Ines' });
    expect(rowChanged(move, done(other))).toBe(true);
    expect(done(takeRow(move, row([], { owner: 'Crew', dueOn: '2026-04-01' }), technician))).toMatchObject({
      owner: 'Crew',
      site: move.site,
      dueOn: '2026-04-01',
    });
    expect(takeRow(move, row([{ key: 'cores', value: -1 }]), technician).ok).toBe(false);
  });
});

describe('the outlook of a device', () => {
  const house = { catalogue: technician.catalogue, houseRules: technician.houseRules };
  it('has a cell for each release that still gets updates, and the parts of what was chosen', () => {
    const outlook = outlookOf(surveyed(), house, today);
    expect(Object.keys(outlook.fit.cells)).toEqual(
      technician.catalogue.releases
        .filter((release) => supportDaysLeft(release, today) >= 0)
        .map(({ id }) => id),
    );
    expect(outlook.parts).toEqual([]);
    const short = done(typeFact(surveyed(), 'memoryBytes', 1024 ** 3, technician));
    const asked = outlookOf({ ...short, decision: saved().decision }, house, today);
    // One gigabyte is less than Corvel 10 asks for: memory is to be bought.
    expect(asked.parts.map(({ kind }) => kind)).toEqual(['memory']);
  });
});

describe('what other house rules would do', () => {
  const house = { catalogue: technician.catalogue, houseRules: technician.houseRules };
  it('is said of the plan that was chosen, or of the advised one', () => {
    const other = { ...defaultHouseRules, encryption: 'off' as const };
    const chosen = houseRulesEffect(saved(), house, other, today);
    expect(chosen.plan).toContain('No longer: Switch device encryption on and record the recovery key.');
    expect(houseRulesEffect(saved(), house, defaultHouseRules, today).plan).toEqual([]);
    const open = houseRulesEffect(surveyed(), house, other, today);
    expect(open.advisedBefore).toBe(open.advisedAfter);
    expect(open.plan.length).toBeGreaterThan(0);
  });
});

describe('notes on Prepare', () => {
  it('say what was noted or withdrawn, and a hold ends on a day to come', () => {
    expect(said(prepare(saved(), {}, technician))).toBe('Nothing changed.');
    expect(said(prepare(saved(), { power: {} }, technician))).toMatch(/ noted\.$/);
    expect(said(prepare(ready(saved()), { power: null }, technician))).toMatch(/ withdrawn\.$/);
    expect(codesOf(prepare(saved(), { holdUntil: today }, technician))).toEqual(['hold-is-over']);
    expect(prepare(saved(), { holdUntil: '2026-03-03' }, technician).ok).toBe(true);
  });
});

describe('planning work on a disk', () => {
  const work = { kind: 'layout', goal: { kind: 'room', sizeBytes: 40_000_000_000 } } as const;
  const marked = ready(saved());
  it('is refused for a disk that is not there, and below the Line, and taken out again', () => {
    expect(codesOf(planDisk(marked, { disk: 'none', work }, technician))).toEqual(['no-such-disk']);
    const plannedWork = planDisk({ ...marked, decision: null }, { disk: 'sda', work }, technician);
    expect(said(plannedWork)).toMatch(/^Disk …9C2E: .*, \d+ operations?, about \d+ min\.$/);
    expect(done(plannedWork).diskPlan).toMatchObject({ disk: 'sda', serial: 'HX7714A9C2E', by: 'Ines' });
    expect(done(planDisk(done(plannedWork), { disk: 'sda', work: null }, technician)).diskPlan).toBeNull();
    const crossing = crossable();
    const erase = crossing.plan?.runbook.steps.find(({ kind }) => kind === 'erase-disk');
    const below = done(
      signStep(
        crossing,
        erase?.id ?? '',
        { actualMinutes: 9, note: '', crossing: { serialEnd: '9C2E', sizeShown: 238.5 } },
        later(60),
      ),
    );
    expect(codesOf(planDisk(below, { disk: 'sda', work }, technician))).toEqual(['line-crossed']);
  });
});

describe('choosing', () => {
  it('asks for each check that is waived, and for a medium that can be used', () => {
    const bare = done(typeFact(surveyed(), 'tpm', 'none', technician));
    const choice = { ...clean, routeId: 'waived-clean' as const };
    expect(codesOf(chooseRoute(bare, choice, lead))).toEqual(['not-waived']);
    // What is asked is kept or refused, and never dropped.
    expect(codesOf(chooseRoute(bare, { ...choice, waivers: ['tpm', 'secure-boot'] }, lead))).toEqual([
      'not-waivable',
    ]);
    const chosen = done(chooseRoute(bare, { ...choice, waivers: ['tpm'] }, lead));
    expect(chosen.decision?.waivers).toEqual(['tpm']);
    // A whole disk is not emptied by what runs from it.
    const inside = { ...clean, installerMedium: 'running-system' as const };
    expect(codesOf(chooseRoute(surveyed(), inside, technician))).toEqual(['cannot-be-brought']);
    expect(codesOf(chooseRoute(surveyed(), { ...clean, reason: ' ' }, technician))).toEqual([
      'reason-needed',
    ]);
  });
});

describe('what guards work on a disk', () => {
  it('is short of the data sets that fewer destinations take than the house asks for', () => {
    const once: Move = { ...saved(), destinations: [driveB7] };
    expect(diskWorkContext(once, technician).short).toEqual([
      { name: 'Documents', planned: 1, needed: 2 },
      { name: 'Pictures', planned: 1, needed: 2 },
    ]);
    expect(diskWorkContext(saved(), technician).short).toEqual([]);
    expect(diskWorkContext(once, technician)).toMatchObject({
      target: { name: 'sda' },
      route: { writesOver: 'whole-disk' },
    });
    expect(diskWorkContext({ ...once, decision: null }, technician)).toMatchObject({
      target: { name: 'sda' },
      route: undefined,
    });
    // Nothing is written over: one copy is enough.
    expect(diskWorkContext({ ...once, decision: null }, technician).short).toEqual([]);
  });
});

describe('taking a signature back', () => {
  const signed = (move: Move, stepId: string) =>
    done(signStep(move, stepId, { actualMinutes: 90, note: '' }, technician));
  it('above the Line takes the copies of that step along, and no others', () => {
    const both = crossable();
    expect(both.copies).toHaveLength(4);
    const back = done(unsignStep(both, 'verify:b-07', 'A file differed.', technician));
    expect(back.copies.map(({ destinationId }) => destinationId)).toEqual(['pier-store', 'pier-store']);
    expect(done(unsignStep(both, 'charger', 'Not seen.', technician)).copies).toHaveLength(4);
    expect(codesOf(unsignStep(both, 'charger', ' ', technician))).toEqual(['reason-needed']);
    expect(codesOf(unsignStep(planned(), 'charger', 'Why.', technician))).toEqual(['step-conflict']);
    expect(codesOf(unsignStep(both, 'none', 'Why.', technician))).toEqual(['no-such-step']);
  });

  it('below the Line goes from the last one up, and never above it', () => {
    const crossing = { serialEnd: '9C2E', sizeShown: 238.5 };
    const erased = done(
      signStep(crossable(), 'erase-disk', { actualMinutes: 9, note: '', crossing }, later(60)),
    );
    const installed = signed(erased, 'install');
    const out = signed(installed, 'stick-out');
    expect(codesOf(unsignStep(out, 'install', 'Why.', technician))).toEqual(['later-step-signed']);
    expect(codesOf(unsignStep(out, 'stick-out', 'Why.', technician))).toEqual([]);
    expect(codesOf(unsignStep(installed, 'install', 'Why.', technician))).toEqual([]);
    expect(codesOf(unsignStep(erased, 'charger', 'Why.', technician))).toEqual(['line-crossed']);
    expect(codesOf(unsignStep(erased, 'erase-disk', 'Why.', technician))).toEqual(['line-crossed']);
  });
});
