import { describe, expect, it } from 'vitest';
import {
  chooseRoute,
  correctStep,
  handoverSheet,
  makeFactUnknown,
  MoveSchema,
  overruleGate,
  plan,
  prepare,
  readPlan,
  runningWait,
  setDataSets,
  setDestinations,
  signStep,
  stageOf,
  startStep,
  tickCopy,
  typeFact,
  unsignStep,
  type Move,
} from '../../src/record';
import { custodyAlarms, gates, isSigned, standingOf, type Crossing } from '../../src/runbook';
import {
  clean,
  crossable,
  gateOf,
  later,
  planned,
  ready,
  saved,
  shownByInstaller,
  signThrough,
  surveyed,
} from '../fixtures/story';
import {
  codesOf,
  documents,
  done,
  driveB7,
  lead,
  now,
  pictures,
  technician,
  endedLaptop,
} from '../fixtures/shop';

describe('choosing', () => {
  it('takes the advice without a reason, and asks for one against it', () => {
    const advice = { routeId: 'in-place-upgrade' as const, releaseId: 'corvel-10-business', reason: null };
    expect(done(chooseRoute(surveyed(), advice, technician)).decision).toMatchObject({
      by: 'Ines',
      reason: null,
    });
    expect(codesOf(chooseRoute(surveyed(), { ...clean, reason: ' ' }, technician))).toEqual([
      'reason-needed',
    ]);
    expect(done(chooseRoute(surveyed(), clean, technician)).decision?.reason).toBe(clean.reason);
  });

  it('leaves excluded routes to leads', () => {
    const excluded = { ...clean, releaseId: 'corvel-10-personal' };
    expect(codesOf(chooseRoute(surveyed(), excluded, technician))).toEqual(['only-leads']);
    expect(done(chooseRoute(surveyed(), excluded, lead)).decision?.by).toBe('Maud');
  });

  it('refuses a route to a release that it does not lead to', () => {
    expect(codesOf(chooseRoute(surveyed(), { ...clean, releaseId: 'saltbush-full' }, lead))).toEqual([
      'no-such-candidate',
    ]);
  });
});

describe('saving', () => {
  it('refuses doubled ids, more free than there is, and data sets that are not listed', () => {
    expect(codesOf(setDataSets(saved(), [documents, documents], technician))).toEqual(['doubled-id']);
    expect(
      codesOf(setDestinations(saved(), [{ ...driveB7, freeBytes: driveB7.capacityBytes + 1 }], technician)),
    ).toEqual(['contradiction']);
    expect(codesOf(setDestinations(saved(), [{ ...driveB7, takes: ['music'] }], technician))).toEqual([
      'reference-to-nowhere',
    ]);
  });

  it('ticks a copy once, with who and when, and takes it back', () => {
    const tick = { dataSetId: 'documents', destinationId: 'b-07', verified: true };
    const ticked = done(tickCopy(saved(), tick, technician));
    expect(ticked.copies).toEqual([
      { dataSetId: 'documents', destinationId: 'b-07', verifiedAt: now, verifiedBy: 'Ines' },
    ]);
    expect(codesOf(tickCopy(ticked, tick, technician))).toEqual(['already-verified']);
    expect(done(tickCopy(ticked, { ...tick, verified: false }, technician)).copies).toEqual([]);
    expect(codesOf(tickCopy(saved(), { ...tick, destinationId: 'nowhere' }, technician))).toEqual([
      'no-such-copy',
    ]);
  });

  it('no longer counts a copy of data that has grown since', () => {
    const ticked = done(
      tickCopy(saved(), { dataSetId: 'documents', destinationId: 'b-07', verified: true }, technician),
    );
    expect(
      done(setDataSets(ticked, [{ ...documents, fileCount: documents.fileCount + 1 }, pictures], technician))
        .copies,
    ).toEqual([]);
    expect(
      done(setDataSets(ticked, [{ ...documents, name: 'Papers' }, pictures], technician)).copies,
    ).toHaveLength(1);
  });

  it('keeps ticks on Save and signatures in the runbook telling the same', () => {
    let move = planned();
    for (const dataSetId of ['documents', 'pictures'])
      move = done(tickCopy(move, { dataSetId, destinationId: 'b-07', verified: true }, technician));
    expect(isSigned(move.signatures, 'verify:b-07')).toBe(true);
    const grown = done(setDataSets(move, [{ ...documents, fileCount: 1 }, pictures], technician));
    expect(isSigned(grown.signatures, 'verify:b-07')).toBe(false);
    const signed = done(
      signStep(planned(), 'verify:pier-store', { actualMinutes: 20, note: '' }, technician),
    );
    expect(signed.copies.map(({ dataSetId }) => dataSetId)).toEqual(['documents', 'pictures']);
    expect(done(unsignStep(signed, 'verify:pier-store', 'one checksum differed', technician)).copies).toEqual(
      [],
    );
  });
});

describe('gates', () => {
  it('are all closed but those that already hold, on a plan that was just made', () => {
    const open = readPlan(planned(), technician)
      ?.gates.filter(({ state }) => state === 'green')
      .map(({ id }) => id);
    // Data sets are listed, the disk is not encrypted, the driver comes along, the plan is new.
    expect(open).toEqual(['scope-stated', 'recovery-key', 'network-driver', 'plan-current']);
  });

  it('open with what they ask for', () => {
    expect(readPlan(crossable(), technician)?.gates.filter(({ state }) => state === 'closed')).toEqual([]);
  });

  it('hold the disk to two marks that agree with the survey', () => {
    const marked = (serialEnd: string, sizeGigabytes: number) =>
      gateOf(
        done(prepare(planned(), { diskMarks: { serialEnd, sizeGigabytes } }, technician)),
        'disk-identified',
      )?.state;
    expect(marked('9C2E', 256.1)).toBe('green');
    expect(marked('9c2e', 256)).toBe('green');
    expect(marked('77A0', 256.1)).toBe('closed');
    expect(marked('9C2E', 1000.2)).toBe('closed');
  });

  it('never let the installer stick be the backup', () => {
    const same = done(prepare(planned(), { stick: { name: 'B-07', serial: '' } }, technician));
    expect(gateOf(same, 'stick-apart')).toMatchObject({
      state: 'closed',
      sentence: expect.stringContaining('would erase the backup'),
    });
  });

  it('ask for the recovery key of an encrypted disk, and treat an unknown as closed', () => {
    const encrypted = done(typeFact(planned(), 'diskEncryption', 'on', technician));
    expect(gateOf(encrypted, 'recovery-key')?.state).toBe('closed');
    expect(gateOf(done(makeFactUnknown(planned(), 'diskEncryption')), 'recovery-key')?.sentence).toContain(
      'unknown',
    );
    expect(
      gateOf(
        done(prepare(encrypted, { recoveryKey: { keptWhere: 'envelope 14' } }, technician)),
        'recovery-key',
      )?.state,
    ).toBe('green');
  });

  it('refuse a licence of a kind that the target does not take', () => {
    expect(
      gateOf(
        done(prepare(planned(), { licence: { kind: 'account-bound', keptWhere: 'safe' } }, technician)),
        'licence',
      )?.state,
    ).toBe('closed');
  });

  it('take a statement that there is nothing to save', () => {
    const bare = done(plan(done(setDataSets(saved(), [], technician)), technician));
    expect(gateOf(bare, 'scope-stated')?.state).toBe('closed');
    expect(
      gateOf(
        done(prepare(bare, { nothingToSave: { statement: 'Spare device.' } }, technician)),
        'scope-stated',
      )?.state,
    ).toBe('green');
  });

  it('are overruled by leads only, with a reason, and only while closed', () => {
    const move = planned();
    const reason = 'The charger is at the other pier; battery at 96 %.';
    expect(codesOf(overruleGate(move, 'power', reason, technician))).toEqual(['only-leads']);
    expect(codesOf(overruleGate(move, 'power', 'because', lead))).toEqual(['reason-needed']);
    expect(codesOf(overruleGate(move, 'plan-current', reason, lead))).toEqual(['gate-not-closed']);
    expect(gateOf(done(overruleGate(move, 'power', reason, lead)), 'power')).toMatchObject({
      state: 'overruled',
      sentence: expect.stringContaining('Maud'),
    });
  });

  it('each have a title of their own', () => {
    expect(new Set(gates.map(({ title }) => title)).size).toBe(gates.length);
  });
});

describe('the Line', () => {
  it('cannot be crossed while a gate is closed, and the reason is said', () => {
    const outcome = signStep(ready(planned()), 'erase-disk', { actualMinutes: null, note: '' }, technician);
    expect(codesOf(outcome)).toEqual(['step-locked']);
    expect(!outcome.ok && outcome.problems[0]?.sentence).toContain('Short of copies: Documents (0 of 2)');
  });

  it('is signed by serial and size as the installer shows them, and by nothing else', () => {
    const move = crossable();
    const sign = (crossing?: Crossing) =>
      signStep(
        move,
        'erase-disk',
        { actualMinutes: null, note: '', ...(crossing ? { crossing } : {}) },
        technician,
      );
    expect(codesOf(sign())).toEqual(['crossing-needed']);
    // The other disk of the bench: another serial, or another size.
    expect(codesOf(sign({ ...shownByInstaller, serialEnd: 'SC08' }))).toEqual(['another-disk']);
    expect(codesOf(sign({ ...shownByInstaller, sizeShown: 931.5 }))).toEqual(['another-disk']);
    // 256.1 GB are 238.5 GiB: pages write either, and say GB.
    for (const sizeShown of [238.5, 256.1]) {
      const crossed = done(sign({ ...shownByInstaller, sizeShown }));
      expect(crossed.signatures.at(-1)).toMatchObject({
        stepId: 'erase-disk',
        crossing: { serialEnd: '9C2E', sizeShown },
      });
      expect(crossed.preparation.diskMarks?.sizeGigabytes).toBeCloseTo(256.1, 0);
      expect(MoveSchema.parse(crossed)).toEqual(crossed);
    }
    const outcome = sign(shownByInstaller);
    expect(outcome.ok && outcome.value.sentence).toContain('The installer showed …9C2E, 238.5.');
  });

  it('stays with the disk of the survey, also where a lead has answered for its marks', () => {
    const bare = done(prepare(crossable(), { diskMarks: null }, technician));
    const move = done(
      overruleGate(bare, 'disk-identified', 'Read off the label by two, with the lid open.', lead),
    );
    const sign = (serialEnd: string) =>
      codesOf(
        signStep(
          move,
          'erase-disk',
          { actualMinutes: null, note: '', crossing: { ...shownByInstaller, serialEnd } },
          technician,
        ),
      );
    expect(sign('SC08')).toEqual(['another-disk']);
    expect(sign('9C2E')).toEqual([]);
  });

  it('needs a serial that the survey has, or a lead who answers for a disk without one', () => {
    const move = crossable();
    const silent = {
      ...move,
      facts: {
        ...move.facts,
        ...(move.facts.disks
          ? {
              disks: {
                ...move.facts.disks,
                value: move.facts.disks.value.map(({ serial: _serial, ...disk }) => disk),
              },
            }
          : {}),
      },
    };
    const sign = (one: Move, crossing: Crossing) =>
      codesOf(signStep(one, 'erase-disk', { actualMinutes: null, note: '', crossing }, technician));
    expect(sign(silent, shownByInstaller)).toEqual(['another-disk']);
    const planAgain = done(plan(silent, technician));
    const answered = done(
      overruleGate(
        planAgain,
        'disk-identified',
        'The controller hides its serial; opened and read by two.',
        lead,
      ),
    );
    // The size is still compared.
    expect(sign(answered, { ...shownByInstaller, sizeShown: 931.5 })).toEqual(['another-disk']);
    expect(sign(answered, shownByInstaller)).toEqual([]);
  });

  it('is identified by what is typed there: serial and size may be missing on Prepare', () => {
    const move = crossable();
    const without = { ...move, preparation: { ...move.preparation, diskMarks: null } };
    expect(gateOf(without, 'disk-identified')?.state).toBe('closed');
    const signing = { actualMinutes: null, note: '', crossing: shownByInstaller };
    expect(codesOf(signStep(without, 'erase-disk', signing, technician))).toEqual([]);
    // Above the Line it says nothing, and changes nothing.
    const above = done(
      signStep({ ...planned(), preparation: without.preparation }, 'charger', signing, technician),
    );
    expect(above.preparation.diskMarks).toBeNull();
  });

  it('of a step with a wait is crossed when it is started', () => {
    const move = crossable();
    const { plan: made } = move;
    if (!made) throw new Error('it is planned');
    // The same plan, with a wait at the Line.
    const waiting = {
      ...move,
      plan: {
        ...made,
        runbook: {
          ...made.runbook,
          steps: made.runbook.steps.map((step) =>
            step.id === 'erase-disk' ? { ...step, waiting: { low: 20, likely: 90, high: 300 } } : step,
          ),
        },
      },
    };
    expect(codesOf(startStep(waiting, 'erase-disk', technician))).toEqual(['crossing-needed']);
    const begun = done(startStep(waiting, 'erase-disk', technician, shownByInstaller));
    expect(begun.signatures.at(-1)).toMatchObject({ action: 'start', crossing: shownByInstaller });
    expect(codesOf(unsignStep(begun, 'erase-disk', 'a slip', technician))).toEqual(['line-crossed']);
    const sign = (minutes: number) =>
      signStep(begun, 'erase-disk', { actualMinutes: null, note: '' }, later(minutes));
    expect(codesOf(sign(3))).toEqual(['too-early']);
    expect(done(sign(25)).signatures.at(-1)).toMatchObject({ action: 'sign', crossing: shownByInstaller });
  });

  it('is not taken back: a correction is added, and the step stays signed', () => {
    const crossed = signThrough(crossable(), 'install');
    const back = unsignStep(crossed, 'erase-disk', 'the wrong day', technician);
    expect(codesOf(back)).toEqual(['line-crossed']);
    expect(!back.ok && back.problems[0]?.sentence).toContain('Add a correction');
    const corrected = done(correctStep(crossed, 'erase-disk', 'It was partition 4, not 3.', later(200)));
    expect(isSigned(corrected.signatures, 'erase-disk')).toBe(true);
    expect(corrected.signatures.at(-1)).toMatchObject({
      action: 'correct',
      note: 'It was partition 4, not 3.',
    });
    expect(codesOf(correctStep(crossed, 'erase-disk', ' ', technician))).toEqual(['reason-needed']);
    expect(codesOf(correctStep(crossed, 'sign-off', 'why not', technician))).toEqual(['step-conflict']);
    expect(codesOf(correctStep(crossed, 'tidy-up', 'why not', technician))).toEqual(['no-such-step']);
  });

  it('is crossed in order, and what lies above stays signed then', () => {
    const crossed = signThrough(crossable(), 'install');
    expect(isSigned(crossed.signatures, 'erase-disk')).toBe(true);
    expect(stageOf(crossed)).toBe('cross');
    expect(codesOf(signStep(crossed, 'updates', { actualMinutes: null, note: '' }, technician))).toEqual([
      'step-locked',
    ]);
    expect(codesOf(unsignStep(crossed, 'verify:b-07', 'mistake', technician))).toEqual(['line-crossed']);
    expect(codesOf(chooseRoute(crossed, { ...clean, routeId: 'hold', releaseId: null }, technician))).toEqual(
      ['line-crossed'],
    );
    expect(codesOf(setDataSets(crossed, [], technician))).toEqual(['line-crossed']);
    expect(codesOf(plan(done(typeFact(crossed, 'cores', 2, technician)), technician))).toEqual([]);
  });

  it('does not lock again below it when facts change', () => {
    const crossed = done(typeFact(signThrough(crossable(), 'install'), 'diskEncryption', 'on', technician));
    expect(readPlan(crossed, technician)?.standings.some(({ state }) => state === 'open')).toBe(true);
  });
});

describe('signing', () => {
  it('records who, when, minutes and note, and refuses a second signature', () => {
    const signed = done(
      signStep(planned(), 'write-stick', { actualMinutes: 14, note: ' went well ' }, technician),
    );
    expect(standingOf(signed.signatures, 'write-stick').last).toMatchObject({
      by: 'Ines',
      at: now,
      actualMinutes: 14,
      note: 'went well',
    });
    const again = signStep(signed, 'write-stick', { actualMinutes: null, note: '' }, later(1, lead));
    expect(codesOf(again)).toEqual(['step-conflict']);
    expect(!again.ok && again.problems[0]?.sentence).toContain('signed by Ines at 10:00');
  });

  it('counts a wait from its start', () => {
    const started = done(startStep(planned(), 'write-stick', technician));
    // 6 240 MB over 50 Mbit/s and at 25 MB/s onto the stick: 16.6 and 4.2 minutes.
    expect(runningWait(started)).toMatchObject({ stepId: 'write-stick', startedAt: now, minutes: 21 });
    expect(codesOf(startStep(started, 'write-stick', technician))).toEqual(['step-conflict']);
    const signed = done(signStep(started, 'write-stick', { actualMinutes: null, note: '' }, later(17)));
    expect(standingOf(signed.signatures, 'write-stick').last?.actualMinutes).toBe(17);
    expect(runningWait(signed)).toBeUndefined();
  });

  it('of a step with a wait comes after its shortest time, or with a reason', () => {
    const low = planned().plan?.runbook.steps.find(({ id }) => id === 'write-stick')?.waiting.low ?? 0;
    expect(low).toBeGreaterThan(1);
    const sign = (move: Move, minutes: number, note = '', actualMinutes: number | null = null) =>
      codesOf(signStep(move, 'write-stick', { actualMinutes, note }, later(minutes)));
    // Never started, started just now, and started long enough ago.
    expect(sign(planned(), 0)).toEqual(['too-early']);
    const started = done(startStep(planned(), 'write-stick', technician));
    expect(sign(started, low - 1)).toEqual(['too-early']);
    expect(sign(started, low)).toEqual([]);
    // Who says why, or how long it took, is believed, and it stays in the record.
    expect(sign(started, 0, 'written yesterday, for another device')).toEqual([]);
    expect(sign(planned(), 0, '', low)).toEqual([]);
    expect(sign(planned(), 0, '', low - 1)).toEqual(['too-early']);
  });

  it('is taken back with a reason, and the history stays', () => {
    const signed = done(signStep(planned(), 'write-stick', { actualMinutes: 12, note: '' }, technician));
    expect(codesOf(unsignStep(signed, 'write-stick', ' ', technician))).toEqual(['reason-needed']);
    const back = done(unsignStep(signed, 'write-stick', 'wrong stick', later(3)));
    expect(back.signatures.map(({ action }) => action)).toEqual(['sign', 'unsign']);
    expect(standingOf(back.signatures, 'write-stick').state).toBe('open');
    expect(codesOf(unsignStep(back, 'write-stick', 'again', technician))).toEqual(['step-conflict']);
  });

  it('knows no step that the plan does not have', () => {
    expect(codesOf(signStep(planned(), 'tidy-up', { actualMinutes: null, note: '' }, technician))).toEqual([
      'no-such-step',
    ]);
    expect(codesOf(signStep(saved(), 'write-stick', { actualMinutes: null, note: '' }, technician))).toEqual([
      'no-such-step',
    ]);
  });

  it('leaves a hold to a lead', () => {
    const held = done(
      plan(
        done(
          chooseRoute(
            { ...surveyed(), facts: endedLaptop },
            { routeId: 'hold', releaseId: null, reason: 'No hands before spring.' },
            technician,
          ),
        ),
        technician,
      ),
    );
    expect(codesOf(signStep(held, 'end-date', { actualMinutes: null, note: '' }, technician))).toEqual([
      'only-leads',
    ]);
    expect(codesOf(signStep(held, 'end-date', { actualMinutes: 3, note: '' }, lead))).toEqual(['not-noted']);
    const dated = done(prepare(held, { holdUntil: '2026-06-30' }, technician));
    expect(
      isSigned(
        done(signStep(dated, 'end-date', { actualMinutes: 3, note: '' }, lead)).signatures,
        'end-date',
      ),
    ).toBe(true);
  });
});

describe('planning again', () => {
  it('marks the plan stale when a fact changes, closes its gate, and loses no signature', () => {
    const signed = done(signStep(planned(), 'write-stick', { actualMinutes: 12, note: '' }, technician));
    const changedFact = done(typeFact(signed, 'diskEncryption', 'on', technician));
    const reading = readPlan(changedFact, technician);
    expect(reading?.differences.map(({ stepId }) => stepId)).toContain('suspend-encryption');
    expect(gateOf(changedFact, 'plan-current')?.state).toBe('closed');
    const again = done(plan(changedFact, technician));
    expect(readPlan(again, technician)?.differences).toEqual([]);
    expect(isSigned(again.signatures, 'write-stick')).toBe(true);
  });

  it('keeps what was signed under a route that has been left', () => {
    const signed = ready(planned());
    const advice = { routeId: 'in-place-upgrade' as const, releaseId: 'corvel-10-business', reason: null };
    const again = done(plan(done(chooseRoute(signed, advice, technician)), technician));
    expect(again.plan?.runbook.steps.some(({ id }) => id === 'identify-disk')).toBe(false);
    expect(
      again.signatures.some(({ stepId, title }) => stepId === 'identify-disk' && title.includes('9C2E')),
    ).toBe(true);
    expect(handoverSheet(again, technician).done.map(({ title }) => title)).toContain(
      'Identify disk …9C2E by serial number and size',
    );
  });

  it('refuses without a route, and with a data set that would be lost', () => {
    expect(codesOf(plan(surveyed(), technician))).toEqual(['no-route']);
    const exposed = done(setDestinations(saved(), [{ ...driveB7, takes: ['documents'] }], technician));
    expect(codesOf(plan(exposed, technician))).toEqual(['no-good-copy']);
    expect(custodyAlarms(planned().plan?.runbook.steps ?? [], exposed.dataSets)).toEqual([]);
  });
});
