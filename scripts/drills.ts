import { drills } from './drills/all';
import type { Outcome } from './drills/drill';
import { fullDiskDrill } from './drills/fullDisk';
import { World } from './drills/world';
import { ensureBuild } from './lib/build';
import { runCommand } from './lib/fail';

/** Faults put into real servers and clusters of their own; each drill says what it measured. */
await runCommand(async () => {
  ensureBuild();
  const wanted = process.argv[2] ?? '';
  let run = 0;
  let failed = 0;
  const tell = (name: string, { figures, faults }: Outcome) => {
    run += 1;
    failed += faults.length > 0 ? 1 : 0;
    console.log(`${faults.length === 0 ? 'held  ' : 'FAILED'}  ${name}\n        ${figures}`);
    for (const fault of faults) console.log(`        - ${fault}`);
  };
  for (const drill of drills.filter(({ name }) => name.includes(wanted))) {
    const world = await World.open();
    try {
      tell(drill.name, await drill.run(world, 'whole'));
    } finally {
      await world.close();
    }
  }
  if ('the disk runs full'.includes(wanted)) {
    const outcome = await fullDiskDrill();
    if (outcome) tell('the disk runs full', outcome);
    else console.log('left out  the disk runs full: this account may not mount a disk in memory');
  }
  console.log(`${run} drills, ${failed} failed`);
  return failed === 0 ? 0 : 1;
});
