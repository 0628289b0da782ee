import { describe, expect, it } from 'vitest';
import type { DataSet } from '../../src/backup';
import { addMinutes } from '../../src/quantity';
import {
  accountFor,
  beforeSignOff,
  exportMove,
  handoverSheet,
  handsOf,
  importMove,
  keepBackup,
  type Move,
  noteHandover,
  setIdentity,
  signOff,
  signStep,
  stageOf,
  tellOwner,
  thingsToTell,
  typeFact,
} from '../../src/record';
import { isSigned } from '../../src/runbook';
import { nextUp } from '../../src/schedule';
import { surveyed, planned, later, signThrough, crossable, told } from '../fixtures/story';
import { codesOf, documents, done, emptyMove, lead, now, pictures, technician } from '../fixtures/shop';

describe('handing over', () => {
  const settled = () => signThrough(crossable());
  const found = [documents, pictures].map(({ id, fileCount, sizeBytes }) => ({
    dataSetId: id,
    fileCount,
    sizeBytes,
    explanation: '',
  }));
  const notes = {
    found,
    openPoints: ['Second screen cable'],
  };
  /** Both drives of the story, with label, place and last day. */
  const kept = (move: Move) =>
    move.destinations.reduce(
      (so, { id, name }) =>
        done(
          keepBackup(
            so,
            { destinationId: id, label: name, place: 'office safe', keepUntil: '2026-04-01' },
            technician,
          ),
        ),
      move,
    );

  it('accounts for every data set exactly once', () => {
    const counted = (line: object, ...dataSets: readonly DataSet[]) =>
      accountFor({
        dataSets,
        fileLists: [],
        reconciled: [],
        handover: {
          found: [{ dataSetId: 'documents', fileCount: 1, sizeBytes: 1, explanation: '', ...line }],
        },
      });
    expect(
      counted({ fileCount: documents.fileCount - 3, sizeBytes: documents.sizeBytes }, documents, pictures),
    ).toMatchObject([
      { dataSetId: 'documents', by: 'count', state: 'open', fileDifference: -3, byteDifference: 0 },
      { dataSetId: 'pictures', by: 'nothing', state: 'open', fileDifference: null, byteDifference: null },
    ]);
    expect(counted({ explanation: 'Left out, says the owner.' }, documents)[0]?.state).toBe('explained');
  });

  it('waits for every step, every file and the backup’s fate, and says all at once', () => {
    expect(beforeSignOff(planned()).map(({ code }) => code)).toEqual([
      'steps-open',
      'files-open',
      'files-open',
      'backup-not-noted',
      'backup-not-noted',
      'owner-not-told',
    ]);
    expect(codesOf(signOff(planned(), 'Ticket office', technician))).toHaveLength(6);
    expect(beforeSignOff(surveyed()).map(({ code }) => code)).toEqual(['no-plan']);
  });

  it('signs the step that accounts for every file by itself, and opens it again when something is missing', () => {
    const move = settled();
    const step = move.plan?.runbook.steps.find(({ kind }) => kind === 'reconcile');
    const signedIn = (one: Move) => isSigned(one.signatures, step?.id ?? '');
    expect(signedIn(move)).toBe(false);
    const byHand = signStep(move, step?.id ?? '', { actualMinutes: 9, note: 'all fine' }, technician);
    expect(codesOf(byHand)).toEqual(['not-noted']);
    const whole = done(noteHandover(move, notes, technician));
    expect(signedIn(whole)).toBe(true);
    expect(whole.signatures.at(-1)?.note).toContain('by itself');
    const lacking = {
      ...notes,
      found: notes.found.map((line) => ({ ...line, fileCount: line.fileCount - 1 })),
    };
    const open = done(noteHandover(whole, lacking, technician));
    expect(signedIn(open)).toBe(false);
    const explained = {
      ...lacking,
      found: lacking.found.map((line) => ({ ...line, explanation: 'Left out.' })),
    };
    expect(signedIn(done(noteHandover(open, explained, technician)))).toBe(true);
    // Not before the steps above it are signed.
    expect(signedIn(done(noteHandover(crossable(), notes, technician)))).toBe(false);
  });

  it('says what the owner has to be told from the record, and again when that changes', () => {
    const noted = kept(done(noteHandover(settled(), notes, technician)));
    const sentences = (move: Move) => thingsToTell(move).map(({ sentence }) => sentence);
    expect(sentences(noted)).toEqual([
      'The system was installed anew: some settings have to be made again.',
      'Still open: Second screen cable',
      'The backup on B-07, Pier store is kept until 2026-04-01; after that day no file can be brought back.',
    ]);
    // A second system can be removed again: the owner is told how, and of no other route.
    const beside = {
      ...noted,
      decision: noted.decision && { ...noted.decision, routeId: 'beside-same-disk' as const },
    };
    expect(
      sentences(beside).filter((sentence) => sentence.startsWith('To remove the second system')),
    ).toHaveLength(1);
    expect(sentences(noted).join(' ')).not.toContain('second system');
    // Written twice it is told once; more than four backups are counted, not read out.
    expect(
      sentences({ ...noted, handover: { ...noted.handover, openPoints: ['A cable', 'A cable'] } }).filter(
        (sentence) => sentence.includes('A cable'),
      ),
    ).toHaveLength(1);
    const five = ['1', '2', '3', '4', '5'].map((id) => ({
      destinationId: id,
      label: id,
      place: 'safe',
      keepUntil: '2026-04-01',
      wiped: null,
    }));
    expect(sentences({ ...noted, retention: five }).at(-1)).toContain(
      'The backup on 1, 2, 3 and 2 more is kept',
    );
    const all = told(noted);
    expect(all.handover.told).toHaveLength(3);
    expect(all.handover.told[0]).toMatchObject({ by: technician.actor.name, at: technician.now });
    // Kept longer: that sentence is another one, and the other two stay told.
    const longer = done(
      keepBackup(
        done(
          keepBackup(
            all,
            { destinationId: 'b-07', label: 'B-07', place: 'safe', keepUntil: '2026-05-01' },
            technician,
          ),
        ),
        { destinationId: 'pier-store', label: 'Pier store', place: 'safe', keepUntil: '2026-05-02' },
        technician,
      ),
    );
    expect(thingsToTell(longer).map((thing) => thing.told !== null)).toEqual([true, true, false]);
    expect(sentences(longer)[2]).toContain('2026-05-01');
    expect(codesOf(signOff(longer, 'Odd', technician))).toEqual(['owner-not-told']);
    const again = done(tellOwner(longer, { sentence: sentences(longer)[2] ?? '', told: true }, technician));
    expect(again.handover.told).toHaveLength(3);
    const withdrawn = done(
      tellOwner(again, { sentence: sentences(longer)[0] ?? '', told: false }, technician),
    );
    expect(thingsToTell(withdrawn).map((thing) => thing.told !== null)).toEqual([false, true, true]);
    expect(codesOf(tellOwner(again, { sentence: 'All is well.', told: true }, technician))).toEqual([
      'nothing-to-tell',
    ]);
  });

  it('closes the record', () => {
    const untold = kept(done(noteHandover(settled(), notes, technician)));
    expect(codesOf(signOff(untold, 'Odd', technician))).toEqual(['owner-not-told']);
    const noted = told(untold);
    expect(codesOf(signOff(noted, ' ', technician))).toEqual(['no-owner-name']);
    const closed = done(signOff(noted, 'Odd', later(300)));
    expect(stageOf(closed)).toBe('done');
    expect(closed.plan?.runbook.steps.every(({ id }) => isSigned(closed.signatures, id))).toBe(true);
    expect(codesOf(typeFact(closed, 'cores', 1, lead))).toEqual(['handed-over']);
    expect(codesOf(setIdentity(closed, { owner: 'x', site: '', dueOn: null }))).toEqual(['handed-over']);
    expect(codesOf(noteHandover(closed, notes, technician))).toEqual(['handed-over']);
    const sheet = handoverSheet(closed, technician);
    expect(sheet.files.map(({ outcome }) => outcome)).toEqual(['all back', 'all back']);
    expect(sheet.signed).toContain('Odd');
    expect(sheet.backups[0]).toBe('B-07: office safe; kept until 2026-04-01, then wiped.');
  });

  it('goes out as JSON and comes in again the same', () => {
    const closed = done(
      signOff(told(kept(done(noteHandover(settled(), notes, technician)))), 'Odd', technician),
    );
    const events = [{ at: now, by: 'Ines', kind: 'survey-taken', sentence: 'Survey taken.' }];
    const text = JSON.stringify(exportMove(closed, events));
    expect(importMove(JSON.parse(text))).toEqual({
      ok: true,
      value: { format: 'ulvane-move', version: 2, move: closed, events },
    });
  });

  it('comes in from the version before, where place and day stood once for all backups', () => {
    const closed = done(
      signOff(told(kept(done(noteHandover(settled(), notes, technician)))), 'Odd', technician),
    );
    const { retention, ...move } = closed;
    const old = {
      ...exportMove(closed, []),
      version: 1,
      move: { ...move, handover: { ...move.handover, backupPlace: 'office safe', wipeOn: '2026-04-01' } },
    };
    const again = importMove(JSON.parse(JSON.stringify(old)));
    expect(again.ok && again.value.move.retention).toEqual(retention);
    expect(again.ok && again.value.move).toEqual(closed);
  });

  it('refuses what is no exported move, is newer, or is damaged', () => {
    const whole = exportMove(planned(), []);
    expect(codesOf(importMove({ format: 'ulvane-survey', version: 1 }))).toEqual(['not-a-move']);
    expect(codesOf(importMove({ ...whole, version: 3 }))).toEqual(['move-newer']);
    const damaged = importMove({ ...whole, move: { ...whole.move, copies: 'none' } });
    expect(!damaged.ok && damaged.problems[0]?.path).toBe('/move/copies');
  });
});

describe('whose turn it is', () => {
  const waiting = (reference: string, minutesAgo: number, minutes: number) => ({
    ...handsOf(planned(), technician),
    reference,
    wait: { title: 'Copy', startedAt: addMinutes(now, -minutesAgo), minutes },
  });
  const idle = handsOf(planned(), technician);

  it('is first a wait that is over, then what lies on the bench, then what is still running', () => {
    const list = [
      { ...idle, reference: 'MV-3', begun: false },
      waiting('MV-4', 5, 30),
      { ...idle, reference: 'MV-2', begun: true },
      waiting('MV-1', 40, 30),
    ];
    expect(
      nextUp(list, now, now.slice(0, 10)).map(({ reference, inMinutes }) => [reference, inMinutes]),
    ).toEqual([
      ['MV-1', -10],
      ['MV-2', 0],
      ['MV-4', 25],
      ['MV-3', 0],
    ]);
  });

  it('goes by the days left among equals', () => {
    const list = [
      { ...idle, reference: 'MV-1', dueOn: '2026-03-09' },
      { ...idle, reference: 'MV-2', dueOn: '2026-03-04' },
      { ...idle, reference: 'MV-3', dueOn: null },
    ];
    expect(
      nextUp(list, now, now.slice(0, 10)).map(({ reference, daysLeft }) => [reference, daysLeft]),
    ).toEqual([
      ['MV-2', 2],
      ['MV-1', 7],
      ['MV-3', null],
    ]);
  });

  it('says what a move asks for at each stage', () => {
    const asks = (move: Move) => handsOf(move, technician).nextTitle;
    expect(asks(emptyMove)).toBe('Run the survey');
    expect(asks(surveyed())).toBe('Choose a route');
    expect(asks(planned())).toBe('Go through what is often forgotten with the owner');
    expect(handsOf(crossable(), technician).nextTitle).toContain('Erase every partition');
  });
});
