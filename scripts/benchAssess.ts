import { availableParallelism } from 'node:os';
import { isMainThread, parentPort, Worker, workerData } from 'node:worker_threads';
import { fileURLToPath } from 'node:url';
import { z } from 'zod';
import { decideAll, deviceCount, factsOf, readCatalogue, surveyTexts } from './benchDevices';

/** A fleet assessed in threads, each with its share of the devices, as the server does when its catalogue changes. */
const ShareSchema = z.object({ index: z.int(), of: z.int() });
const AnswerSchema = z.union([z.literal('ready'), z.object({ candidates: z.int() })]);

function work(): void {
  const { index, of } = ShareSchema.parse(workerData);
  const catalogue = readCatalogue();
  const devices = surveyTexts(catalogue)
    .filter((_text, place) => place % of === index)
    .map(factsOf);
  // A thread that has served before is warm.
  decideAll(devices.slice(0, 300), catalogue);
  parentPort?.once('message', () => parentPort?.postMessage({ candidates: decideAll(devices, catalogue) }));
  parentPort?.postMessage('ready');
}

async function measure(): Promise<void> {
  const of = Math.max(2, Math.min(4, availableParallelism() - 1));
  const workers = Array.from(
    { length: of },
    (_none, index) => new Worker(fileURLToPath(import.meta.url), { workerData: { index, of } }),
  );
  const answers = () =>
    Promise.all(
      workers.map(
        (worker) =>
          new Promise<z.infer<typeof AnswerSchema>>((resolve, reject) => {
            worker.once('message', (raw: unknown) => resolve(AnswerSchema.parse(raw)));
            worker.once('error', reject);
          }),
      ),
    );
  await answers();
  const done = answers();
  const startedAt = performance.now();
  for (const worker of workers) worker.postMessage('go');
  const candidates = (await done).reduce(
    (sum, answer) => sum + (answer === 'ready' ? 0 : answer.candidates),
    0,
  );
  const seconds = (performance.now() - startedAt) / 1000;
  console.log(
    `the same in ${of} threads, as the server assesses a fleet: ${deviceCount} devices, ${candidates} candidates in ${seconds.toFixed(2)} s (aim under 10 s)`,
  );
  await Promise.all(workers.map((worker) => worker.terminate()));
}

if (isMainThread) await measure();
else work();
