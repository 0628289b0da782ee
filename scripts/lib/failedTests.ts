import { stripVTControlCharacters } from 'node:util';
import { z } from 'zod';

/** What is read of the JSON report of a test run. */
export const ReportSchema = z.object({
  numPassedTests: z.number(),
  numFailedTests: z.number(),
  numFailedTestSuites: z.number(),
  testResults: z.array(
    z.object({
      name: z.string(),
      status: z.string(),
      message: z.string().default(''),
      assertionResults: z.array(
        z.object({
          fullName: z.string(),
          status: z.string(),
          failureMessages: z.array(z.string()).nullish(),
        }),
      ),
    }),
  ),
});

type Report = z.infer<typeof ReportSchema>;

const linesShown = 12;

/** The first lines of a message, each indented, without the colours of a terminal. */
function firstLines(message: string): string {
  const lines = stripVTControlCharacters(message).split('\n').slice(0, linesShown);
  return lines.map((line) => `    ${line}`).join('\n');
}

/** Every test that failed, by file and name, with the first lines of why; a file that could not be loaded too. */
export function failedIn(project: string, report: Report): string[] {
  return report.testResults.flatMap(({ name, status, message, assertionResults }) => {
    const tests = assertionResults
      .filter((test) => test.status === 'failed')
      .map(
        (test) =>
          `${project}: ${name} > ${test.fullName}\n${firstLines((test.failureMessages ?? []).join('\n'))}`,
      );
    if (tests.length > 0 || status !== 'failed') return tests;
    return [`${project}: ${name}\n${firstLines(message)}`];
  });
}
