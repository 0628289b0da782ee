import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  callOff,
  chooseRoute,
  conflictingParts,
  isClosed,
  overruleGate,
  partsTouched,
  prepare,
  recordCheck,
  recordFileList,
  resume,
  setDataSets,
  setIdentity,
  signStep,
  stageOf,
  typeFact,
  versionOfChange,
  withTouched,
  type Move,
  type PartVersions,
} from '../../src/record';
import { codesOf, documents, done, lead, listHead, pictures, technician } from '../fixtures/shop';
import { clean, crossable, planned, saved, shownByInstaller, signThrough } from '../fixtures/story';

const start = planned();
const stepId = start.plan?.runbook.steps[(start.plan.runbook.lineIndex ?? 1) - 1]?.id ?? '';
const typed = (move: Move, key: 'cores' | 'clockMhz', value: number) =>
  done(typeFact(move, key, value, technician));
const sign = (move: Move, id: string) =>
  done(signStep(move, id, { actualMinutes: 60, note: '' }, technician));

describe('parts of a move', () => {
  it('are what a change touches, and no more', () => {
    expect(partsTouched(start, start)).toEqual([]);
    expect(partsTouched(start, typed(start, 'cores', 2))).toEqual(['facts/cores']);
    expect(partsTouched(start, done(prepare(start, { power: {} }, technician)))).toEqual([
      'preparation/power',
    ]);
    expect(partsTouched(start, sign(start, stepId))).toEqual([`signatures/${stepId}`]);
    const grown = done(setDataSets(saved(), [documents, { ...pictures, fileCount: 7 }], technician));
    expect(partsTouched(saved(), grown)).toEqual(['dataSets/pictures']);
  });
});

describe('two people at one move', () => {
  /** The other was first, at version 2; mine was made from version 1. */
  const conflict = (others: (move: Move) => Move, mine: (move: Move) => Move): readonly string[] => {
    const theirs = others(start);
    const versions = withTouched({}, partsTouched(start, theirs), 2);
    return conflictingParts(theirs, mine(theirs), versions, 1);
  };

  it('do not hinder each other in different parts', () => {
    expect(
      conflict(
        (move) => typed(move, 'cores', 2),
        (move) => typed(move, 'clockMhz', 900),
      ),
    ).toEqual([]);
    expect(
      conflict(
        (move) => sign(move, stepId),
        (move) => typed(move, 'cores', 2),
      ),
    ).toEqual([]);
    expect(
      conflict(
        (move) => done(setIdentity(move, { owner: 'Maud', site: '', dueOn: null })),
        (move) => sign(move, stepId),
      ),
    ).toEqual([]);
  });

  it('are told of the very part that both changed', () => {
    expect(
      conflict(
        (move) => typed(move, 'cores', 2),
        (move) => typed(move, 'cores', 4),
      ),
    ).toEqual(['facts/cores']);
  });

  it('whose list lacks what the other added do not remove it unseen', () => {
    const added = { ...documents, id: 'mail', name: 'Mail' };
    const theirs = done(setDataSets(saved(), [documents, pictures, added], technician));
    const mine = done(setDataSets(theirs, [documents, pictures], technician));
    const versions = withTouched({}, partsTouched(saved(), theirs), 2);
    expect(conflictingParts(theirs, mine, versions, 1)).toContain('dataSets/mail');
  });

  it('sign nothing in a plan that the other has made anew', () => {
    const versions: PartVersions = { plan: 2 };
    expect(conflictingParts(start, sign(start, stepId), versions, 1)).toEqual(['plan']);
    expect(conflictingParts(start, sign(start, stepId), versions, 2)).toEqual([]);
  });

  it('do not call a copy compared when the list that it was compared with is no longer the one', () => {
    const check = { method: 'full' as const, files: documents.fileCount };
    const pair = { dataSetId: 'documents', destinationId: 'b-07' };
    const compare = (move: Move) =>
      done(recordCheck(move, { ...pair, check, count: 0, files: [] }, technician));
    const listed = (move: Move) =>
      done(recordFileList(move, listHead({ dataSetId: 'documents' }), technician));
    // The comparison began at version 1; a newer list of the device is version 2.
    expect(conflict(listed, compare)).toContain('fileLists/documents before');
    expect(conflict((move) => typed(move, 'cores', 2), compare)).toEqual([]);
    // A choice was made by the facts.
    const choose = (move: Move) =>
      done(chooseRoute(move, { ...clean, reason: 'Agreed with the owner.' }, technician));
    expect(conflict((move) => typed(move, 'cores', 2), choose)).toContain('facts/cores');
    // Rows of an earlier release say only when the last change was.
    expect(conflictingParts(start, compare(start), { '*': 4 }, 3)).toContain('*');
    expect(conflictingParts(start, compare(start), { '*': 4 }, 4)).toEqual([]);
  });

  it('cross the Line, overrule a gate and close the record only with all of the move seen', () => {
    const versions: PartVersions = { 'facts/cores': 5 };
    const before = crossable();
    const crossed = done(
      signStep(before, 'erase-disk', { actualMinutes: 6, note: '', crossing: shownByInstaller }, technician),
    );
    expect(conflictingParts(before, crossed, versions, 4)).toEqual(['facts/cores']);
    expect(conflictingParts(before, crossed, versions, 5)).toEqual([]);
    const overruled = done(overruleGate(start, 'power', 'The battery is full, and the dock is on.', lead));
    expect(conflictingParts(start, overruled, versions, 4)).toEqual(['facts/cores']);
  });

  it('find a conflict whenever they touch the same part, whatever they do', () => {
    const acts: readonly ((move: Move) => Move)[] = [
      (move) => typed(move, 'cores', 3),
      (move) => typed(move, 'clockMhz', 1200),
      (move) => done(prepare(move, { power: {} }, technician)),
      (move) => done(setIdentity(move, { owner: 'Odd', site: 'Stannick', dueOn: null })),
      (move) => done(setDataSets(move, [documents], technician)),
      (move) => sign(move, stepId),
    ];
    let same = 0;
    let apart = 0;
    fc.assert(
      fc.property(fc.constantFrom(...acts), fc.constantFrom(...acts), (others, mine) => {
        if (others === mine) {
          // The same act again changes nothing new, or is refused by its command.
          same += 1;
          return;
        }
        const theirs = others(start);
        const touched = partsTouched(start, theirs);
        const after = mine(theirs);
        const both = partsTouched(theirs, after).filter((part) => touched.includes(part));
        const told = conflictingParts(theirs, after, withTouched({}, touched, 2), 1);
        for (const part of both) expect(told).toContain(part);
        if (both.length === 0) apart += 1;
      }),
      { numRuns: 200 },
    );
    expect(same).toBeGreaterThan(5);
    expect(apart).toBeGreaterThan(50);
  });
});

describe('the change that a refused one collided with', () => {
  it('is the latest of the parts that are told; of an unnamed part, what is known of all', () => {
    const versions = { '*': 2, 'facts/cores': 5, decision: 7, plan: 9 };
    expect(versionOfChange(['facts/cores'], versions)).toBe(5);
    expect(versionOfChange(['facts/cores', 'decision'], versions)).toBe(7);
    expect(versionOfChange(['dataSets/mail'], versions)).toBe(2);
  });
});

describe('a move started by mistake', () => {
  it('is called off with a reason, changes no more, and can be resumed where it was', () => {
    expect(codesOf(callOff(start, ' ', technician))).toEqual(['reason-needed']);
    const off = done(callOff(start, 'The device was scrapped.', technician));
    expect([isClosed(off), stageOf(off)]).toEqual([true, 'done']);
    expect(codesOf(typeFact(off, 'cores', 2, technician))).toEqual(['called-off']);
    expect(codesOf(callOff(off, 'Again.', technician))).toEqual(['called-off']);
    expect(done(resume(off))).toEqual(start);
    expect(codesOf(resume(start))).toEqual(['not-called-off']);
  });

  it('is not called off below the Line: the device has to be finished', () => {
    expect(codesOf(callOff(signThrough(crossable(), 'install'), 'No time.', technician))).toEqual([
      'line-crossed',
    ]);
  });
});
