import { Stryker } from '@stryker-mutator/core';
import { excludedMutations } from './sample';

/**
 * Tests that carry out thousands of random plans or tables: too long to run once for each mutant. They belong to the
 * folder that they are in, and judge its mutants only.
 */
const longLaws = [
  'packages/core/test/machine/plans.test.ts',
  'packages/core/test/machine/wordsAndStates.test.ts',
  'packages/core/test/decide/change.test.ts',
  'packages/core/test/decide/aspectLaws.test.ts',
  'packages/core/test/record/anyone.test.ts',
  'packages/core/test/disk/tables.test.ts',
  'packages/core/test/disk/images.test.ts',
  'packages/core/test/disk/writes.test.ts',
  'packages/core/test/disk/laws.test.ts',
] as const;

type Judged = Awaited<ReturnType<Stryker['runMutationTest']>>[number];

/** One mutant, the same in every round. */
const mutantKey = ({ fileName, location: { start, end }, replacement, mutatorName }: Judged) =>
  `${fileName}:${start.line}:${start.column}-${end.line}:${end.column} ${mutatorName} ${replacement ?? ''}`;

/** Whether no test noticed a mutant. */
export const hasSurvived = ({ status }: Judged) => status === 'Survived' || status === 'NoCoverage';

/**
 * Runs the tests that reach each mutant, and says what became of it.
 * @param ranges places as the mutation tool takes them: lines from 1, columns from 0
 * @param tests patterns of test files; those that start with "!" are left out
 */
async function judge(ranges: readonly string[], tests: readonly string[]): Promise<readonly Judged[]> {
  process.env.ULVANE_MUTATION_TESTS = JSON.stringify(tests);
  return await new Stryker({
    mutate: [...ranges],
    mutator: { excludedMutations },
    testRunner: 'vitest',
    plugins: ['@stryker-mutator/vitest-runner'],
    vitest: { configFile: 'scripts/mutation/vitest.config.ts', related: false },
    coverageAnalysis: 'perTest',
    ignoreStatic: true,
    reporters: ['progress-append-only'],
    tempDirName: '.ulvane-mutants',
    ignorePatterns: ['.ulvane*', 'dist', 'docs', 'apps', 'e2e', 'logs'],
    dryRunTimeoutMinutes: 30,
    timeoutMS: 60_000,
    concurrency: 2,
    allowConsoleColors: false,
  }).runMutationTest();
}

/** The places of survivors, once each, as the tool takes them: results count columns from 1, ranges from 0. */
const placesOf = (lived: readonly Judged[]) => [
  ...new Set(
    lived.map(
      ({ fileName, location: { start, end } }) =>
        `${fileName}:${start.line}:${start.column - 1}-${end.line}:${end.column - 1}`,
    ),
  ),
];

/**
 * Judges mutants of one folder in two rounds: by the folder's own tests, then the survivors by all other tests of core,
 * without the long laws of other folders.
 */
export async function judgeFolder(folder: string, ranges: readonly string[]): Promise<readonly Judged[]> {
  const own = `packages/core/test/${folder}/**/*.test.ts`;
  const first = await judge(ranges, [own]);
  const lived = first.filter(hasSurvived);
  if (lived.length === 0) return first;
  console.log(`${folder}: ${lived.length} noticed by none of its own tests; the other tests of core follow.`);
  const second = new Map(
    (
      await judge(placesOf(lived), [
        'packages/core/test/**/*.test.ts',
        `!${own}`,
        ...longLaws.map((file) => `!${file}`),
      ])
    ).map((result) => [mutantKey(result), result]),
  );
  return first.map((result) => (hasSurvived(result) ? (second.get(mutantKey(result)) ?? result) : result));
}
