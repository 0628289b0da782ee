import { describe, expect, it } from 'vitest';
import { drills } from '../scripts/drills/all';
import { World } from '../scripts/drills/world';

describe('the short form of the drills', () => {
  it.each(drills.map((drill) => [drill.name, drill] as const))('%s', async (_name, drill) => {
    const world = await World.open();
    try {
      const { figures, faults } = await drill.run(world, 'short');
      console.log(`${drill.name}: ${figures}`);
      expect(faults).toEqual([]);
    } finally {
      await world.close();
    }
  });
});
