import { describe, expect, it } from 'vitest';
import {
  answerCause,
  answerChecklist,
  callOff,
  chooseRoute,
  closeTrouble,
  correctStep,
  depart,
  keepBackup,
  keepCapsule,
  keepRenames,
  leaveDetour,
  makeFactUnknown,
  noteHandover,
  openTrouble,
  overruleGate,
  plan,
  planDisk,
  prepare,
  recordCheck,
  recordExplained,
  recordFileList,
  recordReconciled,
  setDataSets,
  setDestinations,
  setIdentity,
  signOff,
  signStep,
  startDetour,
  startStep,
  takeRow,
  takeSurvey,
  tellOwner,
  tickAnswer,
  tickCopy,
  typeFact,
  unsignStep,
  type CommandOutcome,
  type Move,
} from '../../src/record';
import {
  codesOf,
  documents,
  done,
  driveB7,
  laptopSurvey,
  lead,
  listHead,
  pictures,
  splitDisk,
  technician,
} from '../fixtures/shop';
import { clean, crossable, signThrough } from '../fixtures/story';

const signing = { actualMinutes: null, note: 'as it was done' };
const seen = { stepId: 'updates', sign: 'no-network' as const, seenAt: technician.now };
const row = { identity: { owner: 'Another' }, facts: [], serial: 'KF14-70Q8-0B1I' };
const reason = 'It was another one, as the label says.';

/** Every command, as it would change the bench move if that were still open. */
const commands: Readonly<Record<string, (move: Move) => CommandOutcome>> = {
  answerCause: (move) => answerCause(move, { ...seen, causeId: 'driver-missing', answer: 'no' }, technician),
  answerChecklist: (move) => answerChecklist(move, [{ id: 'fonts', answer: 'none', reason: '' }], technician),
  callOff: (move) => callOff(move, reason, technician),
  chooseRoute: (move) => chooseRoute(move, clean, technician),
  closeTrouble: (move) => closeTrouble(move, 1, reason, technician),
  correctStep: (move) => correctStep(move, 'write-stick', reason, technician),
  depart: (move) => depart(move, { setting: 'copiesBeforeLine', value: 1, reason }, technician),
  keepCapsule: (move) =>
    keepCapsule(
      move,
      {
        disk: 'sda',
        target: 'gpt',
        remembered: { partitions: [] },
        undo: {
          format: 'ulvane-sector-writes',
          version: 1,
          purpose: 'undo',
          disk: { sectorSizeBytes: 512, sectorCount: splitDisk.sectorCount, serial: null },
          writes: [],
        },
      },
      technician,
    ),
  keepRenames: (move) => keepRenames(move, { dataSetId: 'documents', destinationId: 'b-07', renames: [] }),
  leaveDetour: (move) => leaveDetour(move, 1, reason, technician),
  makeFactUnknown: (move) => makeFactUnknown(move, 'tpm'),
  noteHandover: (move) => noteHandover(move, { found: [], openPoints: ['x'] }, technician),
  openTrouble: (move) => openTrouble(move, seen, technician),
  overruleGate: (move) => overruleGate(move, 'power', reason, lead),
  plan: (move) => plan(move, technician),
  planDisk: (move) => planDisk(move, { disk: 'sda', work: null }, technician),
  prepare: (move) => prepare(move, { power: {} }, technician),
  recordCheck: (move) =>
    recordCheck(
      move,
      {
        dataSetId: 'documents',
        destinationId: 'b-07',
        check: { method: 'full', files: 10 },
        count: 0,
        files: [],
      },
      technician,
    ),
  recordExplained: (move) =>
    recordExplained(move, { id: documents.id, explained: 1, open: 0, what: 'x' }, technician),
  recordFileList: (move) => recordFileList(move, listHead({ dataSetId: 'documents' }), technician),
  recordReconciled: (move) =>
    recordReconciled(
      move,
      {
        id: '00000000-0000-4000-8000-000000000001',
        dataSetId: 'documents',
        beforeId: '00000000-0000-4000-8000-000000000002',
        afterId: '00000000-0000-4000-8000-000000000003',
        counts: {
          same: 1,
          changed: 0,
          unproven: 0,
          renamed: 0,
          moved: 0,
          missing: 0,
          merged: 0,
          added: 0,
          duplicated: 0,
        },
        noise: 0,
        explained: 0,
        open: 0,
      },
      technician,
    ),
  setDataSets: (move) => setDataSets(move, [documents], technician),
  setDestinations: (move) => setDestinations(move, [driveB7], technician),
  setIdentity: (move) => setIdentity(move, { owner: 'Another', site: '', dueOn: null }),
  signOff: (move) => signOff(move, 'Odd', technician),
  signStep: (move) => signStep(move, 'habits', signing, technician),
  startDetour: (move) => startDetour(move, { ...seen, causeId: 'driver-missing' }, technician),
  startStep: (move) => startStep(move, 'habits', technician),
  takeRow: (move) => takeRow(move, row, technician),
  takeSurvey: (move) => takeSurvey(move, laptopSurvey, 'collector', technician),
  tickAnswer: (move) => tickAnswer(move, { page: 'language', answer: 'x', ticked: true }, technician),
  tellOwner: (move) => tellOwner(move, { sentence: 'x', told: true }, technician),
  tickCopy: (move) =>
    tickCopy(move, { dataSetId: 'documents', destinationId: 'b-07', verified: true }, technician),
  typeFact: (move) => typeFact(move, 'cores', 2, technician),
  unsignStep: (move) => unsignStep(move, 'write-stick', reason, technician),
};

describe('a record that is closed', () => {
  const open = crossable();
  const closed = {
    'handed-over': {
      ...open,
      handover: { ...open.handover, signedOff: { ownerName: 'Odd', at: technician.now, by: 'Ines' } },
    },
    'called-off': done(callOff(open, reason, technician)),
  };

  it.each(Object.keys(commands))('refuses %s, and says what closed it', (name) => {
    for (const [code, move] of Object.entries(closed)) {
      const outcome = commands[name]?.(move);
      expect(outcome && codesOf(outcome)).toEqual([code]);
      expect(outcome && !outcome.ok && outcome.problems[0]?.sentence).toContain(
        code === 'handed-over' ? 'MV-0042 was handed over' : 'called off by Ines: resume it first',
      );
    }
    // The same is not refused for being closed while it is open.
    const asked = commands[name]?.(open);
    expect(asked && codesOf(asked)).not.toContain('handed-over');
    expect(asked && codesOf(asked)).not.toContain('called-off');
  });

  it('takes the label and the last day of a backup, which outlive it', () => {
    const kept = { destinationId: 'b-07', label: 'B-07', place: 'safe', keepUntil: '2026-04-01' };
    expect(codesOf(keepBackup(closed['handed-over'], kept, technician))).toEqual([]);
  });
});

describe('below the Line', () => {
  const crossed = signThrough(crossable(), 'install');

  it.each([
    'setDataSets',
    'setDestinations',
    'tickCopy',
    'recordCheck',
    'recordFileList',
    'chooseRoute',
    'callOff',
    'planDisk',
  ])('what was saved and decided stays: %s is refused', (name) => {
    const outcome = commands[name]?.(crossed);
    expect(outcome && codesOf(outcome)).toEqual(['line-crossed']);
  });

  it('lists of what came back are taken, and the rest of the record goes on', () => {
    const after = recordFileList(crossed, listHead({ dataSetId: 'documents', role: 'after' }), technician);
    expect(codesOf(after)).toEqual([]);
    for (const name of ['setIdentity', 'noteHandover', 'answerChecklist', 'typeFact', 'prepare']) {
      const outcome = commands[name]?.(crossed);
      expect(outcome && codesOf(outcome), name).toEqual([]);
    }
    expect(codesOf(setDataSets(crossed, [documents, pictures], technician))).toEqual(['line-crossed']);
  });
});
