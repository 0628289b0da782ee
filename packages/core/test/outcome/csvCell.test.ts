import fc from 'fast-check';
import Papa from 'papaparse';
import { describe, expect, it } from 'vitest';
import { formulaCell, plainCell, safeCell } from '../../src/outcome/csvCell';

describe('cells of a CSV', () => {
  it.each([
    ['=1+1', "'=1+1"],
    ['+44 1', "'+44 1"],
    ['-rf', "'-rf"],
    ['@SUM(A1)', "'@SUM(A1)"],
    ['\tTab', "'\tTab"],
    ["'=already", "''=already"],
    ['＝wide', "'＝wide"],
    ["'tis", "'tis"],
    ['plain', 'plain'],
    ['', ''],
  ])('%j is written as %j, and read back', (cell, written) => {
    expect(safeCell(cell)).toBe(written);
    expect(plainCell(written)).toBe(cell);
  });

  it('never begin like a formula, and read back as they were, whatever they hold', () => {
    let risky = 0;
    const cell = fc.oneof(
      fc.string({ unit: 'binary' }),
      fc.string({ unit: fc.constantFrom("'", '=', '+', '-', '@', '\t', 'a', '"', ',') }),
    );
    fc.assert(
      fc.property(cell, cell, (one, other) => {
        if (safeCell(one) !== one) risky += 1;
        const text = Papa.unparse([[one, other]], { escapeFormulae: formulaCell });
        const [row] = Papa.parse<string[]>(text, { delimiter: ',', newline: '\r\n' }).data;
        expect((row ?? []).map(plainCell)).toEqual([one, other]);
        for (const written of row ?? []) expect(written).not.toMatch(/^[=+\-@]/);
      }),
      { numRuns: 2000 },
    );
    // One alone is enough to show nothing; about half of the drawn cells are risky ones.
    expect(risky).toBeGreaterThan(300);
  });
});
