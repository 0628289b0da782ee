import { spawn } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { z } from 'zod';
import { ensureBuild } from './lib/build';
import { ensureBusybox, ensureChromium, ensureDiskTools } from './lib/debian';
import { runCommand } from './lib/fail';
import { startCluster } from './lib/postgres';

const ReportSchema = z.object({
  numPassedTests: z.number(),
  numFailedTests: z.number(),
  numFailedTestSuites: z.number(),
});

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
    let passed = 0;
    let failed = 0;
    let code = 0;
    for (const project of ['unit', 'server', 'e2e']) {
      const report = join(reports, `${project}.json`);
      const ended = await run(
        [
          '--project',
          project,
          '--reporter=default',
          '--reporter=json',
          `--outputFile.json=${report}`,
          '--passWithNoTests',
          ...filters,
        ],
        {
          ULVANE_TEST_DATABASE: cluster.url('postgres'),
          ULVANE_CHROMIUM: chromium,
        },
      );
      code ||= ended;
      if (!existsSync(report)) {
        failed += 1;
        continue;
      }
      const counts = ReportSchema.parse(JSON.parse(readFileSync(report, 'utf8')));
      passed += counts.numPassedTests;
      // A file that cannot even be loaded counts as one failure.
      failed +=
        counts.numFailedTests === 0 && ended !== 0
          ? Math.max(1, counts.numFailedTestSuites)
          : counts.numFailedTests;
    }
    console.log(`${passed} passed, ${failed} failed`);
    return failed > 0 || passed === 0 ? 1 : code;
  } finally {
    cluster.stop();
  }
});
