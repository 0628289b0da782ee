import { describe, expect, it } from 'vitest';
import { beforeSignOff, keepBackup, packDataSets } from '../../src/record';
import { documents, done, pictures, technician } from '../fixtures/shop';
import { crossable, saved, signThrough } from '../fixtures/story';

const whole = (dataSet: typeof documents, ...destinationIds: readonly string[]) => ({
  dataSetId: dataSet.id,
  parts: [
    {
      places: [''],
      sizeBytes: dataSet.sizeBytes,
      fileCount: dataSet.fileCount,
      largestFileBytes: dataSet.largestFileBytes,
      destinationIds,
    },
  ],
});

describe('packing a move', () => {
  it('says how many copies no longer count', () => {
    const ready = crossable();
    // Above the Line again: the signatures are of no matter to what counts.
    const move = { ...ready, signatures: [] };
    const own = (id: string, on: string) =>
      move.copies.filter(({ dataSetId, destinationId }) => dataSetId === id && destinationId === on).length;
    const lost = own('documents', 'pier-store');
    expect(lost).toBe(1);
    const one = packDataSets(
      move,
      [whole(documents, 'b-07'), whole(pictures, 'b-07', 'pier-store')],
      technician,
    );
    expect(one.ok && one.value.sentence).toContain('1 copy no longer counts: the data set goes elsewhere.');
    const both = packDataSets(move, [whole(documents, 'b-07'), whole(pictures, 'b-07')], technician);
    expect(both.ok && both.value.sentence).toContain(
      '2 copies no longer count: the data set goes elsewhere.',
    );
    const none = packDataSets(
      move,
      [whole(documents, 'b-07', 'pier-store'), whole(pictures, 'b-07', 'pier-store')],
      technician,
    );
    expect(none.ok && none.value.sentence).toBe('Packed: 2 data sets onto 2 destinations.');
    expect(none.ok && none.value.move.copies).toEqual(move.copies);
  });

  it('leaves a destination that takes nothing without anything', () => {
    const move = done(packDataSets(saved(), [whole(documents, 'b-07'), whole(pictures, 'b-07')], technician));
    expect(move.destinations.map(({ takes }) => takes)).toEqual([['documents', 'pictures'], []]);
  });
});

describe('before the owner signs', () => {
  const missing = (move: Parameters<typeof beforeSignOff>[0]) =>
    beforeSignOff(move)
      .filter(({ code }) => code === 'backup-not-noted')
      .map(({ path }) => path);

  it('each backup that holds something is noted, and no other', () => {
    const move = signThrough(crossable());
    const bare = { ...move, retention: [] };
    expect(missing(bare)).toEqual(['/retention/b-07', '/retention/pier-store']);
    const noted = done(
      keepBackup(
        bare,
        { destinationId: 'b-07', label: 'B-07', place: 'safe', keepUntil: '2026-12-01' },
        technician,
      ),
    );
    expect(missing(noted)).toEqual(['/retention/pier-store']);
    const empty = {
      ...noted,
      destinations: noted.destinations.map((one) => (one.id === 'pier-store' ? { ...one, takes: [] } : one)),
    };
    expect(missing(empty)).toEqual([]);
  });
});
