import { describe, expect, it } from 'vitest';
import { defaultHouseRules } from '../../src/rules';
import { stageOf, stagesDone, type Move } from '../../src/record';
import { completeness } from '../../src/survey';
import { emptyMove, now } from '../fixtures/shop';
import { crossable, planned, saved, signThrough, surveyed } from '../fixtures/story';

const done = (move: Move) => [...stagesDone(move, defaultHouseRules)];

describe('a stage is done', () => {
  it('not before anything is known, and not with a fact unknown, wherever the move is', () => {
    expect(done(emptyMove)).toEqual([]);
    const move = surveyed();
    expect(completeness(move.facts).unknowns.length > 0).toBe(!done(move).includes('survey'));
    const { memoryBytes: _unknown, ...facts } = move.facts;
    const unknown = { ...saved(), facts };
    expect(stageOf(unknown)).not.toBe('survey');
    expect(done(unknown)).not.toContain('survey');
    expect(done(unknown)).toContain('decide');
  });

  it('not with a copy missing, or one that differs', () => {
    expect(done(saved())).not.toContain('save');
    expect(done(planned())).not.toContain('save');
    const ready = crossable();
    expect(done(ready)).toEqual(expect.arrayContaining(['decide', 'save', 'prepare']));
    const [copy] = ready.copies;
    if (!copy) throw new Error('copies are compared by then');
    expect(done({ ...ready, copies: ready.copies.slice(1) })).not.toContain('save');
    const { dataSetId, destinationId } = copy;
    const failed = { dataSetId, destinationId, at: now, by: 'Ines', count: 1, files: [] };
    expect(done({ ...ready, failedChecks: [failed] })).not.toContain('save');
  });

  it('with all of its steps signed', () => {
    expect(done(crossable())).not.toContain('cross');
    const settled = signThrough(crossable());
    expect(done(settled)).toEqual(expect.arrayContaining(['cross', 'settle']));
    expect(done(settled)).not.toContain('hand-over');
  });
});
