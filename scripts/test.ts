import { spawn } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import { join, resolve } from 'node:path';
import { ensureBuild } from './lib/build';
import { ensureBusybox, ensureChromium, ensureDiskTools } from './lib/debian';
import { failedIn, ReportSchema } from './lib/failedTests';
import { runCommand } from './lib/fail';
import { startCluster } from './lib/postgres';
import { makeDemoToCopy } from './lib/testDatabase';

/** Two processors take two files at once: one that waits for a browser or a database leaves its own to the other. */
const workers = Math.max(2, availableParallelism());

function run(args: readonly string[], environment: Record<string, string>): Promise<number> {
  return new Promise((done) => {
    const child = spawn(process.execPath, ['node_modules/vitest/vitest.mjs', 'run', ...args], {
      stdio: 'inherit',
      env: { ...process.env, ...environment },
    });
    process.once('SIGINT', () => child.kill('SIGINT'));
    child.on('exit', (code) => done(code ?? 1));
  });
}

await runCommand(async () => {
  const filters = process.argv.slice(2);
  const chromium = ensureChromium();
  ensureBusybox();
  ensureDiskTools();
  const dataFolder = resolve(process.env.ULVANE_DATA ?? '.ulvane-test');
  const cluster = await startCluster(dataFolder, { forTests: true });
  try {
    ensureBuild();
    const reports = join(dataFolder, 'reports');
    rmSync(reports, { recursive: true, force: true });
    mkdirSync(reports, { recursive: true });
    let demo: Record<string, string> = {};
    let passed = 0;
    let failed = 0;
    const failures: string[] = [];
    let code = 0;
    for (const project of ['unit', 'server', 'e2e', 'alone']) {
      if (project === 'server') demo = await makeDemoToCopy(cluster);
      const report = join(reports, `${project}.json`);
      const ended = await run(
        [
          '--project',
          project,
          `--maxWorkers=${workers}`,
          '--reporter=default',
          '--reporter=json',
          `--outputFile.json=${report}`,
          '--passWithNoTests',
          ...filters,
        ],
        {
          ULVANE_TEST_DATABASE: cluster.url('postgres'),
          ULVANE_CHROMIUM: chromium,
          ...demo,
        },
      );
      code ||= ended;
      if (!existsSync(report)) {
        failed += 1;
        failures.push(`${project}: ended without a report`);
        continue;
      }
      const counts = ReportSchema.parse(JSON.parse(readFileSync(report, 'utf8')));
      failures.push(...failedIn(project, counts));
      passed += counts.numPassedTests;
      // A file that cannot even be loaded counts as one failure.
      failed +=
        counts.numFailedTests === 0 && ended !== 0
          ? Math.max(1, counts.numFailedTestSuites)
          : counts.numFailedTests;
    }
    // Again at the very end: the output of the projects after it may be long.
    if (failures.length > 0) console.log(`\nFailed:\n${failures.join('\n')}\n`);
    console.log(`${passed} passed, ${failed} failed`);
    return failed > 0 || passed === 0 ? 1 : code;
  } finally {
    cluster.stop();
  }
});
