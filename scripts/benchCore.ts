import { cpus, totalmem } from 'node:os';
import { proposeDataSets } from '@ulvane/core/backup';
import { defaultHouseRules } from '@ulvane/core/rules';
import { decide, decisionInput, planInput, whatWouldChange } from '@ulvane/core/decide';
import { buildRunbook, custodyAlarms, nothingPrepared } from '@ulvane/core/runbook';
import { factsFromSurvey, importSurvey, withFacts } from '@ulvane/core/survey';
import {
  decideAll,
  deviceCount,
  factsOf,
  now,
  readCatalogue,
  surveyTexts,
  tables,
  today,
  wish,
} from './benchDevices';

/** Survey import → assessment → routes → runbook for generated devices, on one core. */
const catalogue = readCatalogue();
const texts = surveyTexts(catalogue);
const devices = texts.map(factsOf);

/** How long each plan took, with its carrying-out. */
const planMs: number[] = [];
const medianOf = (times: readonly number[]) =>
  times.toSorted((a, b) => a - b)[Math.floor(times.length / 2)] ?? Number.NaN;

function walk(text: string): number {
  const survey = importSurvey(text);
  if (!survey.ok) throw new Error(survey.problems[0]?.sentence);
  const facts = factsFromSurvey(survey.value, 'collector');
  const given = { facts, catalogue, houseRules: defaultHouseRules, today, wish };
  const { advised } = decide(decisionInput(given));
  const dataSets = proposeDataSets(survey.value.folders ?? [], facts, []);
  const destinations = tables.destinations.map((destination) => ({
    ...destination,
    freeBytes: destination.capacityBytes,
    takes: dataSets.map(({ id }) => id),
  }));
  const listed = decisionInput({
    ...given,
    soFar: {
      exceptions: [],
      dataSets,
      destinations,
      preparation: nothingPrepared,
      capsules: [],
      timedCopies: [],
      diskPlan: null,
      decision: null,
    },
  });
  const planned = planInput(listed, { ...advised, bringing: 'stick', waivers: [] });
  const begunAt = performance.now();
  const runbook = buildRunbook(planned);
  planMs.push(performance.now() - begunAt);
  if (!runbook.ok) throw new Error(runbook.problems[0]?.sentence);
  if (custodyAlarms(runbook.value.steps, dataSets).length > 0) throw new Error('a data set would be lost');
  return runbook.value.steps.length;
}

/** Plans for a disk with as many partitions as anybody has, with room for a second system to be made between them. */
function crowdedPlans(): readonly number[] {
  const mib = 2048;
  const partition = (index: number) => ({
    number: index + 1,
    startLba: mib + index * 30_000 * mib,
    sectorCount: 29_900 * mib,
    role: index === 0 ? ('efi' as const) : index === 2 ? ('system' as const) : ('data' as const),
    fileSystem: index === 0 ? 'fat32' : 'ntfs',
    usedBytes: index === 0 ? 50_000_000 : 9_000_000_000,
  });
  const disks = [
    {
      name: 'sda',
      serial: 'BENCH-16',
      bus: 'sata' as const,
      rotational: false,
      removable: false,
      sectorBytes: 512,
      sectorCount: 1_000_215_216,
      scheme: 'gpt' as const,
      health: 'good' as const,
      partitions: Array.from({ length: 16 }, (_none, index) => partition(index)),
    },
  ];
  return devices.slice(0, 60).map((device) => {
    const { diskEncryption: _encryption, ...rest } = device;
    const facts = withFacts(rest, { disks, firmwareMode: 'uefi', diskEncryption: 'off' });
    const input = decisionInput({
      facts,
      catalogue,
      houseRules: defaultHouseRules,
      today,
      wish,
      soFar: {
        exceptions: [],
        dataSets: [],
        destinations: [],
        preparation: nothingPrepared,
        capsules: [],
        timedCopies: [],
        diskPlan: {
          disk: 'sda',
          serial: 'BENCH-16',
          work: { kind: 'layout', goal: { kind: 'room', sizeBytes: 40_000_000_000 } },
          at: now,
          by: 'bench',
        },
        decision: null,
      },
    });
    const begunAt = performance.now();
    const built = buildRunbook(
      planInput(input, {
        routeId: 'beside-same-disk',
        releaseId: 'saltbush-full',
        bringing: 'stick',
        waivers: [],
      }),
    );
    if (!built.ok) throw new Error(built.problems[0]?.sentence);
    return performance.now() - begunAt;
  });
}

let peakBytes = 0;
texts.slice(0, 300).forEach(walk);
planMs.length = 0;
const cpuBefore = process.cpuUsage();
const started = performance.now();
let steps = 0;
texts.forEach((text, index) => {
  steps += walk(text);
  if (index % 500 === 0) peakBytes = Math.max(peakBytes, process.memoryUsage().rss);
});
const seconds = (performance.now() - started) / 1000;
// Time on the processor itself: on a shared machine the clock also counts what others took.
const { user, system } = process.cpuUsage(cpuBefore);
const cpuSeconds = (user + system) / 1e6;
const [cpu] = cpus();
console.log(
  `machine: ${cpus().length} × ${cpu?.model ?? 'unknown'}, ${(totalmem() / 1024 ** 3).toFixed(1)} GiB, Node ${process.versions.node}`,
);
console.log(
  `survey → assessment → routes → runbook: ${deviceCount} devices × ${catalogue.releases.length} releases, ${steps} steps`,
);
console.log(
  `${Math.round(deviceCount / seconds)} devices a second on one core (aim 2000), ${seconds.toFixed(2)} s by the clock and ${cpuSeconds.toFixed(2)} s of processor, peak memory ${(peakBytes / 1e6).toFixed(0)} MB`,
);

console.log(
  `one plan with its carrying-out: median ${medianOf(planMs).toFixed(1)} ms, longest ${Math.max(...planMs).toFixed(0)} ms (aim 20)`,
);
console.log(
  `the same, with work on a disk of 16 partitions: median ${medianOf(crowdedPlans()).toFixed(1)} ms (aim 50)`,
);

const fleetStarted = performance.now();
const candidates = decideAll(devices, catalogue);
const fleetSeconds = (performance.now() - fleetStarted) / 1000;
console.log(
  `assessed and routed: ${deviceCount} devices × ${catalogue.releases.length} releases, ${candidates} candidates in ${fleetSeconds.toFixed(2)} s on one core (aim under 10 s)`,
);
const [sample] = devices;
if (sample) {
  const input = decisionInput({ facts: sample, catalogue, houseRules: defaultHouseRules, today, wish });
  const askedAt = performance.now();
  const { tries } = whatWouldChange(input, decide(input));
  console.log(
    `what would change the advice of one device: ${tries} classes of facts tried in ${(performance.now() - askedAt).toFixed(0)} ms`,
  );
}
