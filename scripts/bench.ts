import { spawnSync } from 'node:child_process';
import { benchChecksums } from './benchChecksums';
import { benchCopy } from './benchCopy';
import { benchDecide } from './benchDecide';
import { benchFleet } from './benchFleet';
import { benchLoad } from './benchLoad';
import { benchSave } from './benchSave';
import { Failure, runCommand } from './lib/fail';

/** Benchmarks, as production runs the code: bundled, each in a process of its own. */
await runCommand(async () => {
  const built = spawnSync(
    process.execPath,
    ['node_modules/vite/bin/vite.js', 'build', '-c', 'scripts/vite.bench.config.ts', '--logLevel', 'error'],
    { stdio: 'inherit' },
  );
  if (built.status !== 0) throw new Failure('The benchmark could not be built: see the lines above.');
  for (const part of ['benchCore', 'benchAssess', 'benchDisk']) {
    const status =
      spawnSync(process.execPath, [`.ulvane-bench/${part}.js`], { stdio: 'inherit' }).status ?? 1;
    if (status !== 0) return status;
  }
  await benchLoad();
  await benchFleet();
  await benchDecide();
  benchCopy();
  benchChecksums();
  await benchSave();
  return 0;
});
