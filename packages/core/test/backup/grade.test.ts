import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  copiesOf,
  copyGrades,
  countGrades,
  countingCopies,
  describeGrade,
  gradeOf,
  type Copy,
  type CopyCheck,
} from '../../src/backup';
import { defaultHouseRules } from '../../src/rules';
import { overruleGate, prepare, readPlan, signStep, tickCopy } from '../../src/record';
import { codesOf, documents, done, driveB7, lead, now, share, technician } from '../fixtures/shop';
import { compareAll, gateOf, planned, ready } from '../fixtures/story';

const copy = (dataSetId: string, destinationId: string, check?: CopyCheck): Copy => ({
  dataSetId,
  destinationId,
  verifiedAt: now,
  verifiedBy: 'Ines',
  ...(check ? { check } : {}),
});
const full: CopyCheck = { method: 'full', files: 10 };
const sample: CopyCheck = { method: 'sample', files: 3, ofFiles: 10 };
const checks = { compared: full, sampled: sample, stated: undefined } as const;

describe('the grade of a copy', () => {
  it('is compared, sampled or stated; a sample that holds every file is a comparison', () => {
    expect(gradeOf({ check: full })).toBe('compared');
    expect(gradeOf({ check: sample })).toBe('sampled');
    expect(gradeOf({ check: { method: 'sample', files: 10, ofFiles: 10 } })).toBe('compared');
    expect(gradeOf({})).toBe('stated');
  });

  it('is said with its numbers, and counted', () => {
    expect(describeGrade({ check: { method: 'sample', files: 495, ofFiles: 9874 } })).toBe(
      'sampled, 495 of 9,874 files',
    );
    expect(describeGrade({})).toBe('stated by hand');
    expect(countGrades([{ check: full }, {}, { check: full }])).toBe('2 compared, 1 stated');
  });
});

describe('copies that count', () => {
  /** The whole table by hand: two copies of what is erased, or one of what is kept. */
  it('are what the house rule says, for every pair of grades', () => {
    // Counting copies out of (first, second), and whether the set has what it needs.
    const enough = {
      compared: ['compared+compared', 'compared+sampled', 'sampled+compared'],
      sampled: ['compared+compared', 'compared+sampled', 'sampled+compared', 'sampled+sampled'],
      stated: copyGrades.flatMap((one) => copyGrades.map((two) => `${one}+${two}`)),
    } as const;
    let judged = 0;
    for (const copyProof of copyGrades)
      for (const one of copyGrades)
        for (const two of copyGrades) {
          const copies = [
            copy('documents', 'b-07', checks[one]),
            copy('documents', 'pier-store', checks[two]),
          ];
          const houseRules = { ...defaultHouseRules, copyProof };
          const [line] = copiesOf([documents], [driveB7, share], copies, 'whole-disk', houseRules);
          const expected: readonly string[] = enough[copyProof];
          expect(line?.short === null, `${copyProof}: ${one}+${two}`).toBe(
            expected.includes(`${one}+${two}`),
          );
          // What the route keeps needs one copy, and a statement is enough.
          const [kept] = copiesOf([documents], [driveB7, share], copies, 'nothing', houseRules);
          expect(kept).toMatchObject({ short: null, verified: 2 });
          judged += 1;
        }
    expect(judged).toBe(27);
  });

  it('are never more by a weaker grade, nor fewer by a laxer rule', () => {
    let exercised = 0;
    const grade = fc.constantFrom(...copyGrades);
    fc.assert(
      fc.property(
        grade,
        grade,
        grade,
        fc.constantFrom('whole-disk', 'system-partition', 'nothing'),
        (a, b, weaker, writesOver) => {
          const counted = (first: (typeof copyGrades)[number], copyProof: (typeof copyGrades)[number]) =>
            copiesOf(
              [documents],
              [driveB7, share],
              [copy('documents', 'b-07', checks[first]), copy('documents', 'pier-store', checks[b])],
              writesOver,
              { ...defaultHouseRules, copyProof },
            )[0]?.verified ?? -1;
          if (copyGrades.indexOf(weaker) > copyGrades.indexOf(a)) {
            exercised += 1;
            expect(counted(weaker, 'compared')).toBeLessThanOrEqual(counted(a, 'compared'));
          }
          expect(counted(a, 'compared')).toBeLessThanOrEqual(counted(a, 'sampled'));
          expect(counted(a, 'sampled')).toBeLessThanOrEqual(counted(a, 'stated'));
        },
      ),
    );
    expect(exercised).toBeGreaterThan(10);
  });

  it('are those that custody is made from: a statement about what is erased is none', () => {
    const copies = [copy('documents', 'b-07', full), copy('documents', 'pier-store')];
    const status = copiesOf([documents], [driveB7, share], copies, 'whole-disk', defaultHouseRules);
    expect(countingCopies(copies, status)).toEqual([copies[0]]);
    expect(status[0]?.copies.map(({ because }) => because)).toEqual([null, 'stated only: not enough']);
  });
});

describe('stating a copy', () => {
  const steps = () => planned().plan?.runbook.steps ?? [];
  const verifying = () => steps().filter(({ id }) => id.startsWith('verify:'));

  it('leaves the gate before the Line closed, until a lead overrules it with a reason', () => {
    const stated = verifying().reduce(
      (move, { id }) => done(signStep(move, id, { actualMinutes: 40, note: '' }, technician)),
      ready(planned()),
    );
    expect(stated.copies.map(gradeOf)).toEqual(['stated', 'stated', 'stated', 'stated']);
    expect(gateOf(stated, 'copies-verified')).toMatchObject({
      state: 'closed',
      sentence: 'Short of copies: Documents (0 of 2), Pictures (0 of 2). Compare them on Save.',
    });
    const reason = 'The copying program compared each file; its log is with the drive.';
    const overruled = done(overruleGate(stated, 'copies-verified', reason, lead));
    expect(gateOf(overruled, 'copies-verified')?.state).toBe('overruled');
    const compared = verifying().reduce((move, step) => compareAll(move, step), stated);
    expect(gateOf(compared, 'copies-verified')).toMatchObject({
      state: 'green',
      sentence: 'Every data set has the copies it needs: 4 compared.',
    });
  });

  it('is recorded as a statement, and refused where a comparison found that files differ', () => {
    const [step] = verifying();
    if (!step) throw new Error('a copy is verified in this plan');
    const move = ready(planned());
    const pair = { dataSetId: 'documents', destinationId: 'b-07' };
    const ticked = tickCopy(move, { ...pair, verified: true }, technician);
    expect(ticked.ok && ticked.value.sentence).toBe('Documents on B-07: stated by hand to be a good copy.');
    const failed = {
      ...move,
      failedChecks: [
        { ...pair, at: now, by: 'Ines', count: 1, files: [{ kind: 'changed' as const, path: 'a.txt' }] },
      ],
    };
    expect(codesOf(tickCopy(failed, { ...pair, verified: true }, technician))).toEqual(['copy-differs']);
    expect(codesOf(signStep(failed, step.id, { actualMinutes: 40, note: '' }, technician))).toEqual([
      'not-noted',
    ]);
  });

  it('signs the step with the grades and the minutes since it was started', () => {
    const [step] = verifying();
    if (!step) throw new Error('a copy is verified in this plan');
    const compared = compareAll(done(prepare(planned(), { power: {} }, technician)), step);
    const last = compared.signatures.findLast(({ stepId }) => stepId === step.id);
    expect(last).toMatchObject({ action: 'sign', note: '2 compared', actualMinutes: null });
    expect(readPlan(compared, technician)?.standings.find(({ stepId }) => stepId === step.id)?.state).toBe(
      'signed',
    );
  });
});
