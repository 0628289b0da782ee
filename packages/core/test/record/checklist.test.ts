import { describe, expect, it } from 'vitest';
import { checklistOf } from '../../src/backup';
import { answerChecklist, type Move } from '../../src/record';
import { catalogue, codesOf, done, laptopSurvey, laptopWith, technician } from '../fixtures/shop';
import { saved } from '../fixtures/story';

describe('the checklist', () => {
  it('adds what the present system and the applications keep to what every device has', () => {
    const facts = laptopWith({
      system: { ...laptopSurvey.system, release: 'corvel-9-business', applications: ['ledgerstone'] },
    });
    const lines = checklistOf(facts, catalogue, [], saved());
    const because = new Set(lines.map((line) => line.because));
    expect(because).toEqual(new Set(['', 'Corvel', 'Ledgerstone Accounts']));
    expect(lines.find(({ id }) => id === 'ledgerstone-licence')?.howToGetItOut).toContain('vault');
    expect(lines.every(({ state }) => state === 'open')).toBe(true);
    expect(new Set(lines.map(({ id }) => id)).size).toBe(lines.length);
  });

  it('answers several lines in one go, each by who and when, and opens one again', () => {
    const line = (move: Move, wanted: string) =>
      checklistOf(move.facts, catalogue, move.dataSets, move).find(({ id }) => id === wanted);
    const answered = done(
      answerChecklist(
        saved(),
        [
          { id: 'fonts', answer: 'none', reason: ' none added ' },
          { id: 'outside-home', answer: 'ask', reason: '' },
        ],
        technician,
      ),
    );
    expect(line(answered, 'fonts')).toMatchObject({
      state: 'not-needed',
      notNeeded: { by: technician.actor.name, reason: 'none added' },
    });
    expect(line(answered, 'outside-home')).toMatchObject({
      state: 'ask',
      asked: { by: technician.actor.name, at: technician.now },
    });
    // The owner has answered: the question goes, and the other line stays as it was.
    const said = done(
      answerChecklist(answered, [{ id: 'outside-home', answer: 'none', reason: '' }], technician),
    );
    expect(line(said, 'outside-home')?.state).toBe('not-needed');
    expect(said.askedOwner).toEqual([]);
    expect(line(said, 'fonts')?.state).toBe('not-needed');
    const open = done(answerChecklist(said, [{ id: 'fonts', answer: 'open', reason: '' }], technician));
    expect(line(open, 'fonts')?.state).toBe('open');
    expect(line(open, 'outside-home')?.state).toBe('not-needed');
  });

  it('takes the last of two answers to one line, and refuses lines that are none or have a data set', () => {
    const twice = done(
      answerChecklist(
        saved(),
        [
          { id: 'fonts', answer: 'ask', reason: '' },
          { id: 'fonts', answer: 'none', reason: '' },
        ],
        technician,
      ),
    );
    expect([twice.notNeeded.length, twice.askedOwner.length]).toEqual([1, 0]);
    expect(
      codesOf(answerChecklist(saved(), [{ id: 'frobs', answer: 'none', reason: '' }], technician)),
    ).toEqual(['no-such-line']);
    const listed = saved();
    const withFonts = { ...listed, dataSets: listed.dataSets.map((set) => ({ ...set, id: 'fonts' })) };
    expect(
      codesOf(answerChecklist(withFonts, [{ id: 'fonts', answer: 'none', reason: '' }], technician)),
    ).toEqual(['already-a-data-set']);
  });
});
