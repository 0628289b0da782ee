import { describe, expect, it } from 'vitest';
import { MoveSchema, partsTouched, readAnswerSheet, tickAnswer, type Move } from '../../src/record';
import { sheetLines, tickOf } from '../../src/runbook';
import { codesOf, done, technician } from '../fixtures/shop';
import { later, saved, surveyed } from '../fixtures/story';

const linesOf = (move: Move) => {
  const sheet = readAnswerSheet(move, technician);
  return sheet ? sheetLines(sheet) : [];
};
const lineOf = (move: Move, id: string) => {
  const line = linesOf(move).find((one) => one.id === id);
  if (!line) throw new Error(`the sheet has no line ${id}`);
  return line;
};
const tick = (move: Move, page: string, answer: string, ticked = true) =>
  tickAnswer(move, { page, answer, ticked }, later(5));

describe('a tick on the answer sheet', () => {
  it('is kept with its words, who gave it and when, and is withdrawn again', () => {
    const move = saved();
    const line = lineOf(move, 'language');
    const ticked = done(tick(move, line.id, line.words));
    expect(ticked.answers).toEqual([
      { page: 'language', answer: line.words, at: later(5).now, by: technician.actor.name },
    ]);
    expect(MoveSchema.parse(JSON.parse(JSON.stringify(ticked))).answers).toEqual(ticked.answers);
    expect(partsTouched(move, ticked)).toEqual(['answers/language']);
    // Twice is once.
    expect(done(tick(ticked, line.id, line.words)).answers).toHaveLength(1);
    expect(done(tick(ticked, line.id, line.words, false)).answers).toEqual([]);
  });

  it('is refused for words that the sheet does not say, for a line that it has not, and without a sheet', () => {
    const move = saved();
    expect(codesOf(tick(move, 'language', 'Klingon'))).toEqual(['answer-changed']);
    expect(codesOf(tick(move, 'swap', 'none'))).toEqual(['no-such-page']);
    expect(codesOf(tick(surveyed(), 'language', 'English'))).toEqual(['no-such-page']);
  });

  it('counts no more once the answer is another, and can be given again', () => {
    const move = saved();
    const before = lineOf(move, 'network');
    const ticked = done(tick(move, before.id, before.words));
    expect(tickOf(ticked.answers, before)).toBeDefined();
    const departures = [
      {
        setting: 'networkDuringSetup' as const,
        value: 'online',
        reason: 'Its owner is far away.',
        at: technician.now,
        by: 'Ines',
      },
    ];
    const online: Move = { ...ticked, departures };
    const after = lineOf(online, 'network');
    expect(after.words).not.toBe(before.words);
    expect(tickOf(online.answers, after)).toBeUndefined();
    const again = done(tick(online, after.id, after.words));
    expect(again.answers).toHaveLength(1);
    expect(tickOf(again.answers, after)).toBeDefined();
  });

  it('can be given to every line of a sheet, each with words of its own', () => {
    const lines = linesOf(saved());
    expect(lines.length).toBeGreaterThan(10);
    expect(new Set(lines.map(({ id }) => id)).size).toBe(lines.length);
    const all = lines.reduce((move, { id, words }) => done(tick(move, id, words)), saved());
    expect(lines.every((line) => tickOf(all.answers, line) !== undefined)).toBe(true);
  });
});
