import { describe, expect, it } from 'vitest';
import { ownerSheet, type Move } from '../../src/record';
import { comparedMove } from '../fixtures/compared';
import { documents, now, pictures, technician } from '../fixtures/shop';
import { planned, surveyed } from '../fixtures/story';

const sheetInput = {
  files: [],
  fileCount: 0,
  organisation: 'Marram Coast Ferries',
  today: '2026-03-02',
  record: { number: 12, code: 'ca864733ce015b52' },
};

const sheetOf = (move: Move, input: Partial<typeof sheetInput> = {}) =>
  ownerSheet(move, technician, { ...sheetInput, ...input });

describe('the owner’s sheet', () => {
  it('is a draft without a place to sign until every file is accounted for', () => {
    const open = ownerSheet(comparedMove({ a: '1', b: '2' }, { a: '1' }), technician, sheetInput);
    expect(open.draft).toBe(true);
    expect(open.bar).toEqual({ same: 1, otherName: 0, rest: 1 });
    expect(open.amounts).toContain('1 not here');
  });

  it('asks the owner to open what is largest first, three of it at most', () => {
    const move = comparedMove({ a: '1' }, { a: '1' });
    const [set] = move.dataSets;
    if (!set) throw new Error('no data set');
    const dataSets = [3, 9, 1, 7].map((gigabytes) => ({
      ...set,
      id: `set-${gigabytes}`,
      name: `Set of ${gigabytes}`,
      sizeBytes: gigabytes * 1e9,
    }));
    expect(ownerSheet({ ...move, dataSets }, technician, sheetInput).boxes).toEqual([
      'Set of 9 opened',
      'Set of 7 opened',
      'Set of 3 opened',
    ]);
  });

  it('says how long a missing file can be asked for, and what when nothing is kept', () => {
    const move = comparedMove({ a: '1' }, { a: '1' });
    const kept = {
      ...move,
      retention: [
        { destinationId: 'b-07', label: 'B-07', place: 'office safe', keepUntil: '2026-04-01', wiped: null },
        { destinationId: 'pier-store', label: 'PS', place: 'server', keepUntil: '2026-03-20', wiped: null },
      ],
    };
    expect(ownerSheet(kept, technician, sheetInput)).toMatchObject({
      keptUntil: '2026-03-20',
      warning: 'Is a file missing? Call before 2026-03-20. After that day nobody can bring it back.',
    });
    expect(ownerSheet(move, technician, sheetInput).warning).toBe('No backup is kept.');
  });

  it('names every explained file that it is given, and says when there are more', () => {
    const files = [{ path: 'ledgers/Cash.ods', kind: 'changed', reason: 'You entered the cash of the day.' }];
    const sheet = ownerSheet(comparedMove({ a: '1' }, { a: '1' }), technician, {
      ...sheetInput,
      files,
      fileCount: 40,
    });
    expect(sheet.files).toEqual(files);
    expect(sheet.filesNote).toBe('1 of 40 are printed; the help desk has the whole list.');
  });

  it('names each kind of difference once, by what was compared, and none that there is not', () => {
    // 5 files: a as it was, b moved, c changed, d gone because e has the same content, f gone for good.
    const move = comparedMove(
      { a: '1', b: '2', c: '3', d: '5', e: '5', f: '6' },
      { a: '1', 'sub/b': '2', c: '4', e: '5' },
    );
    const sheet = sheetOf(move);
    expect(sheet.bar).toEqual({ same: 2, otherName: 1, rest: 3 });
    expect(sheet.amounts).toEqual([
      '6 files before the move, 2 exactly as they were',
      '1 with another name or folder, the same content',
      '1 was equal to another file: one of each is left',
      '1 changed',
      '1 not here',
    ]);
    expect(sheetOf(comparedMove({ a: '1', b: '1', c: '1' }, { c: '1' })).amounts).toContain(
      '2 were equal to another file: one of each is left',
    );
    expect(sheetOf(comparedMove({ a: '1' }, { a: '1' })).amounts).toEqual([
      '1 file before the move, 1 exactly as they were',
    ]);
  });

  it('says what is done in another way in a system of another family, and nothing of it in the same', () => {
    const move = comparedMove({ a: '1' }, { a: '1' });
    if (!move.decision) throw new Error('a way is chosen');
    const other = sheetOf({
      ...move,
      decision: { ...move.decision, routeId: 'alternative-system', releaseId: 'saltbush-full' },
    });
    expect(other.different).toContain('Opening a file: one click. Before: two clicks.');
    expect(sheetOf(move).different.join(' ')).not.toContain('Before:');
  });

  it('says what the computer runs now, until when, and what was compared', () => {
    const lead = sheetOf(comparedMove({ a: '1', b: '2' }, { a: '1', b: '2' })).lead;
    // Its last ones come 388 days after the first start; those of Corvel 8 came 37 days before.
    expect(lead).toContain('Corvel 9 Business gets security updates until 2027-03-25.');
    const ended = { ...comparedMove({ a: '1' }, { a: '1' }) };
    const { presentRelease } = ended.facts;
    if (!presentRelease) throw new Error('the present system is known');
    expect(
      sheetOf({
        ...ended,
        facts: { ...ended.facts, presentRelease: { ...presentRelease, value: 'corvel-8-business' } },
      }).lead,
    ).toContain('Corvel 8 Business gets no more security updates.');
    expect(lead).toMatch(
      /Your computer now runs Corvel 10 Business, with security updates until \d{4}-\d\d-\d\d\./,
    );
    expect(lead).toContain('We compared 2 files before and after.');
    // Nothing decided and nothing compared: nothing is claimed.
    const { presentRelease: _unknown, ...facts } = surveyed().facts;
    expect(sheetOf({ ...surveyed(), facts }).lead).toBe('');
  });

  it('names who signed last as the person to call, and the help desk where nobody has', () => {
    const move = comparedMove({ a: '1' }, { a: '1' });
    const later = {
      ...move,
      signatures: move.signatures.map((line, index) =>
        index === move.signatures.length - 1 ? { ...line, by: 'Odd' } : line,
      ),
    };
    expect(sheetOf(later).call[0]).toBe('Call Odd, Marram Coast Ferries; say MV-0042.');
    expect(sheetOf(later).helpDesk).toBe('Odd');
    expect(sheetOf(planned()).call[0]).toBe('Call the help desk, Marram Coast Ferries; say MV-0042.');
    expect(sheetOf(planned()).helpDesk).toBe('');
  });

  it('tells what is not as before: the system, names that changed, open points; and what is', () => {
    const move = comparedMove({ a: '1' }, { a: '1' });
    const sheet = sheetOf({
      ...move,
      renames: [
        {
          dataSetId: 'documents',
          destinationId: 'b-07',
          names: [{ folder: '', from: 'a:b', to: 'a_b', because: 'forbidden-character' as const }],
        },
        {
          dataSetId: 'pictures',
          destinationId: 'b-07',
          names: [{ folder: '', from: 'c?', to: 'c_', because: 'forbidden-character' as const }],
        },
      ],
      handover: { ...move.handover, openPoints: ['Second screen cable'] },
    });
    expect(sheet.different).toEqual([
      'The system was installed anew: programs were installed again, settings may have to be made again.',
      '2 files had a name that the backup could not take.',
      'Still open: Second screen cable',
    ]);
    expect(sheet.same).toEqual(['Every file is as it was in: Documents.']);
    const beside = { ...move, dataSets: [documents, { ...pictures, place: 'other-disk' as const }] };
    expect(sheetOf(beside).same[0]).toBe('Nothing was erased of: Pictures.');
  });

  it('says what became of the backups: kept, wiped, or none', () => {
    const move = comparedMove({ a: '1' }, { a: '1' });
    const line = { destinationId: 'b-07', label: 'B-07 of Odd', place: 'safe', keepUntil: '2026-04-01' };
    const wiped = { at: now, by: 'Ines', method: 'overwritten' };
    expect(sheetOf({ ...move, retention: [{ ...line, wiped }] })).toMatchObject({
      keptUntil: null,
      warning: 'There is no backup any more: it was wiped.',
      backups: [],
    });
    expect(sheetOf({ ...move, retention: [{ ...line, wiped: null }] }).backups).toEqual([
      { name: 'B-07', lines: ['safe', 'Label: B-07 of Odd'] },
    ]);
  });

  it('is about a device with its owner, and the day of the hand-over in the time of the house', () => {
    const move = comparedMove({ a: '1' }, { a: '1' });
    const plate = (one: Move) => Object.fromEntries(sheetOf(one).plate);
    expect(plate({ ...move, owner: 'Odd', site: 'Lowholm' })).toMatchObject({
      'Serial number': 'KF14-70Q8-0B1I',
      Owner: 'Odd, Lowholm',
      Date: '2026-03-02',
      Move: 'MV-0042',
    });
    expect(plate(move)['Owner']).toBe('not named');
    const signedOff = { ownerName: 'Odd Fennick', at: '2026-03-05T23:30:00.000Z', by: 'Maud' };
    const signed = { ...move, handover: { ...move.handover, signedOff } };
    expect(plate(signed)['Date']).toBe('2026-03-05');
    expect(
      Object.fromEntries(
        ownerSheet(
          signed,
          { ...technician, houseRules: { ...technician.houseRules, timeZone: 'Etc/GMT-1' } },
          sheetInput,
        ).plate,
      )['Date'],
    ).toBe('2026-03-06');
    expect(sheetOf(signed)).toMatchObject({ signer: 'Odd Fennick', helpDesk: 'Maud' });
  });

  it('counts explained files one by one', () => {
    const move = comparedMove({ a: '1' }, { a: '1' });
    expect(sheetOf(move).filesNote).toBe('Every file is as it was.');
    const files = [{ path: 'a', kind: 'changed', reason: 'Yours.' }];
    expect(ownerSheet(move, technician, { ...sheetInput, files, fileCount: 1 }).filesNote).toBe('1 file');
  });
});
