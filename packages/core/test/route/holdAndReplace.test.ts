import { describe, expect, it } from 'vitest';
import {
  chooseRoute,
  plan,
  prepare,
  readPlan,
  setDataSets,
  setDestinations,
  signStep,
  typeFact,
  type CommandContext,
  type Move,
} from '../../src/record';
import type { RouteId } from '../../src/route';
import { custodyOf, isolationIds, isSigned } from '../../src/runbook';
import {
  codesOf,
  documents,
  done,
  driveB7,
  emptyMove,
  laptop,
  laptopSurvey,
  laptopWith,
  lead,
  share,
  splitDisk,
  technician,
  endedLaptop,
} from '../fixtures/shop';
import { compareAll } from '../fixtures/story';

const sign = (move: Move, stepId: string, context: CommandContext = technician) =>
  signStep(
    move,
    stepId,
    { actualMinutes: 5, note: 'as it was done', crossing: { serialEnd: '9C2E', sizeShown: 256.1 } },
    context,
  );

/** A laptop with data sets, destinations, a chosen route and a plan. */
function planned(routeId: RouteId, facts = laptop): Move {
  const chosen = done(
    chooseRoute(
      { ...emptyMove, facts },
      { routeId, releaseId: null, reason: 'Agreed with the owner.' },
      technician,
    ),
  );
  const listed = done(setDataSets(chosen, [documents], technician));
  const placed = done(
    setDestinations(
      listed,
      [driveB7, share].map((destination) => ({ ...destination, takes: ['documents'] })),
      technician,
    ),
  );
  return done(plan(placed, technician));
}

const stepsOf = (move: Move) => move.plan?.runbook.steps ?? [];
const stepId = (move: Move, kind: string) => stepsOf(move).find((step) => step.kind === kind)?.id ?? '';

describe('a hold', () => {
  it('is isolated line by line before the step can be signed', () => {
    const move = planned('hold', endedLaptop);
    expect(codesOf(sign(move, stepId(move, 'isolate')))).toEqual(['not-noted']);
    const half = done(prepare(move, { isolation: { done: ['cable', 'wireless'] } }, technician));
    expect(codesOf(sign(half, stepId(half, 'isolate')))).toEqual(['not-noted']);
    const whole = done(prepare(half, { isolation: { done: [...isolationIds] } }, technician));
    expect(isSigned(done(sign(whole, stepId(whole, 'isolate'))).signatures, 'isolate')).toBe(true);
  });

  it('has a last day that is still to come, and a lead who signs for it', () => {
    const move = planned('hold', endedLaptop);
    expect(codesOf(prepare(move, { holdUntil: '2026-03-02' }, technician))).toEqual(['hold-is-over']);
    const dated = done(prepare(move, { holdUntil: '2026-09-30' }, technician));
    expect(codesOf(sign(dated, 'end-date'))).toEqual(['only-leads']);
    expect(isSigned(done(sign(dated, 'end-date', lead)).signatures, 'end-date')).toBe(true);
  });
});

describe('a replacement', () => {
  const notes = {
    recoveryKey: { keptWhere: 'safe' },
    diskMarks: { serialEnd: '9C2E', sizeGigabytes: 256.1 },
    power: {},
  };

  it('does not wipe the old disk before the new device is named and the data is on it', () => {
    let move = done(prepare(planned('replace'), notes, technician));
    expect(codesOf(sign(move, stepId(move, 'pair-device')))).toEqual(['not-noted']);
    move = done(
      prepare(move, { replacement: { maker: 'Kestle', model: 'Sill', serial: 'KS-77' } }, technician),
    );
    const gate = readPlan(move, technician)?.gates.find(({ id }) => id === 'data-moved');
    expect(gate?.state).toBe('closed');
    expect(codesOf(sign(move, stepId(move, 'wipe-old-disk')))).toEqual(['step-locked']);
  });

  it('goes through: data moved, wipe recorded, disposal by local rules, and never without a good copy', () => {
    let move = done(prepare(planned('replace'), notes, technician));
    move = done(
      prepare(
        move,
        {
          replacement: { maker: 'Kestle', model: 'Sill', serial: 'KS-77' },
          dataMoved: { statement: 'Checksums of all 18 204 files compared.' },
        },
        technician,
      ),
    );
    move = done(plan(move, technician));
    for (const { counts } of custodyOf(stepsOf(move), move.dataSets))
      expect(Math.min(...counts)).toBeGreaterThan(0);
    const line = move.plan?.runbook.lineIndex ?? 0;
    expect(stepsOf(move)[line]?.kind).toBe('wipe-old-disk');
    for (const step of stepsOf(move).slice(0, line)) {
      move = compareAll(move, step);
      if (!isSigned(move.signatures, step.id)) move = done(sign(move, step.id));
    }
    expect(codesOf(sign(move, stepId(move, 'wipe-old-disk')))).toEqual(['not-noted']);
    move = done(prepare(move, { wipe: { method: 'Overwritten once, read back' } }, technician));
    move = done(plan(move, technician));
    move = done(sign(move, stepId(move, 'wipe-old-disk')));
    for (const kind of ['applications', 'habits']) move = done(sign(move, stepId(move, kind)));
    expect(codesOf(sign(move, stepId(move, 'disposal')))).toEqual(['not-noted']);
    move = done(prepare(move, { disposal: { how: 'Taken by the borough yard, slip 14' } }, technician));
    expect(isSigned(done(sign(move, stepId(move, 'disposal'))).signatures, 'disposal')).toBe(true);
  });
});

describe('consents', () => {
  const below = laptopWith({
    firmware: { mode: 'uefi', secureBoot: 'on', tpm: '1.2' },
    disks: [splitDisk],
    system: { ...laptopSurvey.system },
  });
  const choice = {
    routeId: 'waived-clean' as const,
    releaseId: 'corvel-10-business',
    reason: 'One application of the family is needed.',
  };

  it('are asked for check by check: nothing is waived in passing', () => {
    expect(codesOf(chooseRoute({ ...emptyMove, facts: below }, choice, technician))).toEqual(['not-waived']);
    const chosen = done(
      chooseRoute({ ...emptyMove, facts: below }, { ...choice, waivers: ['tpm'] }, technician),
    );
    expect(chosen.decision?.waivers).toEqual(['tpm']);
  });

  it('hang on the Line until owner and organisation have agreed in writing', () => {
    const chosen = done(
      chooseRoute({ ...emptyMove, facts: below }, { ...choice, waivers: ['tpm'] }, technician),
    );
    const stated = done(prepare(chosen, { nothingToSave: { statement: 'A loan device.' } }, technician));
    const move = done(plan(stated, technician));
    const state = (at: Move) => readPlan(at, technician)?.gates.find(({ id }) => id === 'consents')?.state;
    expect(state(move)).toBe('closed');
    const owner = done(prepare(move, { ownerConsent: { signer: 'Ada', keptWhere: 'folder' } }, technician));
    expect(state(owner)).toBe('closed');
    const both = done(
      prepare(owner, { organisationConsent: { signer: 'Maud', keptWhere: 'folder' } }, technician),
    );
    expect(state(both)).toBe('green');
  });
});

describe('a licence of the wrong edition', () => {
  it('is a gate, found here and not on the last page of set-up', () => {
    const chosen = done(
      chooseRoute(
        { ...emptyMove, facts: laptop },
        { routeId: 'clean-whole-disk', releaseId: 'corvel-10-personal', reason: 'Asked for.' },
        lead,
      ),
    );
    const move = done(
      plan(
        done(
          prepare(
            chosen,
            {
              nothingToSave: { statement: 'A loan device.' },
              licence: { kind: 'digital', keptWhere: 'here' },
            },
            technician,
          ),
        ),
        technician,
      ),
    );
    const gate = (at: Move) => readPlan(at, technician)?.gates.find(({ id }) => id === 'licence');
    expect(gate(move)).toMatchObject({ state: 'closed' });
    expect(gate(move)?.sentence).toContain('The licence is for Business, not for Personal.');
    const bought = done(typeFact(move, 'licencesHeld', ['corvel-10-personal'], technician));
    expect(gate(bought)?.state).toBe('green');
  });
});
