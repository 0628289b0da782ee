import { api, ProblemDetailsSchema, type MoveView } from '@ulvane/contract';
import { thingsToTell } from '@ulvane/core/record';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { TestHouse, type Visitor } from './house';

let house: TestHouse;
let technician: Visitor;
beforeAll(async () => {
  house = await TestHouse.open('demo');
  technician = await house.signedIn('technician');
});
afterAll(() => house.close());

/** The first move of the demo that is still open, and has what is asked for. */
async function openMove(fits: (view: MoveView) => boolean): Promise<MoveView> {
  const { rows } = await technician.call(api.moves, { query: '?pageSize=100' });
  for (const { reference } of rows) {
    const view = await technician.call(api.move, { params: { reference } });
    if (!view.move.handover.signedOff && view.move.calledOff === null && fits(view)) return view;
  }
  throw new Error('the demo has no such move');
}
const problemsOf = (body: unknown) => ProblemDetailsSchema.parse(body).problems.map(({ code }) => code);

describe('answers to what is often forgotten', () => {
  it('are stored in one go, and none of them when one cannot be', async () => {
    const { version, move } = await openMove(({ move: { dataSets } }) =>
      dataSets.every(({ id }) => id !== 'fonts' && id !== 'outside-home'),
    );
    const params = { reference: move.reference };
    const send = (answers: readonly object[]) =>
      technician.at(api.answerChecklist, { params, body: { version, answers } });
    const fonts = { id: 'fonts', answer: 'none', reason: 'none added' };

    const unknown = await send([fonts, { id: 'no-such-line', answer: 'ask' }]);
    expect([unknown.status, problemsOf(unknown.body)]).toEqual([422, ['no-such-line']]);
    const malformed = await send([{ id: 'fonts', answer: 'perhaps' }]);
    expect(malformed.status).toBe(422);
    expect((await send([])).status).toBe(422);
    // Nothing of the three was stored.
    const before = await technician.call(api.move, { params });
    expect([before.version, before.move.notNeeded]).toEqual([version, move.notNeeded]);

    const answered = await technician.call(api.answerChecklist, {
      params,
      body: { version, answers: [fonts, { id: 'outside-home', answer: 'ask', reason: '' }] },
    });
    expect(answered.move.notNeeded).toContainEqual(
      expect.objectContaining({ id: 'fonts', reason: 'none added', by: 'technician' }),
    );
    expect(answered.move.askedOwner.map(({ id, by }) => [id, by])).toContainEqual([
      'outside-home',
      'technician',
    ]);
    // As it was read again from the database, with one line of the log.
    expect((await technician.call(api.move, { params })).move).toEqual(answered.move);
    const { lines } = await technician.call(api.events, { params });
    expect(lines.at(-1)?.sentence).toContain('2 questions of the checklist answered.');
  });
});

describe('what the owner is told', () => {
  it('is one of the sentences that the record says, ticked and withdrawn; another one is refused', async () => {
    const { version, move } = await openMove(({ move: one }) => thingsToTell(one).length > 0);
    const params = { reference: move.reference };
    const sentence = thingsToTell(move)[0]?.sentence ?? '';
    const invented = await technician.at(api.tellOwner, {
      params,
      body: { version, sentence: 'All is well.', told: true },
    });
    expect([invented.status, problemsOf(invented.body)]).toEqual([422, ['nothing-to-tell']]);
    const told = await technician.call(api.tellOwner, { params, body: { version, sentence, told: true } });
    expect(told.move.handover.told).toMatchObject([{ sentence, by: 'technician' }]);
    const withdrawn = await technician.call(api.tellOwner, {
      params,
      body: { version: told.version, sentence, told: false },
    });
    expect(withdrawn.move.handover.told).toEqual([]);
    // Notes of the hand-over leave what was told alone.
    const again = await technician.call(api.tellOwner, {
      params,
      body: { version: withdrawn.version, sentence, told: true },
    });
    const { found, openPoints } = again.move.handover;
    const noted = await technician.call(api.noteHandover, {
      params,
      body: { version: again.version, handover: { found, openPoints: [...openPoints, 'A cable'] } },
    });
    expect(noted.move.handover.told).toEqual(again.move.handover.told);
  });
});
