import { describe, expect, it } from 'vitest';
import {
  chooseRoute,
  plan,
  prepare,
  setDataSets,
  setDestinations,
  signStep,
  takeSurvey,
  typeFact,
} from '../../src/record';
import { isSigned } from '../../src/runbook';
import {
  codesOf,
  documents,
  done,
  driveB7,
  emptyMove,
  laptopSurvey,
  now,
  pictures,
  share,
  splitDisk,
  technician,
} from '../fixtures/shop';
import { clean, gateOf, later, ready, signThrough } from '../fixtures/story';
import { addMinutes } from '../../src/quantity';

const mib = 2048;
/** 52.4 GB: Corvel 10 asks for 64. */
const small = {
  ...splitDisk,
  serial: 'SM0011A4X89',
  sectorCount: 50_000 * mib,
  partitions: splitDisk.partitions
    .slice(0, 3)
    .map((partition) =>
      partition.role === 'system'
        ? { ...partition, sectorCount: 40_000 * mib, usedBytes: 20_000_000_000 }
        : partition,
    ),
};
const bought = { ...splitDisk, serial: 'NW7755B8K21', scheme: 'none' as const, partitions: [] };

const fitted = 'A disk was fitted since the survey was taken';
const marks = (serialEnd: string, sizeGigabytes: number) => ({ diskMarks: { serialEnd, sizeGigabytes } });

/** On the bench, with the small disk identified, up to the step that fits a larger one. */
function beforeFitting() {
  let move = done(takeSurvey(emptyMove, { ...laptopSurvey, disks: [small] }, 'collector', technician));
  move = done(chooseRoute(move, clean, technician));
  move = done(setDataSets(move, [documents, pictures], technician));
  move = done(setDestinations(move, [driveB7, share], technician));
  move = ready(done(plan(move, technician)));
  move = done(prepare(move, marks('4X89', 52.4), technician));
  return signThrough(move, 'fit-part');
}

const identify = (move: ReturnType<typeof beforeFitting>) =>
  move.plan?.runbook.steps.find(({ kind }) => kind === 'identify-disk')?.id ?? '';

describe('a disk that is fitted on the way', () => {
  const before = beforeFitting();
  const after = done(signStep(before, 'fit:disk', { actualMinutes: 30, note: '' }, later(200)));

  it('is not the one that was identified: nothing is written before the survey is taken again', () => {
    expect(isSigned(before.signatures, identify(before))).toBe(true);
    expect(gateOf(before, 'disk-identified')?.state).toBe('green');
    expect(isSigned(after.signatures, identify(after))).toBe(false);
    expect(gateOf(after, 'disk-identified')?.state).toBe('closed');
    expect(gateOf(after, 'disk-identified')?.sentence).toContain(fitted);
    // The old one's number cannot be typed once more.
    const again = done(prepare(after, marks('4X89', 52.4), later(210)));
    expect(isSigned(again.signatures, identify(again))).toBe(false);
    expect(codesOf(signStep(after, identify(after), { actualMinutes: 1, note: '' }, later(211)))).toEqual([
      'not-noted',
    ]);
  });

  it('is not crossed with by the old one’s number', () => {
    const crossing = { serialEnd: '4X89', sizeShown: 52.4 };
    const refused = signStep(after, 'erase-disk', { actualMinutes: 5, note: '', crossing }, later(212));
    expect(codesOf(refused)).toEqual(['another-disk']);
    expect(refused.ok ? '' : refused.problems[0]?.sentence).toContain(fitted);
    // Before it was fitted the number is the right one, and other things are in the way.
    expect(
      codesOf(signStep(before, 'erase-disk', { actualMinutes: 5, note: '', crossing }, later(190))),
    ).not.toContain('another-disk');
  });

  it('is known by the next survey, or as soon as its disks are typed', () => {
    const taken = { ...laptopSurvey, takenAt: addMinutes(now, 220), disks: [bought] };
    const surveyed = done(takeSurvey(after, taken, 'collector', later(221)));
    expect(gateOf(surveyed, 'disk-identified')?.sentence).not.toContain(fitted);
    // Taken just before the step was signed, and imported after it.
    const early = done(
      takeSurvey(after, { ...taken, takenAt: addMinutes(now, 190) }, 'collector', later(221)),
    );
    expect(gateOf(early, 'disk-identified')?.sentence).not.toContain(fitted);
    const typed = done(typeFact(after, 'disks', [bought], later(222)));
    expect(gateOf(typed, 'disk-identified')?.sentence).not.toContain(fitted);
    // The marks are still those of the old one.
    expect(gateOf(surveyed, 'disk-identified')?.state).toBe('closed');
    const told = done(prepare(surveyed, marks('8K21', 256.1), later(223)));
    expect(gateOf(told, 'disk-identified')?.state).toBe('green');
  });

  it('matters by the time at which the survey was imported: a later signature is about that survey’s disk no more', () => {
    const taken = { ...laptopSurvey, takenAt: addMinutes(now, 150), disks: [small] };
    const surveyed = done(takeSurvey(before, taken, 'collector', later(160)));
    const signed = done(signStep(surveyed, 'fit:disk', { actualMinutes: 30, note: '' }, later(200)));
    expect(gateOf(signed, 'disk-identified')?.sentence).toContain(fitted);
  });
});

describe('a survey that shows another disk', () => {
  it('takes back that the disk was identified', () => {
    const before = beforeFitting();
    const taken = { ...laptopSurvey, takenAt: addMinutes(now, 150), disks: [bought] };
    const surveyed = done(takeSurvey(before, taken, 'collector', later(160)));
    expect(isSigned(surveyed.signatures, identify(before))).toBe(false);
    const same = done(takeSurvey(before, { ...taken, disks: [small] }, 'collector', later(160)));
    expect(isSigned(same.signatures, identify(before))).toBe(true);
  });
});
