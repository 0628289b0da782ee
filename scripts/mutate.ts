import { readFileSync } from 'node:fs';
import { parseArgs } from 'node:util';
import { runCommand } from './lib/fail';
import { drawMutants } from './mutation/sample';
import { hasSurvived, judgeFolder } from './mutation/stages';

const folders = ['assess', 'route', 'runbook', 'disk', 'manifest', 'record'];
const goal = 85;

/** One after the other: each round takes all processors. */
async function inTurn<T, R>(all: readonly T[], work: (one: T) => Promise<R>): Promise<readonly R[]> {
  const done: R[] = [];
  for (const one of all) done.push(await work(one));
  return done;
}

/**
 * Plants mistakes in the core, one at a time, and counts those that a test notices.
 * `npm run mutate -- --mutants 400 --seed 1 --folders route,record`
 */
await runCommand(async () => {
  const { values } = parseArgs({
    options: {
      mutants: { type: 'string', default: '400' },
      seed: { type: 'string', default: '1' },
      folders: { type: 'string', default: folders.join(',') },
    },
  });
  const wanted = values.folders.split(',');
  const { ranges, drawn, all } = await drawMutants(wanted, Number(values.mutants), Number(values.seed));
  console.log(`${drawn} of ${all} mutants in ${wanted.join(', ')}, drawn with seed ${values.seed}.`);
  const results = (
    await inTurn(wanted, (folder) =>
      judgeFolder(
        folder,
        ranges.filter((range) => range.startsWith(`packages/core/src/${folder}/`)),
      ),
    )
  ).flat();
  const of = (...statuses: readonly string[]) => results.filter(({ status }) => statuses.includes(status));
  const noticed = of('Killed', 'Timeout');
  const lived = results.filter(hasSurvived);
  for (const { fileName, location, replacement, status, mutatorName } of lived) {
    const line = readFileSync(fileName, 'utf8').split('\n')[location.start.line - 1] ?? '';
    console.log(
      `${status} ${mutatorName} ${fileName}:${location.start.line}\n  ${line.trim()}\n  → ${replacement ?? ''}`,
    );
  }
  const judged = noticed.length + lived.length;
  const score = judged === 0 ? 0 : (100 * noticed.length) / judged;
  const byFolder = wanted.map((folder) => {
    const here = (found: typeof results) =>
      found.filter(({ fileName }) => fileName.includes(`/core/src/${folder}/`)).length;
    return `${folder} ${here(noticed)}/${here(noticed) + here(lived)}`;
  });
  console.log(
    `${noticed.length} of ${judged} noticed (${score.toFixed(1)} %, wanted ${goal}): ${byFolder.join(', ')}. ` +
      `${results.length - judged} not judged (tables read at the start, and what does not run at all).`,
  );
  return score >= goal ? 0 : 1;
});
