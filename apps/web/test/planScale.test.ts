import { describe, expect, it } from 'vitest';
import { copiesPath, heightOfCopy, planScale, rowHeight } from '../src/drawing/planFigure/planScale';

/** The heights that a path goes through, in pixels above its base. */
const heights = (path: string, base: number) =>
  path
    .split(/[MLHV]/)
    .filter((part) => part.includes(','))
    .map((part) => base - Number(part.split(',')[1]));

describe('copies of a data set as a step line', () => {
  const scale = planScale({ sectorCount: 1000 }, 3, 400);

  it('are six pixels a copy where that has room', () => {
    expect(heights(copiesPath([1, 2, 3, 1], 100, heightOfCopy(3), scale), 100)).toContain(18);
  });

  it('stay in their row, however many there are', () => {
    for (const most of [1, 3, 4, 15, 60]) {
      const path = copiesPath([0, most, most, 1], 100, heightOfCopy(most), scale);
      const top = Math.max(...heights(path, 100));
      expect(top).toBeGreaterThan(0);
      expect(top).toBeLessThanOrEqual(rowHeight - 6);
    }
  });
});
