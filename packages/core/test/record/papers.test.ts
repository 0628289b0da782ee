import { describe, expect, it } from 'vitest';
import {
  conflictingParts,
  differenceCount,
  handoverSheet,
  partWords,
  partsTouched,
  prepare,
  proofOf,
  reconciledSentence,
  setDataSets,
  setDestinations,
  thingsToTell,
  type Move,
} from '../../src/record';
import { documents, done, emptyMove, laptop, now, technician } from '../fixtures/shop';
import { reconciled } from '../fixtures/said';
import { saved } from '../fixtures/story';

const by = { at: now, by: 'Ines' };

describe('differences in one line', () => {
  it('are counted, and everything but the same is one', () => {
    const one = reconciled({ same: 8000, missing: 1, renamed: 2 }, { noise: 3, explained: 1, open: 1200 });
    expect(differenceCount(one)).toBe(3);
    expect(reconciledSentence(one)).toBe(
      '8,000 the same, 2 renamed, 1 missing; 3 made by the system itself, 1 explained, 1,200 open',
    );
    expect(reconciledSentence(reconciled({}))).toBe('no files');
    expect(reconciledSentence(reconciled({ same: 1 }))).toBe('1 the same');
  });
});

describe('what the owner is told', () => {
  it('is each kind of difference, open points, and until when a file can be brought back', () => {
    const move: Move = {
      ...saved(),
      reconciled: [
        reconciled({ same: 1, missing: 1, renamed: 2 }),
        { ...reconciled({ merged: 1 }), dataSetId: 'pictures' },
      ],
      retention: [
        { destinationId: 'b-07', label: 'L1', place: 'shelf', keepUntil: '2026-05-01', wiped: null },
        { destinationId: 'pier-store', label: 'L2', place: 'rack', keepUntil: '2026-04-01', wiped: null },
      ],
      handover: { ...saved().handover, openPoints: ['The printer.'] },
    };
    const sentences = thingsToTell(move).map(({ sentence }) => sentence);
    expect(sentences).toContain('The system was installed anew: some settings have to be made again.');
    expect(sentences).toContain('Still open: The printer.');
    // The earlier of the two days.
    expect(sentences.at(-1)).toBe(
      'The backup on B-07, Pier store is kept until 2026-04-01; after that day no file can be brought back.',
    );
    const held: Move = { ...move, decision: null, retention: [], handover: saved().handover };
    expect(
      thingsToTell(held)
        .map(({ sentence }) => sentence)
        .join(),
    ).not.toContain('installed anew');
    expect(
      thingsToTell(held)
        .map(({ sentence }) => sentence)
        .join(),
    ).not.toContain('The backup on');
  });
});

describe('the sheet of a hand-over', () => {
  const house = { catalogue: technician.catalogue, houseRules: technician.houseRules };
  const line = (move: Move, key: string) =>
    handoverSheet(move, house).identity.find(([name]) => name === key)?.[1];
  it('says what is known of device and way, and that the rest is not', () => {
    expect(line(saved(), 'From')).toBe('Corvel 9 Business');
    expect(line(saved(), 'To')).toBe('Corvel 10 Business');
    expect(line(saved(), 'Disks')).toContain('…9C2E 256.1 GB');
    const blank = ['Serial', 'Disks', 'Owner', 'From', 'To', 'Route'].map((key) => line(emptyMove, key));
    expect(blank).toEqual(['unknown', 'unknown', 'not named', 'unknown', 'not chosen', 'not chosen']);
    expect(line({ ...emptyMove, owner: 'Jon', site: '' }, 'Owner')).toBe('Jon');
    const unlisted = {
      ...emptyMove,
      facts: { ...laptop, presentRelease: { value: 'own-1', source: 'typed', ...by } },
    } as Move;
    expect(line(unlisted, 'From')).toBe('own-1');
    const decision = saved().decision;
    const replaced: Move = {
      ...saved(),
      decision: decision && { ...decision, routeId: 'replace', releaseId: null },
    };
    expect(line(replaced, 'To')).toBe('Replace the device');
  });

  it('names who overruled what, each copy, and what became of the backups', () => {
    const move: Move = {
      ...saved(),
      overrules: [{ gateId: 'power', reason: 'Fixed to the desk.', at: now, by: 'Maud' }],
      copies: [
        { dataSetId: 'documents', destinationId: 'b-07', verifiedAt: now, verifiedBy: 'Ines' },
        { dataSetId: 'documents', destinationId: 'gone', verifiedAt: now, verifiedBy: 'Ines' },
      ],
      retention: [
        { destinationId: 'b-07', label: 'L1', place: 'shelf', keepUntil: '2026-05-01', wiped: null },
        {
          destinationId: 'pier-store',
          label: 'L2',
          place: 'rack',
          keepUntil: '2026-04-01',
          wiped: { method: 'overwritten', ...by },
        },
      ],
    };
    const sheet = handoverSheet(move, house);
    expect(sheet.overrules).toEqual(['On its charger: overruled by Maud, 2026-03-02: Fixed to the desk.']);
    expect(sheet.copies).toHaveLength(1);
    expect(sheet.copies[0]).toMatch(/^Documents: B-07 .*; gone /);
    expect(sheet.backups).toEqual([
      'L1: shelf; kept until 2026-05-01, then wiped.',
      'L2: rack; wiped on 2026-03-02 by Ines, overwritten.',
    ]);
    expect(sheet.files.map(({ name, after }) => [name, after])).toEqual([
      ['Documents', 'not counted'],
      ['Pictures', 'not counted'],
    ]);
  });
});

describe('parts of a move', () => {
  it('are called by the words of the page', () => {
    expect(partWords('facts/cores')).toBe('the survey');
    expect(partWords('signatures/boot')).toBe('the steps of the runbook');
    expect(partWords('owner')).toBe('the move');
    expect(partWords('')).toBe('the move');
  });

  it('are told one by one: facts, notes, entries of lists', () => {
    const move = saved();
    expect(partsTouched(move, move)).toEqual([]);
    expect(partsTouched(move, done(prepare(move, { power: {} }, technician)))).toEqual(['preparation/power']);
    expect(partsTouched(move, { ...move, owner: 'Jon' })).toEqual(['owner']);
    const fewer = done(setDataSets(done(setDestinations(move, [], technician)), [documents], technician));
    expect(partsTouched(move, fewer).toSorted()).toEqual([
      'dataSets/pictures',
      'destinations/b-07',
      'destinations/pier-store',
    ]);
  });

  it('conflict where somebody else changed what this was decided by', () => {
    const move = saved();
    const chosen: Move = { ...move, decision: move.decision && { ...move.decision, reason: 'Other.' } };
    const conflict = (versions: Record<string, number>, seen: number, after = chosen) =>
      conflictingParts(move, after, versions, seen);
    expect(conflict({ 'facts/cores': 5 }, 5)).toEqual([]);
    expect(conflict({ 'facts/cores': 6 }, 5)).toEqual(['facts/cores']);
    expect(conflict({ 'preparation/power': 6 }, 5)).toEqual([]);
    expect(conflict({ '*': 6 }, 5)).toEqual(['decision', '*']);
    // What closes the record was decided by all of it.
    const calledOff: Move = { ...move, calledOff: { reason: 'Mistake.', ...by } };
    expect(conflict({ 'preparation/power': 6, owner: 4 }, 5, calledOff)).toEqual(['preparation/power']);
  });
});

describe('a line of the log', () => {
  it('is a statement unless its kind says more', () => {
    expect(proofOf({ kind: 'copy-compared' })).toBe('compared');
    expect(proofOf({ kind: 'no-such-kind' as never })).toBe('stated');
  });
});
