import { describe, expect, it } from 'vitest';
import { contentOn, fitOf, freeOn, nextWipe, retentionSentence } from '../../src/backup';
import { keepBackup, noteHandover, recordWipe, setDestinations, signOff, type Move } from '../../src/record';
import { codesOf, documents, done, driveB7, pictures, technician } from '../fixtures/shop';
import { crossable, ready, saved, signThrough, told } from '../fixtures/story';

describe('the backup afterwards', () => {
  const kept = (move: Move, keepUntil = '2026-04-01') =>
    keepBackup(move, { destinationId: 'b-07', label: 'B-07 of Odd', place: 'safe', keepUntil }, technician);

  it('has a label, a place and a last day that is still to come', () => {
    expect(codesOf(kept(saved(), '2026-03-01'))).toEqual(['day-is-over']);
    const move = done(kept(saved()));
    expect(nextWipe(move.retention)).toBe('2026-04-01');
    const [line] = move.retention;
    if (!line) throw new Error('no line');
    expect(retentionSentence(line, '2026-03-30', 'UTC')).toBe('kept for 2 more days');
    expect(retentionSentence(line, '2026-04-01', 'UTC')).toBe('to be wiped today');
    expect(retentionSentence(line, '2026-04-02', 'UTC')).toBe('should have been wiped 1 day ago');
  });

  it('is wiped after the hand-over only, once, with the method; the closed record takes that', () => {
    const wipe = (move: Move, method = 'overwritten once') =>
      recordWipe(move, { destinationId: 'b-07', method }, technician);
    expect(codesOf(wipe(saved()))).toEqual(['no-such-backup']);
    expect(codesOf(wipe(done(kept(saved()))))).toEqual(['not-handed-over']);
    const settled = signThrough(crossable());
    const all = settled.destinations.reduce(
      (move, { id, name }) =>
        done(
          keepBackup(
            move,
            { destinationId: id, label: name, place: 'safe', keepUntil: '2026-04-01' },
            technician,
          ),
        ),
      done(
        noteHandover(
          settled,
          {
            found: [documents, pictures].map(({ id, fileCount, sizeBytes }) => ({
              dataSetId: id,
              fileCount,
              sizeBytes,
              explanation: '',
            })),
            openPoints: [],
          },
          technician,
        ),
      ),
    );
    const closed = done(signOff(told(all), 'Odd', technician));
    expect(codesOf(wipe(closed, ' '))).toEqual(['no-method']);
    const wiped = done(wipe(closed));
    expect(codesOf(wipe(wiped))).toEqual(['wiped-already']);
    expect(codesOf(kept(wiped))).toEqual(['wiped-already']);
    // The other backup is another one: its line is still to be changed.
    const longer = done(
      keepBackup(
        wiped,
        { destinationId: 'pier-store', label: 'PS', place: 'server', keepUntil: '2026-05-01' },
        technician,
      ),
    );
    expect(
      longer.retention.map(({ destinationId, keepUntil, wiped: gone }) => [
        destinationId,
        keepUntil,
        gone !== null,
      ]),
    ).toEqual([
      ['b-07', '2026-04-01', true],
      ['pier-store', '2026-05-01', false],
    ]);
    expect(nextWipe(wiped.retention)).toBe('2026-04-01');
  });

  it('takes room on its drive until it is wiped', () => {
    const driveId = '5f0d6f0e-1b55-4c1f-9a37-0a6f5f7c0b07';
    const move = done(setDestinations(saved(), [{ ...driveB7, driveId, takes: ['documents'] }], technician));
    const contents = contentOn(driveId, move);
    expect(contents).toMatchObject([{ dataSets: 1, keepUntil: null }]);
    // As it lies there: what Save says of the same drive.
    const [there] = move.destinations;
    const taken = there ? fitOf(there, move.dataSets).neededBytes : 0;
    expect(taken).toBeGreaterThan(documents.sizeBytes);
    expect(freeOn({ capacityBytes: 100e9, otherBytes: 1e9 }, contents)).toBe(99e9 - taken);
    expect(freeOn({ capacityBytes: 1e9, otherBytes: 0 }, contents)).toBe(0);
    const wiped: Move = {
      ...done(kept(move)),
      retention: [
        {
          destinationId: 'b-07',
          label: 'x',
          place: 'y',
          keepUntil: '2026-04-01',
          wiped: { at: technician.now, by: 'Ines', method: 'z' },
        },
      ],
    };
    expect(contentOn(driveId, wiped)).toEqual([]);
  });

  it('is never the installer stick', () => {
    const move = ready(saved());
    expect(
      codesOf(setDestinations(move, [{ ...driveB7, name: 'Other name', serial: 'KST-C7' }], technician)),
    ).toEqual(['installer-stick']);
  });
});
