import { describe, expect, it } from 'vitest';
import { failedIn, ReportSchema } from '../lib/failedTests';

const file = (name: string, status: string, tests: [string, string, string[]?][], message = '') => ({
  name,
  status,
  message,
  assertionResults: tests.map(([fullName, state, failureMessages]) => ({
    fullName,
    status: state,
    failureMessages,
  })),
});

const reportOf = (...testResults: ReturnType<typeof file>[]) =>
  ReportSchema.parse({ numPassedTests: 1, numFailedTests: 1, numFailedTestSuites: 1, testResults });

describe('what failed, said once more at the end', () => {
  it('names file, test and the first lines of why, without colours', () => {
    const report = reportOf(
      file('a.test.ts', 'failed', [
        ['adds up', 'passed'],
        ['takes away', 'failed', ['\u001B[31mexpected 1 to be 2\u001B[39m\nat line 7']],
      ]),
      file('b.test.ts', 'passed', [['stays', 'passed']]),
    );
    expect(failedIn('unit', report)).toEqual([
      'unit: a.test.ts > takes away\n    expected 1 to be 2\n    at line 7',
    ]);
  });

  it('names a file that could not be loaded, or whose end failed, with its message', () => {
    const report = reportOf(file('c.test.ts', 'failed', [], 'Cannot find module'));
    expect(failedIn('server', report)).toEqual(['server: c.test.ts\n    Cannot find module']);
  });

  it('cuts a long message', () => {
    const long = Array.from({ length: 40 }, (_, at) => `line ${at}`).join('\n');
    const [told = ''] = failedIn('unit', reportOf(file('d.test.ts', 'failed', [['x', 'failed', [long]]])));
    expect(told.split('\n')).toHaveLength(1 + 12);
  });
});
