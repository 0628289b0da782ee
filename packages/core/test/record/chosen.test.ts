import { describe, expect, it } from 'vitest';
import {
  chooseRoute,
  dayAhead,
  diskOfDecision,
  plan,
  prepare,
  readPlan,
  signStep,
  stageOf,
  stateWish,
  type Move,
  type RouteChoice,
} from '../../src/record';
import { roomNeededBytes } from '../../src/disk/room';
import { MoveSchema } from '../../src/record';
import { factsFromSurvey, withFacts, type Disk, type Facts } from '../../src/survey';
import {
  codesOf,
  documents,
  done,
  driveB7,
  emptyMove,
  endedLaptop,
  laptop,
  laptopSurvey,
  releaseOf,
  splitDisk,
  technician,
} from '../fixtures/shop';

const blank = (name: string, serial: string): Disk => ({
  ...splitDisk,
  name,
  serial,
  scheme: 'none',
  partitions: [],
});
const archive: Disk = {
  ...splitDisk,
  name: 'sdb',
  serial: 'ARCH-1B1B',
  partitions: [{ number: 1, startLba: 2048, sectorCount: 1_000_000, role: 'data', usedBytes: 9_000_000 }],
};
const emptyLaptop = (...disks: readonly Disk[]): Facts =>
  withFacts(laptop, {
    presentRelease: 'none',
    disks: [...disks],
    licencesHeld: ['corvel-10-business'],
    diskEncryption: 'off',
  });
const moveOf = (facts: Facts, more: Partial<Move> = {}): Move => ({ ...emptyMove, facts, ...more });
const choose = (move: Move, choice: Omit<RouteChoice, 'reason'>) =>
  chooseRoute(move, { reason: 'Agreed with the owner.', ...choice }, technician);
const whole = { routeId: 'clean-whole-disk', releaseId: 'corvel-10-business' } as const;
const kinds = (move: Move) => move.plan?.runbook.steps.map(({ kind }) => kind) ?? [];
const titles = (move: Move) => move.plan?.runbook.steps.map(({ title }) => title) ?? [];

describe('the disk that is written', () => {
  it('is kept with the decision by name and serial number, as the route goes where none is chosen', () => {
    expect(done(choose(moveOf(laptop), whole)).decision?.disk).toEqual({
      name: 'sda',
      serial: 'HX7714A9C2E',
    });
    const upgrade = { routeId: 'in-place-upgrade', releaseId: 'corvel-10-business' } as const;
    expect(done(choose(moveOf(laptop), upgrade)).decision?.disk).toBeNull();
  });

  it('is one of those that the route can write to, and no other', () => {
    const facts = emptyLaptop(blank('sda', 'NEW-AAAA'), blank('sdc', 'NEW-CCCC'));
    const other = { name: 'sdc', serial: 'NEW-CCCC' };
    const chosen = done(choose(moveOf(facts), { ...whole, disk: other }));
    expect(diskOfDecision(chosen)?.serial).toBe('NEW-CCCC');
    // Two blank disks and none chosen: nobody can tell.
    expect(diskOfDecision(done(choose(moveOf(facts), whole)))).toBeUndefined();
    expect(codesOf(choose(moveOf(facts), { ...whole, disk: { name: 'sdc', serial: 'NEW-AAAA' } }))).toEqual([
      'unfit-choice',
    ]);
    expect(
      codesOf(
        choose(moveOf(withFacts(laptop, { disks: [splitDisk, archive] })), {
          ...whole,
          disk: { name: 'sdb', serial: 'ARCH-1B1B' },
        }),
      ),
    ).toEqual(['unfit-choice']);
  });

  it('is identified by its own serial number and size in the plan', () => {
    const facts = emptyLaptop(blank('sda', 'NEW-AAAA'), blank('sdc', 'NEW-CCCC'));
    const chosen = done(choose(moveOf(facts), { ...whole, disk: { name: 'sdc', serial: 'NEW-CCCC' } }));
    const planned = done(plan(chosen, technician));
    expect(titles(planned)).toContain('Identify disk …CCCC by serial number and size');
    expect(titles(planned).join(' ')).toContain('Take disk …CCCC, 256.1 GB, which has no partition');
    expect(titles(planned).join(' ')).toContain('Label the other disk do not touch: …AAAA');
  });
});

describe('a plan for an empty computer', () => {
  const planned = (facts: Facts) => done(plan(done(choose(moveOf(facts), whole)), technician));

  it('asks for nothing that only a system can have, and protects the data beside', () => {
    const move = planned(emptyLaptop(blank('sda', 'NEW-AAAA'), archive));
    for (const never of [
      'forgotten-things',
      'copy',
      'verify',
      'record-recovery-key',
      'suspend-encryption',
      'resume-encryption',
      'fast-start-off',
      'restore',
      'reconcile',
    ])
      expect(kinds(move)).not.toContain(never);
    for (const needed of ['identify-disk', 'erase-disk', 'install', 'first-start', 'sign-off'])
      expect(kinds(move)).toContain(needed);
    expect(titles(move).join(' ')).toContain('Label the other disk do not touch: …1B1B');
    expect(move.plan?.runbook.steps.find(({ kind }) => kind === 'sign-off')?.why).toContain(
      'no backup is kept',
    );
  });

  it('proposes at its gate that nothing is to save, as the disk is new', () => {
    const gate = (move: Move) => readPlan(move, technician)?.gates.find(({ id }) => id === 'scope-stated');
    const move = planned(emptyLaptop(blank('sda', 'NEW-AAAA')));
    expect(gate(move)).toMatchObject({
      state: 'closed',
      sentence: expect.stringContaining('the disk is new'),
    });
    const stated = done(prepare(move, { nothingToSave: { statement: 'new disk' } }, technician));
    expect(gate(stated)?.state).toBe('green');
    expect(readPlan(stated, technician)?.gates.find(({ id }) => id === 'recovery-key')?.state).toBe('green');
  });
});

describe('room for a second system', () => {
  const beside = { routeId: 'beside-same-disk', releaseId: 'saltbush-full' } as const;
  const room = (bytes: number, fromPartition: number | null) =>
    choose(moveOf(laptop), { ...beside, room: { bytes, fromPartition } });

  it('comes from the partition that was chosen, in the size that was wanted', () => {
    const move = done(plan(done(room(40_802_189_312, 4)), technician));
    const step = move.plan?.runbook.steps.find(({ kind }) => kind === 'shrink-system');
    expect(step?.title).toContain('Shrink partition 4 (DATA) by 40.8 GB (38.0 GiB)');
    // 38 GiB are 38 × 1024 MiB.
    expect(step?.why).toContain('type 38912');
  });

  it('is refused where the partition cannot give it, where it is too little, and on other routes', () => {
    const sentences = (outcome: ReturnType<typeof room>) =>
      outcome.ok ? [] : outcome.problems.map(({ sentence }) => sentence);
    // 100 GiB less 60 GB and a tenth: 107.4 - 66.0 = 41.4 GB.
    expect(sentences(room(50_000_000_000, 4)).join()).toContain('Partition 4 can give 41.4 GB');
    expect(sentences(room(1_000_000, 3)).join()).toContain('are wanted');
    // What the release needs is enough, to the byte.
    const needed = roomNeededBytes(releaseOf('saltbush-full').systemBytes);
    expect(sentences(room(needed, 4))).toEqual([]);
    expect(sentences(room(needed - 1, 4)).join()).toContain('are wanted');
    expect(codesOf(room(50_000_000_000, 9))).toEqual(['unfit-choice']);
    expect(sentences(room(50_000_000_000, 5)).join()).toContain('is not known');
    expect(sentences(room(50_000_000_000, null)).join()).toContain('The free run can give');
    expect(
      codesOf(choose(moveOf(laptop), { ...whole, room: { bytes: 50_000_000_000, fromPartition: 3 } })),
    ).toEqual(['unfit-choice']);
  });
});

describe('days that come', () => {
  const last = '2027-03-25';
  const day = (move: Move) => dayAhead(move, technician);
  const beside = { routeId: 'beside-same-disk', releaseId: 'saltbush-full' } as const;
  const staying = done(choose(moveOf(laptop, { wish: null }), { routeId: 'stay', releaseId: null }));

  it('are the last fixes of a system that stays, alone or beside, and the end of a trial', () => {
    expect(day(staying)).toEqual({ day: last, why: 'fixes-end' });
    expect(day(done(choose(moveOf(laptop), beside)))).toEqual({ day: last, why: 'isolation' });
    const trial = done(stateWish(moveOf(laptop), { purpose: 'trial', until: '2026-05-01' }, technician));
    expect(day(done(choose(trial, beside)))).toEqual({ day: '2026-05-01', why: 'trial' });
    const held = done(choose(moveOf(endedLaptop), { routeId: 'hold', releaseId: null }));
    expect(day(held)).toBeNull();
    expect(day(done(prepare(held, { holdUntil: '2026-09-30' }, technician)))).toEqual({
      day: '2026-09-30',
      why: 'hold',
    });
  });

  it('are none where the fixes are over already, where nothing stays, and where it was called off', () => {
    expect(day(done(choose(moveOf(endedLaptop), beside)))).toBeNull();
    expect(day(done(choose(moveOf(laptop), whole)))).toBeNull();
    expect(day(moveOf(laptop))).toBeNull();
    const calledOff = { reason: 'not wanted', at: '2026-03-02T10:00:00.000Z', by: 'Mara' };
    expect(day({ ...staying, calledOff })).toBeNull();
  });

  it('are the last one on which an upgrade can be taken back, from its signature on', () => {
    const upgrade = { routeId: 'in-place-upgrade', releaseId: 'corvel-10-business' } as const;
    const chosen = done(choose(moveOf(laptop), upgrade));
    const at = '2026-03-02T12:00:00.000Z';
    const sign = (action: 'sign' | 'unsign') => ({
      stepId: 'start-upgrade',
      title: 'Start the upgrade',
      action,
      at,
      by: 'Mara',
      actualMinutes: null,
      note: '',
    });
    expect(releaseOf('corvel-10-business').goBackDays).toBe(10);
    expect(day(chosen)).toBeNull();
    // Ten days on from the second of March.
    expect(day({ ...chosen, signatures: [sign('sign')] })).toEqual({ day: '2026-03-12', why: 'go-back' });
    expect(day({ ...chosen, signatures: [sign('sign'), sign('unsign')] })).toBeNull();
    const none = {
      ...technician,
      catalogue: {
        ...technician.catalogue,
        releases: technician.catalogue.releases.map((one) => ({ ...one, goBackDays: 0 })),
      },
    };
    expect(dayAhead({ ...chosen, signatures: [sign('sign')] }, none)).toBeNull();
  });

  it('are noted by a step: to look again, and from when the system beside is off the network', () => {
    // Nothing has to be saved first.
    expect(stageOf(staying)).toBe('prepare');
    const move = done(plan(staying, technician));
    expect(kinds(move)).toEqual(['look-again', 'sign-off']);
    expect(titles(move)[0]).toContain(last);
    expect(codesOf(signStep(move, 'look-again', { actualMinutes: 1, note: '' }, technician))).toEqual([]);
    const saved = moveOf(laptop, {
      dataSets: [documents],
      destinations: [{ ...driveB7, takes: ['documents'] }],
    });
    const two = done(plan(done(choose(saved, beside)), technician));
    expect(titles(two).find((title) => title.includes('old system'))).toContain(
      `stays off the network after ${last}`,
    );
  });
});

describe('why the move is made', () => {
  it('is kept with the move, and a trial has a last day that is still to come', () => {
    const trial = done(stateWish(emptyMove, { purpose: 'trial', until: '2026-05-01' }, technician));
    expect(trial.wish).toEqual({ purpose: 'trial', until: '2026-05-01' });
    expect(codesOf(stateWish(emptyMove, { purpose: 'trial', until: '2026-03-02' }, technician))).toEqual([
      'hold-is-over',
    ]);
    expect(MoveSchema.safeParse({ ...trial, wish: { purpose: 'trial', until: null } }).success).toBe(false);
    expect(
      MoveSchema.safeParse({ ...trial, wish: { purpose: 'start-clean', until: '2026-05-01' } }).success,
    ).toBe(false);
    expect(done(stateWish(trial, null, technician)).wish).toBeNull();
  });
});

describe('a survey of a computer with nothing on it', () => {
  const surveyOf = (change: Partial<Disk>) => {
    const { system: _system, ...rest } = laptopSurvey;
    return factsFromSurvey({ ...rest, disks: [{ ...blank('sda', 'NEW-AAAA'), ...change }] }, 'collector');
  };

  it('proposes that no system is on it, once every fixed disk was read and has no partition', () => {
    expect(surveyOf({}).presentRelease?.value).toBe('none');
    expect(surveyOf({ partitions: splitDisk.partitions }).presentRelease).toBeUndefined();
    expect(surveyOf({ removable: true }).presentRelease).toBeUndefined();
    const { scheme: _scheme, ...unread } = blank('sda', 'NEW-AAAA');
    const { system: _system, ...rest } = laptopSurvey;
    expect(factsFromSurvey({ ...rest, disks: [unread] }, 'collector').presentRelease).toBeUndefined();
  });

  it('never proposes it where a system answered', () => {
    expect(
      factsFromSurvey({ ...laptopSurvey, disks: [blank('sda', 'N')] }, 'collector').presentRelease?.value,
    ).toBe('corvel-9-business');
  });
});

describe('a check that is waived although it could be mended', () => {
  // The board takes more; the release lets its check for memory be skipped.
  const short = withFacts(laptop, { memoryBytes: 2 * 1024 ** 3, secureBoot: 'on', tpm: '2.0' });
  const waived = { routeId: 'waived-clean', releaseId: 'corvel-10-business' } as const;
  const fitted = (move: Move) =>
    done(plan(move, technician)).plan?.runbook.steps.filter(({ kind }) => kind === 'fit-part').length;

  it('fits no part; left open, the part is fitted', () => {
    const choice = { ...waived, waivers: ['memory' as const] };
    const move = done(choose(moveOf(short), choice));
    expect(move.decision?.waivers).toEqual(['memory']);
    expect(fitted(move)).toBe(0);
    expect(fitted(done(choose(moveOf(short), whole)))).toBe(1);
  });

  it('is asked for: the route without any waived check is another', () => {
    const unasked = choose(moveOf(short), waived);
    expect(codesOf(unasked)).toEqual(['not-waived']);
    expect(unasked.ok ? '' : unasked.problems[0]?.sentence).toMatch(/To be waived: .*memory/i);
    expect(codesOf(choose(moveOf(short), { ...waived, waivers: ['clock'] }))).toEqual(['not-waivable']);
  });
});

describe('an encrypted disk beside', () => {
  const [part] = archive.partitions;
  if (!part) throw new Error('the archive has a partition');
  const locked: Disk = { ...archive, partitions: [{ ...part, encrypted: true }] };
  const facts = withFacts(laptop, { disks: [splitDisk, locked], diskEncryption: 'off' });
  const planned = (choice: Omit<RouteChoice, 'reason'>, given = facts) =>
    done(plan(done(choose(moveOf(given), choice)), technician));
  const keyStep = (move: Move) =>
    move.plan?.runbook.steps.findIndex(({ id }) => id === 'record-recovery-key:beside') ?? -1;

  it('has its key made sure of before the system that opens it goes', () => {
    const move = planned(whole);
    const line = move.plan?.runbook.lineIndex ?? -1;
    expect(titles(move)[keyStep(move)]).toContain('Make sure of the key of …1B1B');
    expect([keyStep(move) >= 0, keyStep(move) < line]).toEqual([true, true]);
    const gate = (of: Move) => readPlan(of, technician)?.gates.find(({ id }) => id === 'recovery-key');
    expect(gate(move)).toMatchObject({
      state: 'closed',
      sentence: expect.stringContaining('…1B1B is encrypted'),
    });
    expect(gate(done(prepare(move, { recoveryKey: { keptWhere: 'safe' } }, technician)))?.state).toBe(
      'green',
    );
  });

  it('asks for nothing where that system stays, and where the disk is open', () => {
    expect(keyStep(planned({ routeId: 'in-place-upgrade', releaseId: 'corvel-10-business' }))).toBe(-1);
    expect(keyStep(planned(whole, withFacts(laptop, { disks: [splitDisk, archive] })))).toBe(-1);
  });
});
