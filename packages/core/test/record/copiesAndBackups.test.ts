import { randomUUID } from 'node:crypto';
import { describe, expect, it } from 'vitest';
import {
  keepBackup,
  keepRenames,
  measuredCopies,
  packDataSets,
  plan,
  recordCheck,
  recordExplained,
  recordFileList,
  recordReconciled,
  recordWipe,
  setDestinations,
  type Move,
} from '../../src/record';
import { joinDataSet, splitDataSet } from '../../src/record/commands/splitDataSet';
import { defaultHouseRules } from '../../src/rules';
import {
  codesOf,
  documents,
  done,
  driveB7,
  listHead,
  now,
  pictures,
  share,
  technician,
} from '../fixtures/shop';
import { reconciled, said } from '../fixtures/said';
import { planned, saved } from '../fixtures/story';

const by = { at: now, by: 'Ines' };

describe('a copy that was timed', () => {
  const signedIn = (minutes: number | null, actions: readonly ('sign' | 'start')[] = ['sign']): Move => ({
    ...planned(),
    signatures: actions.map((action) => ({
      stepId: 'copy:b-07',
      title: 'Copy to B-07',
      action,
      actualMinutes: minutes,
      note: '',
      ...by,
    })),
  });
  it('counts with its bytes, files and minutes once it is signed', () => {
    expect(measuredCopies(signedIn(38))).toEqual([
      {
        at: now,
        serial: driveB7.serial,
        source: 'solid-state',
        link: 'usb3',
        medium: 'spinning',
        sizeBytes: documents.sizeBytes + pictures.sizeBytes,
        fileCount: documents.fileCount + pictures.fileCount,
        minutes: 38,
      },
    ]);
    expect(measuredCopies(signedIn(0))).toEqual([]);
    expect(measuredCopies(signedIn(null))).toEqual([]);
    expect(measuredCopies(signedIn(38, ['start']))).toEqual([]);
    expect(measuredCopies(planned())).toEqual([]);
    expect(measuredCopies(saved())).toEqual([]);
  });

  it('and not as an image, of which nobody knows how much was read', () => {
    const imaged = { ...technician, houseRules: { ...defaultHouseRules, savedAs: 'image' as const } };
    const move = done(plan(saved(), imaged));
    expect(measuredCopies({ ...move, signatures: signedIn(38).signatures })).toEqual([]);
  });
});

describe('lists of files', () => {
  const list = (more: Parameters<typeof listHead>[0]) => recordFileList(saved(), listHead(more), technician);
  it('belong to a data set, a copy to a destination that takes it, and never to a part', () => {
    expect(codesOf(list({ dataSetId: 'none' }))).toEqual(['no-such-data-set']);
    expect(codesOf(list({ dataSetId: 'documents', role: 'copy', destinationId: 'none' }))).toEqual([
      'no-such-copy',
    ]);
    expect(said(list({ dataSetId: 'documents', role: 'copy', destinationId: 'b-07' }))).toBe(
      'List of Documents of the copy on B-07: 10 files.',
    );
    expect(said(list({ dataSetId: 'documents', role: 'after', troubled: 2 }))).toBe(
      'List of Documents after the restore: 10 files, 2 of them without a checksum.',
    );
    const parted: Move = {
      ...saved(),
      dataSets: [{ ...documents, part: { of: 'all', places: ['a'] } }, pictures],
    };
    expect(codesOf(recordFileList(parted, listHead({ dataSetId: 'documents' }), technician))).toEqual([
      'a-part',
    ]);
    expect(recordFileList(parted, listHead({ dataSetId: 'documents', role: 'after' }), technician).ok).toBe(
      true,
    );
  });

  it('of the data as they are set its counts, and keep what was typed beside it', () => {
    const [set] = done(list({ dataSetId: 'documents' })).dataSets;
    expect(set).toMatchObject({
      fileCount: 10,
      sizeBytes: 100,
      largestFileBytes: 10,
      typed: { sizeBytes: documents.sizeBytes, fileCount: documents.fileCount },
    });
    // Some files have no size: the bytes stay as they were.
    const [vague] = done(list({ dataSetId: 'documents', withoutSize: 1 })).dataSets;
    expect(vague).toMatchObject({ fileCount: 10, sizeBytes: documents.sizeBytes });
    const equal = list({
      dataSetId: 'documents',
      fileCount: documents.fileCount,
      sizeBytes: documents.sizeBytes,
    });
    expect(done(equal).dataSets[0]).not.toHaveProperty('typed');
  });

  it('say how many files differ, one or several', () => {
    const check = (count: number) =>
      said(
        recordCheck(
          saved(),
          {
            dataSetId: 'documents',
            destinationId: 'b-07',
            check: { method: 'full', files: 10 },
            count,
            files: [],
          },
          technician,
        ),
      );
    expect(check(1)).toContain('10 files compared, 1 differs. Copy');
    expect(check(1200)).toContain('1,200 differ.');
    expect(check(0)).toBe('Documents on B-07: 10 files compared, all the same.');
    const sampled = recordCheck(
      saved(),
      {
        dataSetId: 'documents',
        destinationId: 'b-07',
        check: { method: 'sample', files: 5, ofFiles: 10, confidence: 0.95, share: 0.01 } as never,
        count: 0,
        files: [],
      },
      technician,
    );
    expect(said(sampled)).toContain('a sample of 5 of 10 files compared');
  });
});

describe('backups', () => {
  const kept = { destinationId: 'b-07', label: 'L1', place: 'shelf', keepUntil: '2026-05-01' };
  it('are of a destination of the move, and wiped once it is handed over', () => {
    expect(codesOf(keepBackup(saved(), { ...kept, destinationId: 'none' }, technician))).toEqual([
      'no-such-destination',
    ]);
    expect(codesOf(keepBackup(saved(), { ...kept, keepUntil: '2026-03-01' }, technician))).toEqual([
      'day-is-over',
    ]);
    expect(keepBackup(saved(), { ...kept, keepUntil: '2026-03-02' }, technician).ok).toBe(true);
    const two = done(
      keepBackup(
        done(keepBackup(saved(), kept, technician)),
        { ...kept, destinationId: 'pier-store' },
        technician,
      ),
    );
    const again = done(keepBackup(two, { ...kept, label: 'L9' }, technician));
    expect(again.retention.map(({ destinationId, label }) => [destinationId, label])).toEqual([
      ['pier-store', 'L1'],
      ['b-07', 'L9'],
    ]);
    const signed: Move = {
      ...again,
      handover: { ...again.handover, signedOff: { ownerName: 'Jon', ...by } as never },
    };
    const wipe = (destinationId: string, method = ' overwritten ') =>
      recordWipe(signed, { destinationId, method }, technician);
    expect(codesOf(recordWipe(again, { destinationId: 'b-07', method: 'x' }, technician))).toEqual([
      'not-handed-over',
    ]);
    expect(codesOf(wipe('none'))).toEqual(['no-such-backup']);
    expect(codesOf(wipe('b-07', ' '))).toEqual(['no-method']);
    expect(said(wipe('pier-store'))).toBe('Backup on Pier store wiped: overwritten');
    expect(done(wipe('pier-store')).retention.map(({ wiped }) => wiped?.method)).toEqual([
      'overwritten',
      undefined,
    ]);
    const wiped = done(wipe('b-07'));
    expect(codesOf(recordWipe(wiped, { destinationId: 'b-07', method: 'x' }, technician))).toEqual([
      'wiped-already',
    ]);
    expect(codesOf(keepBackup(wiped, kept, technician))).toEqual(['wiped-already']);
  });

  it('keep the other names of files, one list a copy', () => {
    const rename = { from: 'a', to: 'b' } as never;
    const names = (count: number, destinationId = 'b-07') =>
      keepRenames(saved(), {
        dataSetId: 'documents',
        destinationId,
        renames: Array.from({ length: count }, () => rename),
      });
    expect(codesOf(names(1, 'none'))).toEqual(['no-such-copy']);
    expect(said(names(0))).toContain('no name is another there');
    expect(said(names(1))).toContain('1 name is another there');
    expect(said(names(2))).toContain('2 names are others there');
    const [one, other] = [
      done(names(1)),
      { dataSetId: 'documents', destinationId: 'pier-store', renames: [rename] },
    ];
    const both = done(keepRenames(one, other));
    expect(both.renames.map(({ destinationId }) => destinationId)).toEqual(['b-07', 'pier-store']);
    const without = done(keepRenames(both, { dataSetId: 'documents', destinationId: 'b-07', renames: [] }));
    expect(without.renames.map(({ destinationId }) => destinationId)).toEqual(['pier-store']);
  });
});

describe('a data set in parts', () => {
  const part = (fileCount: number, sizeBytes: number, destinationIds: readonly string[] = ['b-07']) => ({
    places: ['a'],
    fileCount,
    sizeBytes,
    largestFileBytes: sizeBytes,
    destinationIds,
  });
  const { fileCount, sizeBytes } = documents;
  const split = (...parts: readonly ReturnType<typeof part>[]) =>
    splitDataSet(saved(), 'documents', parts, technician);
  it('is the whole to the file and the byte, and is put together again', () => {
    expect(codesOf(split(part(fileCount, sizeBytes)))).toEqual(['parts-are-not-the-whole']);
    expect(codesOf(split(part(1, 1), part(fileCount - 1, sizeBytes)))).toEqual(['parts-are-not-the-whole']);
    expect(codesOf(split(part(1, 1), part(fileCount, sizeBytes - 1)))).toEqual(['parts-are-not-the-whole']);
    const two = done(split(part(1, 1), part(fileCount - 1, sizeBytes - 1, ['pier-store'])));
    expect(two.dataSets.map(({ name }) => name)).toEqual([
      'Documents, part 1 of 2',
      'Documents, part 2 of 2',
      'Pictures',
    ]);
    const [first, second] = two.dataSets;
    expect(two.destinations.map(({ takes }) => takes)).toEqual([
      ['pictures', first?.id],
      ['pictures', second?.id],
    ]);
    expect(codesOf(splitDataSet(two, first?.id ?? '', [part(1, 1), part(0, 0)], technician))).toEqual([
      'a-part',
    ]);
    expect(codesOf(splitDataSet(two, 'none', [], technician))).toEqual(['no-such-data-set']);
    const joined = done(joinDataSet(two, 'documents', technician));
    expect(joined.dataSets[0]).toEqual({ ...documents, largestFileBytes: sizeBytes - 1 });
    // Neither drive held all of it.
    expect(joined.destinations.map(({ takes }) => takes)).toEqual([['pictures'], ['pictures']]);
    const together = done(split(part(1, 1), part(fileCount - 1, sizeBytes - 1)));
    expect(done(joinDataSet(together, 'documents', technician)).destinations[0]?.takes).toEqual([
      'pictures',
      'documents',
    ]);
    expect(codesOf(joinDataSet(saved(), 'documents', technician))).toEqual(['no-parts']);
  });
});

describe('the destinations of a move', () => {
  it('say how many verified copies no longer count', () => {
    const copies = [
      { dataSetId: 'documents', destinationId: 'b-07', verifiedAt: now, verifiedBy: 'Ines' },
      { dataSetId: 'pictures', destinationId: 'b-07', verifiedAt: now, verifiedBy: 'Ines' },
    ];
    const move: Move = { ...saved(), copies };
    const other = { ...driveB7, serial: 'OSB-9999X' };
    expect(said(setDestinations(move, [other, share], technician))).toBe(
      'Destinations: B-07, Pier store. 2 verified copies no longer count: B-07 is another drive now, by its serial.',
    );
    const one: Move = { ...move, copies: copies.slice(0, 1) };
    expect(said(setDestinations(one, [other, share], technician))).toContain(
      '1 verified copy no longer counts',
    );
    expect(
      done(setDestinations(move, [{ ...driveB7, takes: ['documents'] }, share], technician)).copies,
    ).toEqual(copies.slice(0, 1));
    expect(said(setDestinations(saved(), [], technician))).toBe('Destinations: none.');
  });
});

describe('a comparison of files', () => {
  const id = randomUUID();
  const compared: Move = { ...saved(), reconciled: [{ ...reconciled({ missing: 3 }, { open: 3 }), id }] };
  it('says what was explained and what is still open, by the name of its data set', () => {
    const explained = (open: number) =>
      recordExplained(compared, { id, explained: 3 - open, open, what: '1 explained.' }, technician);
    expect(said(explained(0))).toBe('Documents: 1 explained. Nothing is open any more.');
    expect(said(explained(2))).toBe('Documents: 1 explained. 2 are still open.');
    expect(done(explained(2)).reconciled).toMatchObject([{ id, explained: 1, open: 2 }]);
    const gone = { id: randomUUID(), explained: 1, open: 0, what: '' };
    expect(codesOf(recordExplained(compared, gone, technician))).toEqual(['no-such-comparison']);
    const unknown: Move = { ...compared, dataSets: [pictures] };
    expect(
      said(recordExplained(unknown, { id, explained: 3, open: 0, what: 'Told.' }, technician)),
    ).toContain('documents: Told.');
  });

  it('takes the place of the one before, and is of a data set of the move', () => {
    const { at: _at, by: _by, ...again } = reconciled({ same: 8 });
    expect(said(recordReconciled(compared, again, technician))).toBe(
      'Documents compared file by file: 8 the same.',
    );
    expect(done(recordReconciled(compared, again, technician)).reconciled.map((one) => one.id)).toEqual([
      again.id,
    ]);
    const other = { ...again, dataSetId: 'pictures' };
    expect(done(recordReconciled(compared, other, technician)).reconciled).toHaveLength(2);
    expect(codesOf(recordReconciled(compared, { ...again, dataSetId: 'none' }, technician))).toEqual([
      'no-such-data-set',
    ]);
  });
});

describe('packing', () => {
  it('puts a whole data set onto each destination of its one part, and onto no other', () => {
    const whole = (dataSetId: string, ...destinationIds: readonly string[]) => ({
      dataSetId,
      parts: [{ places: [''], sizeBytes: 1, fileCount: 1, largestFileBytes: 1, destinationIds }],
    });
    const packed = done(
      packDataSets(
        saved(),
        [whole('documents', 'b-07', 'pier-store'), whole('pictures', 'pier-store')],
        technician,
      ),
    );
    expect(packed.destinations.map(({ takes }) => takes)).toEqual([['documents'], ['documents', 'pictures']]);
    expect(codesOf(packDataSets(saved(), [whole('documents', 'b-07')], technician))).toEqual([
      'packing-stale',
    ]);
    expect(
      codesOf(packDataSets(saved(), [whole('documents', 'none'), whole('pictures', 'b-07')], technician)),
    ).toEqual(['packing-stale']);
  });
});
