import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { fitOf } from '../../src/backup';
import { describeKind } from '../../src/manifest';
import { recordFileList, setDataSets } from '../../src/record';
import { disagreement, FactsSchema, mergeFacts, setTypedFact, valueOf, type Facts } from '../../src/survey';
import { documents, done, driveB7, emptyMove, listHead, now, technician } from '../fixtures/shop';

const later = '2026-03-02T11:00:00.000Z';
const measured = (cores: number): Facts => ({ cores: { value: cores, source: 'collector', at: now } });
const typed = (facts: Facts, cores: number): Facts => {
  const outcome = setTypedFact(facts, 'cores', cores, later, 'Ines');
  if (!outcome.ok) throw new Error('a number of cores can be typed');
  return outcome.value;
};

describe('what was typed and what was measured', () => {
  it('are both kept where they differ, whichever came first', () => {
    expect(mergeFacts(typed({}, 8), measured(4)).cores).toEqual({
      value: 4,
      source: 'collector',
      at: now,
      other: { value: 8, source: 'typed', at: later, by: 'Ines' },
    });
    expect(typed(measured(4), 8).cores?.other).toEqual({ value: 4, source: 'collector', at: now });
  });

  it('are one where they agree, and two surveys do not differ: the newer one is how it is now', () => {
    expect(disagreement(mergeFacts(typed({}, 4), measured(4)), 'cores')).toBeUndefined();
    expect(disagreement(mergeFacts(typed({}, 8), measured(4)), 'cores')?.value).toBe(8);
    expect(mergeFacts(measured(2), measured(4)).cores?.other).toBeUndefined();
  });

  it('stay so through any order of typing and measuring: the last value of the other source is never lost', () => {
    let differing = 0;
    const events = fc.array(
      fc.record({ by: fc.constantFrom('typed', 'collector'), cores: fc.integer({ min: 1, max: 4 }) }),
      {
        minLength: 1,
        maxLength: 8,
      },
    );
    fc.assert(
      fc.property(events, (told) => {
        const facts = told.reduce<Facts>(
          (so, { by, cores }) => (by === 'typed' ? typed(so, cores) : mergeFacts(so, measured(cores))),
          {},
        );
        const last = told.at(-1);
        const other = told.findLast(({ by }) => by !== last?.by);
        expect(valueOf(facts, 'cores')).toBe(last?.cores);
        const shown = disagreement(facts, 'cores')?.value;
        expect(shown).toBe(other && other.cores !== last?.cores ? other.cores : undefined);
        if (shown !== undefined) differing += 1;
        expect(FactsSchema.parse(facts)).toEqual(facts);
      }),
    );
    expect(differing).toBeGreaterThan(20);
  });

  it('are shown of a data set: its first list sets the counts and keeps those that were typed', () => {
    const listed = (move: typeof emptyMove, fileCount: number) =>
      done(
        recordFileList(
          move,
          listHead({
            dataSetId: documents.id,
            fileCount,
            sizeBytes: 90,
            largestFileBytes: 90,
            withoutSize: 0,
          }),
          technician,
        ),
      );
    const first = listed(done(setDataSets(emptyMove, [documents], technician)), 3);
    expect(first.dataSets[0]).toMatchObject({
      fileCount: 3,
      sizeBytes: 90,
      typed: { fileCount: documents.fileCount, sizeBytes: documents.sizeBytes },
    });
    // Two lists are two measurements: nobody typed the first.
    expect(listed(first, 4).dataSets[0]?.typed).toEqual(first.dataSets[0]?.typed);
  });
});

describe('words that must not say too much', () => {
  it('“fits” counts names that the file system refuses', () => {
    expect(fitOf(driveB7, [documents]).sentence).toMatch(/^Fits: /);
    const refused = fitOf(driveB7, [documents], 1);
    expect(refused.fits).toBe(false);
    expect(refused.sentence).toMatch(/^Not taken as it is, though there is room: /);
  });

  it('a missing empty file is not said to be found nowhere', () => {
    expect(describeKind('missing', 12)).toContain('not found anywhere');
    expect(describeKind('missing', 0)).not.toContain('not found anywhere');
  });
});
