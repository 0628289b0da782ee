import { describe, expect, it } from 'vitest';
import {
  answerChecklist,
  callOff,
  correctStep,
  depart,
  keepBackup,
  noteHandover,
  overruleGate,
  ownerSheet,
  recordWipe,
  setDataSets,
  setDestinations,
  signOff,
  signStep,
  stagesDone,
  startStep,
  stateWish,
  tooEarly,
  unsignStep,
  type CommandOutcome,
  type Move,
} from '../../src/record';
import { comparedMove } from '../fixtures/compared';
import { documents, done, driveB7, lead, listHead, pictures, technician } from '../fixtures/shop';
import { crossable, later, planned, ready, saved, signThrough, told } from '../fixtures/story';

const typed = '  As it was agreed on the pier.\n';
const written = 'As it was agreed on the pier.';

const kept = (move: Move) =>
  move.destinations.reduce(
    (so, { id, name }) =>
      done(
        keepBackup(
          so,
          { destinationId: id, label: name, place: 'safe', keepUntil: '2026-04-01' },
          technician,
        ),
      ),
    move,
  );
const complete = () => {
  const settled = signThrough(crossable());
  const found = settled.dataSets.map(({ id, fileCount, sizeBytes }) => ({
    dataSetId: id,
    fileCount,
    sizeBytes,
    explanation: '',
  }));
  return told(kept(done(noteHandover(settled, { found, openPoints: [] }, technician))));
};

/** Every command with words of a person, and where those words are kept. */
const commands: Readonly<
  Record<string, readonly [() => CommandOutcome, (move: Move) => string | undefined]>
> = {
  callOff: [() => callOff(saved(), typed, technician), (move) => move.calledOff?.reason],
  overruleGate: [
    () => overruleGate(ready(planned()), 'copies-verified', typed, lead),
    (move) => move.overrules.at(-1)?.reason,
  ],
  signStep: [
    () => signStep(ready(planned()), 'write-stick', { actualMinutes: 9, note: typed }, technician),
    (move) => move.signatures.at(-1)?.note,
  ],
  unsignStep: [
    () => unsignStep(crossable(), 'write-stick', typed, later(90)),
    (move) => move.signatures.at(-1)?.note,
  ],
  correctStep: [
    () => correctStep(crossable(), 'write-stick', typed, later(90)),
    (move) => move.signatures.at(-1)?.note,
  ],
  depart: [
    () => depart(saved(), { setting: 'copiesBeforeLine', value: 1, reason: typed }, technician),
    (move) => move.departures.at(-1)?.reason,
  ],
  answerChecklist: [
    () => answerChecklist(saved(), [{ id: 'fonts', answer: 'none', reason: typed }], technician),
    (move) => move.notNeeded.at(-1)?.reason,
  ],
  recordWipe: [
    () =>
      recordWipe(
        done(signOff(complete(), 'Ticket office', technician)),
        { destinationId: driveB7.id, method: typed },
        technician,
      ),
    (move) => move.retention.find(({ wiped }) => wiped)?.wiped?.method,
  ],
  signOff: [() => signOff(complete(), typed, technician), (move) => move.handover.signedOff?.ownerName],
};

describe('what a person writes', () => {
  it.each(Object.entries(commands))('is kept by %s without the blanks around it', (_name, [run, where]) => {
    const outcome = run();
    expect(where(done(outcome))).toBe(written);
    const line = outcome.ok ? outcome.value.sentence : '';
    expect(line).toContain(written);
    expect(line).not.toContain(typed.trimEnd());
  });
});

describe('a list of files', () => {
  const listed: Move = {
    ...saved(),
    fileLists: [{ ...listHead({ dataSetId: documents.id }), at: technician.now, by: 'Ines' }],
  };
  const after = (change: Partial<typeof documents>) =>
    done(setDataSets(listed, [{ ...documents, ...change }, pictures], technician)).fileLists.length;

  it('goes with the folder that it was made of, and with nothing else', () => {
    expect(listed.fileLists).toHaveLength(1);
    expect(after({ path: '/elsewhere' })).toBe(0);
    expect(after({ place: 'other-disk' })).toBe(0);
    expect(after({ name: 'Papers' })).toBe(1);
    // A new data set beside it is another folder.
    const more = [documents, pictures, { ...documents, id: 'music', name: 'Music' }];
    expect(done(setDataSets(listed, more, technician)).fileLists).toHaveLength(1);
  });
});

describe('a step that is signed', () => {
  const last = (move: Move) => move.signatures.at(-1);

  it('has the minutes that were typed, or those since its start; an earlier start is over', () => {
    const started = done(startStep(ready(planned()), 'write-stick', technician));
    const plainly = { actualMinutes: null, note: 'as planned' };
    expect(last(done(signStep(started, 'write-stick', plainly, later(17))))?.actualMinutes).toBe(17);
    const typedIn = { actualMinutes: 9, note: '' };
    expect(last(done(signStep(started, 'write-stick', typedIn, later(17))))?.actualMinutes).toBe(9);
    const unstarted = done(signStep(ready(planned()), 'write-stick', plainly, later(17)));
    expect(last(unstarted)?.actualMinutes).toBeNull();
    const back = done(unsignStep(unstarted, 'write-stick', 'the wrong stick', later(20)));
    expect(last(done(signStep(back, 'write-stick', plainly, later(50))))?.actualMinutes).toBeNull();
  });

  it('that is over too early says what it takes, and how long ago it was started, if that is known', () => {
    const step = { title: 'Write the stick', waiting: { low: 4, likely: 8, high: 20 } };
    expect(tooEarly(step, null, ' ')).toContain('takes 4 min at least, and its start was not noted');
    expect(tooEarly(step, 3, '')).toContain('takes 4 min at least, and 3 min have gone by');
    expect(tooEarly(step, 4, '')).toBeNull();
    expect(tooEarly(step, 3, 'It was written already.')).toBeNull();
    expect(tooEarly({ ...step, waiting: { low: 0, likely: 1, high: 2 } }, null, '')).toBeNull();
  });

  it('is not signed by copies that a destination does not take', () => {
    const move = planned();
    const none = move.destinations.map((one) => ({ ...one, takes: [] }));
    const empty = done(setDestinations(move, none, technician));
    expect(empty.signatures.filter(({ stepId }) => stepId.startsWith('copy:'))).toEqual([]);
  });
});

describe('why the move is made', () => {
  const sentence = (wish: Parameters<typeof stateWish>[1]) => {
    const outcome = stateWish(saved(), wish, technician);
    return outcome.ok ? outcome.value.sentence : outcome.problems.map(({ code }) => code).join(' ');
  };

  it('is in the log in words, a trial with its last day', () => {
    expect(sentence({ purpose: 'trial', until: '2026-06-01' })).toMatch(
      /^Why the move is made: .+, 2026-06-01\.$/,
    );
    expect(sentence({ purpose: 'support-ends', until: null })).not.toMatch(/\d|null/);
    expect(sentence(null)).toBe('Why the move is made: not stated any more.');
    expect(sentence({ purpose: 'trial', until: '2026-03-02' })).toBe('hold-is-over');
  });
});

describe('a move that was handed over', () => {
  it('has its last stages done, and not before', () => {
    const over = (move: Move) =>
      [...stagesDone(move, technician.houseRules)].filter((one) => one === 'hand-over' || one === 'done');
    expect(over(complete())).toEqual([]);
    expect(over(done(signOff(complete(), 'Ticket office', technician)))).toEqual(['hand-over', 'done']);
  });

  it('waits for every data set, and names the first that is open', () => {
    const settled = signThrough(crossable());
    const step = settled.plan?.runbook.steps.find(({ kind }) => kind === 'reconcile');
    const refused = signStep(settled, step?.id ?? '', { actualMinutes: 9, note: 'all fine' }, technician);
    expect(refused.ok ? '' : refused.problems[0]?.sentence).toMatch(
      new RegExp(`^2 data sets are not accounted for, first ${settled.dataSets[0]?.name ?? ''}: `),
    );
  });
});

describe('an empty drive', () => {
  it('has as many bytes free as it has', () => {
    const empty = { ...driveB7, freeBytes: driveB7.capacityBytes };
    expect(done(setDestinations(saved(), [empty], technician)).destinations).toHaveLength(1);
  });
});

describe('the owner’s sheet', () => {
  const sheetOf = (move: Move) =>
    ownerSheet(move, technician, {
      files: [],
      fileCount: 0,
      organisation: 'Marram Coast Ferries',
      today: '2026-03-02',
      record: { number: 1, code: '00' },
    });

  it('is no draft any more once every file of every data set is accounted for', () => {
    expect(sheetOf(comparedMove({ a: '1' }, {})).draft).toBe(true);
    expect(sheetOf(complete()).draft).toBe(false);
  });
});
