import { describe, expect, it } from 'vitest';
import {
  chooseRoute,
  overruleGate,
  plan,
  prepare,
  readPlan,
  recordCheck,
  setDataSets,
  setDestinations,
  signStep,
  unsignStep,
  type Move,
} from '../../src/record';
import { isSigned } from '../../src/runbook';
import {
  codesOf,
  documents,
  done,
  driveB7,
  laptopSurvey,
  laptopWith,
  lead,
  now,
  pictures,
  share,
  technician,
} from '../fixtures/shop';
import { gateOf, planned, ready, saved, surveyed } from '../fixtures/story';

const marks = { diskMarks: { serialEnd: '9C2E', sizeGigabytes: 256.1 } };

/** Beside the present system: its partition is shrunk above the Line. */
function beside(change: Partial<Move> = {}): Move {
  const choice = { routeId: 'beside-same-disk' as const, releaseId: 'saltbush-full', reason: 'A trial.' };
  let move = done(chooseRoute({ ...surveyed(), ...change }, choice, lead));
  move = done(setDataSets(move, [documents, pictures], technician));
  move = done(setDestinations(move, [driveB7, share], technician));
  return done(plan(move, technician));
}
const barrier = (move: Move, stepId: string) =>
  readPlan(move, technician)
    ?.barriers.find((one) => one.stepId === stepId)
    ?.gates.map(({ id, state }) => `${id} ${state}`);
const standing = (move: Move, stepId: string) =>
  readPlan(move, technician)?.standings.find((one) => one.stepId === stepId);
const sign = (move: Move, stepId: string) =>
  codesOf(signStep(move, stepId, { actualMinutes: 30, note: '' }, technician));
const compared = (move: Move, dataSetId: string) =>
  done(
    recordCheck(
      move,
      {
        dataSetId,
        destinationId: 'b-07',
        check: { method: 'full', files: documents.fileCount },
        count: 0,
        files: [],
      },
      technician,
    ),
  );

describe('the barrier before a shrink', () => {
  it('asks for what the shrink needs: a copy of what lies there, the disk told apart, the mains', () => {
    const move = beside();
    expect(barrier(move, 'shrink-system')).toEqual([
      'copies-verified closed',
      'disk-identified closed',
      'power closed',
    ]);
    expect(standing(move, 'shrink-system')).toMatchObject({
      state: 'locked',
      reason: expect.stringContaining('The barrier before it is closed. Short of copies: Documents (0 of 1)'),
    });
    expect(sign(move, 'shrink-system')).toEqual(['step-locked']);
  });

  it('opens with each of them, and asks for no copy of what does not lie there', () => {
    let move = beside();
    move = done(prepare(move, { ...marks, power: {} }, technician));
    expect(barrier(move, 'shrink-system')).toEqual([
      'copies-verified closed',
      'disk-identified green',
      'power green',
    ]);
    // The pictures lie on the data partition: their copy opens nothing.
    expect(barrier(compared(move, 'pictures'), 'shrink-system')?.[0]).toBe('copies-verified closed');
    move = compared(move, 'documents');
    expect(barrier(move, 'shrink-system')).toEqual([
      'copies-verified green',
      'disk-identified green',
      'power green',
    ]);
    expect(standing(move, 'shrink-system')?.state).toBe('open');
    expect(sign(move, 'shrink-system')).toEqual([]);
    // The Line asks for more: every data set, and the steps above.
    expect(gateOf(move, 'copies-verified')?.state).toBe('closed');
  });

  it('is overruled by a lead, gate by gate, as on the Line', () => {
    let move = compared(done(prepare(beside(), marks, technician)), 'documents');
    expect(barrier(move, 'shrink-system')?.at(-1)).toBe('power closed');
    move = done(overruleGate(move, 'power', 'It hangs on a ship’s own supply.', lead));
    expect(barrier(move, 'shrink-system')?.at(-1)).toBe('power overruled');
    expect(standing(move, 'shrink-system')?.state).toBe('open');
  });

  it('stands before no step that risks nothing, and below the Line before encrypting alone', () => {
    const { plan: made } = planned();
    const steps = made?.runbook.steps ?? [];
    const line = made?.runbook.lineIndex ?? 0;
    expect(steps.slice(line).flatMap(({ kind, barrier: own }) => (own ? [[kind, own.gates]] : []))).toEqual([
      ['encrypt', ['passphrase']],
    ]);
    const barred = steps.filter((step) => step.barrier).map(({ kind }) => kind);
    expect(barred).not.toContain('copy');
    expect(barred).not.toContain('write-stick');
  });
});

describe('the barrier before a firmware switch', () => {
  const encrypted = (diskEncryption: 'on' | 'off') => ({
    facts: laptopWith({ system: { ...laptopSurvey.system, diskEncryption } }),
  });
  const upgrade = (change: Partial<Move>) => {
    const choice = {
      routeId: 'in-place-upgrade' as const,
      releaseId: 'corvel-10-business',
      reason: 'As asked.',
    };
    let move = done(chooseRoute({ ...surveyed(), ...change }, choice, lead));
    move = done(setDataSets(move, [documents, pictures], technician));
    move = done(setDestinations(move, [driveB7, share], technician));
    return done(plan(move, technician));
  };
  it('asks for the recovery key where the disk is encrypted, and is not there where it is not', () => {
    const move = upgrade(encrypted('on'));
    expect(barrier(move, 'firmware:tpm-on')).toEqual(['recovery-key closed']);
    expect(sign(move, 'firmware:tpm-on')).toEqual(['step-locked']);
    const kept = done(prepare(move, { recoveryKey: { keptWhere: 'office safe' } }, technician));
    expect(barrier(kept, 'firmware:tpm-on')).toEqual(['recovery-key green']);
    expect(sign(kept, 'firmware:tpm-on')).toEqual([]);
    expect(barrier(upgrade(encrypted('off')), 'firmware:tpm-on')).toBeUndefined();
  });
});

describe('the passphrase of an encryption that is switched on', () => {
  const reasonOf = (move: Move) => standing(move, 'encrypt')?.reason ?? '';
  it('is noted as kept before that step, which cannot be signed without', () => {
    const without = done(prepare(ready(planned()), { passphrase: null }, technician));
    expect(barrier(without, 'encrypt')).toEqual(['passphrase closed']);
    expect(reasonOf(without)).toContain('loses every file');
    expect(sign(without, 'encrypt')).toEqual(['step-locked']);
    // Not the Line’s: nothing is encrypted there.
    expect(gateOf(without, 'passphrase')).toBeUndefined();
    expect(barrier(ready(planned()), 'encrypt')).toEqual(['passphrase green']);
    expect(reasonOf(ready(planned()))).not.toContain('loses every file');
  });

  it('is a gate of the Line where set-up encrypts, and no step has it then', () => {
    const during = {
      ...technician,
      houseRules: { ...technician.houseRules, encryption: 'during-setup' as const },
    };
    const choice = { routeId: 'alternative-system' as const, releaseId: 'saltbush-full', reason: 'A trial.' };
    const move = done(plan(done(chooseRoute(ready(planned()), choice, lead)), during));
    expect(gateOf(move, 'passphrase')?.state).toBe('green');
    const without = done(prepare(move, { passphrase: null }, technician));
    expect(gateOf(without, 'passphrase')?.state).toBe('closed');
    expect(barrier(without, 'encrypt')).toBeUndefined();
  });

  it('is asked by nobody where the house encrypts nothing', () => {
    const off = { ...technician, houseRules: { ...technician.houseRules, encryption: 'off' as const } };
    const move = done(plan(saved(), off));
    expect(move.plan?.runbook.gates).not.toContain('passphrase');
    expect(move.plan?.runbook.steps.flatMap((step) => step.barrier?.gates ?? [])).not.toContain('passphrase');
  });
});

describe('identifying the disk', () => {
  const signed = (move: Move) => isSigned(move.signatures, 'identify-disk');
  it('is signed by serial number and size, and by nothing else', () => {
    const move = planned();
    expect(sign(move, 'identify-disk')).toEqual(['not-noted']);
    expect(signed(ready(move))).toBe(true);
    const wrong = done(prepare(move, { diskMarks: { serialEnd: '0000', sizeGigabytes: 256.1 } }, technician));
    expect(signed(wrong)).toBe(false);
    expect(signed(done(prepare(ready(move), { diskMarks: null }, technician)))).toBe(false);
    expect(codesOf(unsignStep(ready(move), 'identify-disk', 'Not seen.', technician))).toEqual([
      'step-conflict',
    ]);
    // Other notes leave it as it is.
    expect(signed(done(prepare(ready(move), { power: null }, technician)))).toBe(true);
  });

  it('stands above a Line that has no gate of its own for it: beside the present system', () => {
    const move = done(prepare(beside(), { power: {} }, technician));
    expect(move.plan?.runbook.gates).not.toContain('disk-identified');
    expect(gateOf(move, 'steps-above-signed')?.reasons).toContain(
      'Identify disk …9C2E by serial number and size',
    );
    const told = done(prepare(move, marks, technician));
    expect(gateOf(told, 'steps-above-signed')?.reasons).not.toContain(
      'Identify disk …9C2E by serial number and size',
    );
  });

  it('keeps a signature of old when the plan is made again', () => {
    const move = planned();
    const old = {
      stepId: 'identify-disk',
      title: 'Identify',
      action: 'sign',
      at: now,
      by: 'Odd',
      actualMinutes: 2,
      note: '',
    } as const;
    expect(signed(done(plan({ ...move, signatures: [old] }, technician)))).toBe(true);
  });

  it('is signed with the plan where both were noted before', () => {
    const before = done(prepare({ ...planned(), plan: null }, marks, technician));
    expect(signed(before)).toBe(false);
    expect(signed(done(plan(before, technician)))).toBe(true);
  });
});
