import { api, MoveViewSchema, ProblemDetailsSchema, type MoveView } from '@ulvane/contract';
import { defaultHouseRules } from '@ulvane/core/rules';
import { exportMove, readPlan } from '@ulvane/core/record';
import { isSigned } from '@ulvane/core/runbook';
import { surveyLimitBytes, type Survey } from '@ulvane/core/survey';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { now, TestHouse, type Visitor } from './house';

let house: TestHouse;
let technician: Visitor;
let lead: Visitor;

beforeAll(async () => {
  house = await TestHouse.open('demo');
  technician = await house.signedIn('technician');
  lead = await house.signedIn('lead');
});
afterAll(() => house.close());

const survey: Survey = {
  format: 'ulvane-survey',
  version: 1,
  takenAt: '2026-03-02T09:00:00.000Z',
  device: { maker: 'Kestle', model: 'Sill', serial: 'KS-TEST-1', chassis: 'desktop' },
  memoryBytes: 8 * 1024 ** 3,
};

const problem = (body: unknown) => ProblemDetailsSchema.parse(body);
const at = ({ move, version }: MoveView) => ({ params: { reference: move.reference }, version });

async function started(): Promise<MoveView> {
  return technician.call(api.addMove, {
    body: { owner: 'Ines', site: 'Stannick', dueOn: '2026-03-20', surveyText: JSON.stringify(survey) },
  });
}

/** The first move of the demo in a stage. */
async function inStage(stage: string): Promise<MoveView> {
  const { rows } = await technician.call(api.moves, { query: `?stage=${stage}` });
  return technician.call(api.move, { params: { reference: rows[0]?.reference ?? '' } });
}

describe('a move', () => {
  it('starts from a survey, with facts, reference and log', async () => {
    const { move, version } = await started();
    expect(version).toBe(1);
    expect(move.reference).toMatch(/^MV-\d{4}$/);
    expect(move.facts.serial?.value).toBe('KS-TEST-1');
    const { lines: events } = await technician.call(api.events, { params: { reference: move.reference } });
    expect(events.map(({ by, kind }) => [by, kind])).toEqual([
      ['technician', 'move-started'],
      ['technician', 'survey-taken'],
    ]);
  });

  it('tells of a device with the same serial before another is started', async () => {
    const { move } = await started();
    const preview = await technician.call(api.previewSurvey, {
      body: { text: JSON.stringify({ ...survey, device: { serial: 'ks-test-1' } }), reference: null },
    });
    expect(preview.sameSerial).toBe(move.reference);
  });

  it('previews what a new survey changes without taking it', async () => {
    const view = await started();
    const text = JSON.stringify({ ...survey, memoryBytes: 16 * 1024 ** 3 });
    const preview = await technician.call(api.previewSurvey, {
      body: { text, reference: view.move.reference },
    });
    expect(preview.changes.map(({ label, before }) => [label, before])).toEqual([
      ['Memory', '8.6 GB (8.0 GiB)'],
    ]);
    expect((await technician.call(api.move, { params: at(view).params })).version).toBe(1);
    const taken = await technician.call(api.takeSurvey, {
      params: at(view).params,
      body: { version: 1, text },
    });
    expect(taken.move.facts.memoryBytes?.value).toBe(16 * 1024 ** 3);
    expect(taken.move.surveys).toHaveLength(2);
  });

  it.each([
    ['truncated', '{"format":"ulvane-survey"', 422, 'survey-truncated'],
    ['newer', JSON.stringify({ ...survey, version: 9 }), 422, 'survey-newer'],
    ['oversized', `"${'x'.repeat(surveyLimitBytes)}"`, 413, 'survey-too-large'],
  ])('refuses a survey that is %s, and starts nothing', async (_what, text, status, code) => {
    const before = (await technician.call(api.moves)).total;
    const answer = await technician.at(api.addMove, {
      body: { owner: '', site: '', dueOn: null, surveyText: text },
    });
    expect(answer.status).toBe(status);
    expect(problem(answer.body).problems[0]?.code).toBe(code);
    expect((await technician.call(api.moves)).total).toBe(before);
  });

  it('takes typed facts, refuses unfit ones, and knows no others', async () => {
    const view = await started();
    const type = (key: string, value: unknown) =>
      technician.at(api.typeFact, { params: { ...at(view).params, key }, body: { version: 1, value } });
    expect((await type('cores', 'many')).status).toBe(422);
    expect((await type('colour', 'red')).status).toBe(404);
    expect((await type('cores', 4)).status).toBe(200);
    const forgotten = await technician.call(api.forgetFact, {
      params: { ...at(view).params, key: 'cores' },
      body: { version: 2 },
    });
    expect(forgotten.move.facts.cores).toBeUndefined();
  });
});

describe('a move started by mistake', () => {
  it('is called off with a reason, leaves Today, takes no change, and is resumed', async () => {
    const view = await started();
    const open = async () => (await technician.call(api.today)).open;
    const before = await open();
    expect(
      (
        await technician.at(api.callOff, {
          params: at(view).params,
          body: { version: view.version, reason: ' ' },
        })
      ).status,
    ).toBe(422);
    const off = await technician.call(api.callOff, {
      params: at(view).params,
      body: { version: view.version, reason: 'The device was scrapped.' },
    });
    expect(await open()).toBe(before - 1);
    const refused = await technician.at(api.typeFact, {
      params: { ...at(view).params, key: 'cores' },
      body: { version: off.version, value: 2 },
    });
    expect(problem(refused.body).detail).toContain('was called off by technician: resume it first.');
    const back = await technician.call(api.resume, {
      params: at(view).params,
      body: { version: off.version },
    });
    expect([back.move.calledOff, await open()]).toEqual([null, before]);
    const { lines } = await technician.call(api.events, { params: at(view).params });
    expect(lines.slice(-2).map(({ sentence }) => sentence)).toEqual([
      'Called off: The device was scrapped.',
      'Resumed.',
    ]);
  });
});

describe('two people', () => {
  it('who sign the same step get one success and one clear conflict', async () => {
    const view = await inStage('prepare').then(async (found) =>
      found.move.plan ? found : technician.call(api.plan, { ...at(found), body: { version: found.version } }),
    );
    const reading = readPlan(view.move, await technician.call(api.house));
    const stepId = reading?.standings.find(({ state }) => state === 'open')?.stepId ?? '';
    const sign = (visitor: Visitor) =>
      visitor.at(api.signStep, {
        params: { reference: view.move.reference, stepId },
        body: { version: view.version, actualMinutes: 4, note: '' },
      });
    const answers = await Promise.all([sign(technician), sign(lead)]);
    expect(answers.map(({ status }) => status).sort()).toEqual([200, 409]);
    const refused = problem(answers.find(({ status }) => status === 409)?.body);
    expect(refused.detail).toMatch(/was signed by (technician|lead)/);
    expect(refused.detail).toContain('Your change was not saved');
    const after = await technician.call(api.move, { params: { reference: view.move.reference } });
    expect(
      after.move.signatures.filter((line) => line.stepId === stepId && line.action === 'sign'),
    ).toHaveLength(1);
  });

  it('who change two parts of it both succeed; in the same part the second is told which', async () => {
    const view = await started();
    const type = (visitor: Visitor, key: string, value: number) =>
      visitor.at(api.typeFact, {
        params: { ...at(view).params, key },
        body: { version: view.version, value },
      });
    expect((await type(lead, 'cores', 2)).status).toBe(200);
    const other = await type(technician, 'clockMhz', 1200);
    expect(other.status).toBe(200);
    const both = MoveViewSchema.parse(other.body);
    expect([both.version, both.move.facts.cores?.value, both.move.facts.clockMhz?.value]).toEqual([
      view.version + 2,
      2,
      1200,
    ]);
    const same = await type(technician, 'cores', 8);
    expect(same.status).toBe(409);
    // By the change that collided, not by the last one: the clock was typed after it.
    expect(problem(same.body).detail).toMatch(
      /^The survey changed since you opened the page\. lead, [^:]+:\d\d[^:]*: [^.]*[Cc]ores[^.]*\./,
    );
    expect(problem(same.body).detail).not.toContain('1200');
    const after = await technician.call(api.move, at(view));
    expect([after.version, after.move.facts.cores?.value]).toEqual([view.version + 2, 2]);
  });

  it('who change a move at once get one change and one line of the log for it', async () => {
    const view = await started();
    const change = (owner: string) =>
      technician.at(api.setIdentity, {
        params: at(view).params,
        body: { version: 1, owner, site: '', dueOn: null },
      });
    const answers = await Promise.all(
      Array.from({ length: 8 }, (_unused, index) => change(`Owner ${index}`)),
    );
    expect(answers.filter(({ status }) => status === 200)).toHaveLength(1);
    expect(answers.filter(({ status }) => status === 409)).toHaveLength(7);
    const { lines: events } = await technician.call(api.events, { params: at(view).params });
    expect(events.filter(({ kind }) => kind === 'identity-set')).toHaveLength(1);
  });

  it('who edit house rules at once do not overwrite each other', async () => {
    const { houseRulesVersion } = await lead.call(api.house);
    const set = (keepBackupDays: number) =>
      lead.at(api.setHouseRules, {
        body: { version: houseRulesVersion, houseRules: { ...defaultHouseRules, keepBackupDays } },
      });
    const statuses = [(await set(14)).status, (await set(21)).status];
    expect(statuses).toEqual([200, 409]);
    await lead.call(api.setHouseRules, {
      body: { version: houseRulesVersion + 1, houseRules: defaultHouseRules },
    });
  });
});

describe('the Line', () => {
  it('is kept by the server, whatever the page shows', async () => {
    const found = (await technician.call(api.moves, { query: '?stage=save&pageSize=200' })).rows;
    const views = await Promise.all(
      found.map(({ reference }) => technician.call(api.move, { params: { reference } })),
    );
    const view = views.find(({ move }) => move.plan?.runbook.lineIndex != null);
    const step = view?.move.plan?.runbook.steps.find(({ destructive }) => destructive);
    if (!view || !step) throw new Error('the demo has no planned move in Save');
    const answer = await lead.at(api.signStep, {
      params: { reference: view.move.reference, stepId: step.id },
      body: { version: view.version, actualMinutes: null, note: '' },
    });
    expect(answer.status).toBe(422);
    expect(problem(answer.body).problems[0]?.code).toBe('step-locked');
  });
});

describe('a copy that was timed', () => {
  it('is of the house once its step is signed with its minutes, and no more when that is taken back', async () => {
    const { rows } = await technician.call(api.moves, { query: '?pageSize=100' });
    const minutes = 4321;
    const timed = async () =>
      (await technician.call(api.house)).timedCopies.filter((copy) => copy.minutes === minutes);
    expect(await timed()).toEqual([]);
    for (const { reference } of rows) {
      const { version, move } = await technician.call(api.move, { params: { reference } });
      const stepId = move.plan?.runbook.steps.find(
        ({ id, title }) =>
          id.startsWith('copy:') && title.startsWith('Copy ') && !isSigned(move.signatures, id),
      )?.id;
      if (!stepId || move.handover.signedOff) continue;
      const signed = await technician.call(api.signStep, {
        params: { reference, stepId },
        body: { version, actualMinutes: minutes, note: '' },
      });
      const destination = move.destinations.find(({ id }) => stepId === `copy:${id}`);
      expect(await timed()).toMatchObject([
        { serial: destination?.serial, link: destination?.link, medium: destination?.medium },
      ]);
      await technician.call(api.unsignStep, {
        params: { reference, stepId },
        body: { version: signed.version, reason: 'the wrong drive' },
      });
      expect(await timed()).toEqual([]);
      return;
    }
    throw new Error('the demo has no copy step that is open');
  });
});

describe('the log', () => {
  it('is append-only by the database itself', async () => {
    await expect(house.sql(`UPDATE event SET sentence = 'never happened' WHERE id = 1`)).rejects.toThrow(
      'append-only',
    );
    await expect(house.sql('DELETE FROM event')).rejects.toThrow('append-only');
    await expect(house.sql('TRUNCATE event')).rejects.toThrow('append-only');
  });
});

describe('a move file', () => {
  it('goes out of one house and into another, and is the same there', async () => {
    const { rows } = await technician.call(api.moves, { query: '?stage=done' });
    const reference = rows[0]?.reference ?? '';
    const document = await technician.call(api.exportMove, { params: { reference } });
    const other = await TestHouse.open('empty');
    try {
      const setUp = await other.visitor().at(api.setUp, {
        body: {
          token: other.running.seeded.setUpToken,
          organisation: 'Other',
          name: 'Maud',
          password: 'a long password',
        },
      });
      expect(setUp.status).toBe(200);
      const maud = await other.signedIn('Maud', 'a long password');
      const { move } = await maud.call(api.importMove, { body: document });
      expect(move).toEqual(document.move);
      // Its log came along, never as the other house's own; that house's own first line says where it is from.
      const there = await maud.call(api.exportMove, { params: { reference } });
      expect(there.move).toEqual(document.move);
      expect(there.events.slice(0, -1)).toEqual(
        document.events.map((event) => ({ ...event, importedBy: 'Maud' })),
      );
      expect(there.events.at(-1)).toMatchObject({ by: 'Maud', kind: 'move-imported' });
      expect(there.events.at(-1)?.importedBy).toBeUndefined();
      const again = await maud.at(api.importMove, { body: document });
      expect([again.status, problem(again.body).problems[0]?.code]).toEqual([409, 'move-here']);
    } finally {
      await other.close();
    }
  });

  it('gets another reference where its own is taken, and loses nothing else', async () => {
    const { move } = await started();
    const foreign = exportMove({ ...move, id: '11111111-2222-4333-8444-555555555555' }, [
      { at: now, by: 'Odd', kind: 'move-started', sentence: 'Move started.' },
    ]);
    const { move: taken } = await technician.call(api.importMove, { body: foreign });
    expect(taken.reference).not.toBe(move.reference);
    expect({ ...taken, reference: '' }).toEqual({ ...foreign.move, reference: '' });
  });

  it('is refused when it is damaged, with every place, and nothing is imported', async () => {
    const { move } = await started();
    const answer = await technician.at(api.importMove, {
      body: { ...exportMove(move, []), move: { ...move, signatures: 'gone', copies: 3 } },
    });
    expect(answer.status).toBe(422);
    expect(problem(answer.body).problems.map(({ path }) => path)).toEqual([
      '/move/copies',
      '/move/signatures',
    ]);
  });
});

describe('the lists', () => {
  it('search every word, filter, sort both ways and page', async () => {
    const found = await technician.call(api.moves, {
      query: '?search=kestle%20stannick&sort=serial&order=desc&pageSize=3',
    });
    expect(found.rows.length).toBeLessThanOrEqual(3);
    for (const { device, site } of found.rows)
      expect([device.includes('Kestle'), site]).toEqual([true, 'Stannick']);
    const serials = found.rows.map(({ serial }) => serial);
    expect(serials).toEqual([...serials].sort().reverse());
    const all = await technician.call(api.moves, { query: '?pageSize=200' });
    const paged = [];
    for (let page = 1; paged.length < all.total; page += 1)
      paged.push(...(await technician.call(api.moves, { query: `?pageSize=20&page=${page}` })).rows);
    expect(paged.map(({ reference }) => reference)).toEqual(all.rows.map(({ reference }) => reference));
  });

  it('take a percent sign and an underscore as what they are', async () => {
    expect((await technician.call(api.moves, { query: '?search=%25' })).total).toBe(0);
    expect((await technician.call(api.moves, { query: '?search=_' })).total).toBe(0);
  });

  it('show today what is over first', async () => {
    const { hands, stages } = await technician.call(api.today);
    expect(hands[0]?.inMinutes).toBeLessThanOrEqual(0);
    expect(stages.reduce((sum, { count }) => sum + count, 0)).toBe((await technician.call(api.moves)).total);
  });
});

describe('files to take along', () => {
  it('hand out the collector and a hand-over sheet in PDF', async () => {
    expect((await technician.at(api.collector)).body).toContain('#!/bin/sh');
    const { rows } = await technician.call(api.moves, { query: '?stage=done' });
    const sheet = await technician.at(api.handoverPdf, { params: { reference: rows[0]?.reference ?? '' } });
    expect(sheet.headers.get('content-type')).toBe('application/pdf');
    expect(String(sheet.body).startsWith('%PDF-')).toBe(true);
  });
});

describe('bad requests', () => {
  it('are problem details that say what to do', async () => {
    const malformed = await technician.raw('POST', '/moves', '{"owner":');
    expect([malformed.status, problem(malformed.body).problems[0]?.code]).toEqual([400, 'not-json']);
    const missing = await technician.at(api.move, { params: { reference: 'MV-9999' } });
    expect([missing.status, problem(missing.body).detail]).toEqual([404, 'There is no move MV-9999.']);
    const nowhere = await technician.raw('GET', '/nowhere');
    expect([nowhere.status, problem(nowhere.body).instance]).toEqual([404, '/api/v1/nowhere']);
    const large = await technician.raw('POST', '/moves', { owner: 'x'.repeat(17 * 1024 * 1024) });
    expect(large.status).toBe(413);
  });
});
