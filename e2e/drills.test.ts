import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';
import { drills } from '../scripts/drills/all';
import { World } from '../scripts/drills/world';

/** One cluster for all of them, and new servers for each. */
let world: World;
beforeAll(async () => {
  world = await World.open();
});
afterEach(() => world.stopServers());
afterAll(() => world.close());

describe('the short form of the drills', () => {
  it.each(drills.map((drill) => [drill.name, drill] as const))('%s', async (_name, drill) => {
    const { figures, faults } = await drill.run(world, 'short');
    console.log(`${drill.name}: ${figures}`);
    expect(faults).toEqual([]);
  });
});
