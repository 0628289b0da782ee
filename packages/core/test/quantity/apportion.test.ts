import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { apportion } from '../../src/quantity';

describe('whole units that add up', () => {
  it('goes by the largest remainders', () => {
    // Shares of 10 by 1 : 1 : 1 are 3.33 each: the first of equal remainders gets the one that is left.
    expect(apportion([1, 1, 1], 10)).toEqual([4, 3, 3]);
    // In tenths of a gigabyte 629.3, 1489.2 and 442.5: rounded down they miss 2561 by one, which the last gets.
    expect(apportion([62.93, 148.92, 44.25], 2561)).toEqual([629, 1489, 443]);
    expect(apportion([0, 0], 5)).toEqual([0, 0]);
    expect(apportion([], 5)).toEqual([]);
  });

  it('adds up, and is never a whole unit from the share', () => {
    let counted = 0;
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 0, max: 1e12 }), { minLength: 1, maxLength: 12 }),
        fc.integer({ min: 0, max: 100_000 }),
        (weights, total) => {
          const sum = weights.reduce((all, weight) => all + weight, 0);
          if (sum === 0) return;
          counted += 1;
          const units = apportion(weights, total);
          expect(units.reduce((all, unit) => all + unit, 0)).toBe(total);
          for (const [index, unit] of units.entries())
            expect(Math.abs(unit - ((weights[index] ?? 0) * total) / sum)).toBeLessThan(1);
        },
      ),
    );
    expect(counted).toBeGreaterThan(50);
  });
});
