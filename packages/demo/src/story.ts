import { listOf, proposeDataSets } from '@ulvane/core/backup';
import { addDays, addMinutes, gibibyteBytes } from '@ulvane/core/quantity';
import {
  accountFor,
  chooseRoute,
  diskOfPlan,
  keepBackup,
  noteHandover,
  overruleGate,
  decideInput,
  plan,
  prepare,
  readPlan,
  setDataSets,
  setDestinations,
  setIdentity,
  signOff,
  tellOwner,
  thingsToTell,
  signStep,
  startStep,
  stateWish,
  takeSurvey,
  typeFact,
  unsignStep,
  type House,
  type Move,
} from '@ulvane/core/record';
import { decide, type Candidate } from '@ulvane/core/decide';
import { isApart, routes, type RouteId } from '@ulvane/core/route';
import { isolationIds, isSigned, lineCrossed, type Crossing } from '@ulvane/core/runbook';
import { diskBytes, systemDisk, valueOf, type Survey } from '@ulvane/core/survey';
import { compareCopies, compareCopy } from './copyStory';
import { planSomeDiskWork } from './diskStory';
import { compareFiles, readFiles } from './fileStory';
import { between, pick, type Random } from './random';
import type { Recorder } from './recorder';
import { tickUntilCopying } from './answerStory';
import { tellTroubleAt } from './troubleStory';
import type { DemoTables, Group, Progress } from './tables';

type StoryInput = {
  readonly progress: Progress;
  readonly random: Random;
  readonly tables: DemoTables;
  readonly group: Group;
  readonly house: House;
  readonly survey: Survey;
  readonly site: string;
  readonly dueOn: string;
  /** The instant that the demo shows. */
  readonly until: string;
  readonly forcedRoute: RouteId | undefined;
};

const order: readonly Progress[] = [
  'none',
  'surveyed',
  'decided',
  'saved',
  'planned',
  'half',
  'settling',
  'done',
];

function reaches(progress: Progress, stage: Progress): boolean {
  const like: Progress =
    progress === 'trouble' || progress === 'stale' || progress === 'crossing' ? 'planned' : progress;
  return order.indexOf(like) >= order.indexOf(stage);
}

/** Tells one move as far as its progress says. */
export function tellStory(recorder: Recorder, input: StoryInput): void {
  const { progress } = input;
  const technician = pick(input.random, input.tables.colleagues.technicians);
  recorder.play(technician, (move) =>
    setIdentity(move, { owner: input.group.owner, site: input.site, dueOn: input.dueOn }),
  );
  if (progress === 'none') return;
  recorder.wait(between(input.random, 4, 15));
  recorder.play(technician, (move, context) =>
    takeSurvey(move, withGaps(input, progress), 'collector', context),
  );
  // This house leaves what gets no fixes any more, or soon will not.
  recorder.play(technician, (move, context) =>
    stateWish(move, { purpose: 'support-ends', until: null }, context),
  );
  if (progress === 'hold') return tellHold(recorder, technician, input);
  if (!reaches(progress, 'decided')) return;
  recorder.wait(between(input.random, 3, 12));
  if (!choose(recorder, technician, input)) return;
  if (!reaches(progress, 'saved')) return;
  listAndCopy(recorder, technician, input);
  if (!reaches(progress, 'planned')) return;
  readFiles(recorder, technician);
  getReady(recorder, technician, input);
  if (progress === 'planned' || progress === 'half') planSomeDiskWork(recorder, technician);
  recorder.wait(2);
  recorder.play(technician, plan);
  if (progress === 'trouble') return tellTrouble(recorder, technician, input);
  if (progress === 'stale') return tellStale(recorder, technician);
  if (progress === 'planned') return signSome(recorder, technician, input, between(input.random, 0, 3));
  if (progress === 'half') return signHalf(recorder, technician, input);
  if (progress === 'crossing') return crossNow(recorder, technician, input);
  crossAndSettle(recorder, technician, input, progress === 'settling');
  if (progress === 'done') finish(recorder, technician, input);
}

/** Some surveys that nobody has acted on yet lack facts. */
function withGaps({ survey, random }: StoryInput, progress: Progress): Survey {
  if (progress !== 'surveyed' || random() < 0.4) return survey;
  const { display: _display, ...rest } = survey;
  const { tpm: _tpm, ...firmware } = survey.firmware ?? {};
  return {
    ...rest,
    firmware,
    collector: { version: '1.0.0', asRoot: false, rootWouldAdd: ['device serial'] },
  };
}

function choose(
  recorder: Recorder,
  technician: string,
  { house, group, random, forcedRoute }: StoryInput,
): boolean {
  const { candidates, advised } = decide(decideInput(recorder.current, house, recorder.now.slice(0, 10)));
  const allowed = candidates.filter((one) => one.status === 'allowed' && !isApart(one));
  const preferred = allowed.find(({ routeId }) => routeId === group.preferredRoute);
  const forced = allowed.find(({ routeId }) => routeId === forcedRoute);
  const chosen: Candidate = forced ?? (random() < 0.6 ? preferred : undefined) ?? advised;
  if (isApart(chosen)) return false;
  const reason =
    chosen === advised
      ? null
      : pick(random, [
          'The present system is slow and carries years of leftovers.',
          'The owner asked for a fresh start and has a data partition.',
          'Same treatment as the other devices of this desk.',
        ]);
  recorder.play(technician, (move, context) =>
    chooseRoute(
      move,
      {
        routeId: chosen.routeId,
        releaseId: chosen.releaseId,
        reason,
        waivers: chosen.waivers.map(({ rule }) => rule),
      },
      context,
    ),
  );
  return true;
}

function listAndCopy(recorder: Recorder, technician: string, { tables, random }: StoryInput): void {
  const sets = proposeDataSets(recorder.current.folders, recorder.current.facts, []);
  const extra = [
    {
      id: 'bookmarks',
      name: 'Browser bookmarks',
      kind: 'browser' as const,
      path: '',
      sizeBytes: 184_320,
      fileCount: 1,
      largestFileBytes: 184_320,
      place: 'system-partition' as const,
    },
    {
      id: 'printers',
      name: 'Printer list',
      kind: 'settings' as const,
      path: '',
      sizeBytes: 2_140,
      fileCount: 1,
      largestFileBytes: 2_140,
      place: 'system-partition' as const,
    },
  ];
  recorder.wait(6);
  recorder.play(technician, (move, context) => setDataSets(move, [...sets, ...extra], context));
  const takes = [...sets, ...extra].map(({ id }) => id);
  const [first, , share] = tables.destinations;
  const used = [first, share].filter((destination) => destination !== undefined);
  recorder.wait(2);
  recorder.play(technician, (move, context) =>
    setDestinations(
      move,
      used.map((destination) => ({
        ...destination,
        freeBytes: Math.round(destination.capacityBytes * (0.5 + random() * 0.3)),
        takes,
      })),
      context,
    ),
  );
}

function getReady(recorder: Recorder, technician: string, { tables, random }: StoryInput): void {
  const { facts, decision } = recorder.current;
  const chosenRoute = decision ? routes[decision.routeId] : undefined;
  const disk = systemDisk(valueOf(facts, 'disks'));
  const activation = valueOf(facts, 'activation') ?? 'none';
  recorder.wait(5);
  recorder.play(technician, (move, context) =>
    prepare(
      move,
      {
        stick: pick(random, tables.sticks),
        ...(decision?.routeId === 'alternative-system' || activation === 'none'
          ? {}
          : { licence: { kind: activation, keptWhere: 'folder Licences in the office safe' } }),
        ...(valueOf(facts, 'diskEncryption') === 'on'
          ? { recoveryKey: { keptWhere: 'sealed envelope 14, office safe' } }
          : {}),
        ...(chosenRoute?.hasTarget ? { passphrase: { keptWhere: 'the vault of this move' } } : {}),
        ...(disk?.serial === undefined
          ? {}
          : {
              diskMarks: {
                serialEnd: disk.serial.slice(-4),
                sizeGigabytes: Math.round(diskBytes(disk) / 1e8) / 10,
              },
            }),
        ...(chosenRoute?.consent.length
          ? {
              ownerConsent: { signer: recorder.current.owner, keptWhere: 'folder Consents, office' },
              organisationConsent: { signer: tables.colleagues.lead, keptWhere: 'folder Consents, office' },
            }
          : {}),
        ...(decision?.routeId === 'replace'
          ? { replacement: { maker: 'Kestle', model: 'Sill', serial: 'KSL-9054-2C7' } }
          : {}),
        power: {},
        networkDriver: { how: 'Driver on stick S-04, tried on a device of the same model' },
      },
      context,
    ),
  );
}

/** What the installer's page shows of the disk, for the step at the Line. */
function crossingAt(move: Move, stepId: string): Crossing | undefined {
  const { runbook } = move.plan ?? {};
  if (!runbook || runbook.lineIndex === null || runbook.steps[runbook.lineIndex]?.id !== stepId)
    return undefined;
  const disk = diskOfPlan(move);
  return disk?.serial === undefined
    ? undefined
    : {
        serialEnd: disk.serial.slice(-4),
        sizeShown: Math.round((diskBytes(disk) / gibibyteBytes) * 10) / 10,
      };
}

/** Settings of a few bytes: their second copy is left to a statement, where the route keeps the data or nobody has looked yet. */
function statedIn({ decision }: Move, nobodyLooked: boolean): readonly string[] {
  const kept = decision !== null && routes[decision.routeId].writesOver === 'nothing';
  return kept || nobodyLooked ? ['printers'] : [];
}

/** Signs the next steps that are open, starting the wait of those that have one. */
function signSome(
  recorder: Recorder,
  technician: string,
  { random, house, until, progress, tables }: StoryInput,
  count: number,
  stopBefore?: (kind: string) => boolean,
): void {
  for (let done = 0; done < count; done += 1) {
    const move = recorder.current;
    const next = readPlan(move, house)?.standings.find(({ state }) => state === 'open');
    const step = move.plan?.runbook.steps.find(({ id }) => id === next?.stepId);
    // The last two are signed by what is said on Hand over.
    if (!step || step.kind === 'sign-off' || step.kind === 'reconcile' || stopBefore?.(step.kind)) return;
    recorder.wait(between(random, Math.max(1, Math.floor(step.handsOn.low)), Math.max(2, step.handsOn.high)));
    if (recorder.now >= until) return;
    if (tellTroubleAt(recorder, technician, tables, step)) return;
    let waited = 0;
    if (step.waiting.likely > 0) {
      recorder.play(technician, (current, context) =>
        startStep(current, step.id, context, crossingAt(current, step.id) ?? null),
      );
      // A wait that is not over by now is left running.
      if (addMinutes(recorder.now, step.waiting.likely * 1.3) > until) return;
      waited = Math.round(step.waiting.likely * (0.8 + random() * 0.5));
      recorder.wait(waited);
    }
    const smooth = random() < 0.08 ? 'went smoothly' : '';
    const note = step.kind === 'habits' ? 'Opens things with one click; mail in large letters.' : smooth;
    compareCopies(recorder, technician, step, statedIn(recorder.current, progress === 'half'));
    if (isSigned(recorder.current.signatures, step.id)) continue;
    const noted = notedAt[step.kind];
    if (noted) recorder.play(technician, (current, context) => prepare(current, noted, context));
    recorder.play(technician, (current, context) =>
      signStep(
        current,
        step.id,
        {
          actualMinutes: waited > 0 ? waited : null,
          note,
          crossing: crossingAt(current, step.id),
        },
        context,
      ),
    );
  }
}

/** What is noted on Prepare when a step is done, before it can be signed. */
const notedAt: Readonly<Partial<Record<string, Parameters<typeof prepare>[1]>>> = {
  'move-data': { dataMoved: { statement: 'Copied from the backup, two lists of files compared.' } },
  'wipe-old-disk': { wipe: { method: 'Overwritten once, then a tenth of it read: nothing but zeros.' } },
  disposal: { disposal: { how: 'Handed to the harbour’s recycling yard, receipt 118.' } },
};

/** Somewhere before the Line, on the bench, often with a wait under way. */
function signHalf(recorder: Recorder, technician: string, input: StoryInput): void {
  signSome(
    recorder,
    technician,
    input,
    between(input.random, 2, 6),
    (kind) =>
      kind === 'start-upgrade' ||
      kind === 'erase-disk' ||
      kind === 'format-system' ||
      kind === 'convert-scheme' ||
      kind === 'move-data' ||
      kind === 'install-beside',
  );
  const next = readPlan(recorder.current, input.house)?.standings.find(({ stepId, state }) => {
    const step = recorder.current.plan?.runbook.steps.find(({ id }) => id === stepId);
    return state === 'open' && step !== undefined && step.waiting.likely >= 5;
  });
  if (!next) return;
  recorder.jumpTo(new Date(Date.parse(input.until) - between(input.random, 2, 40) * 60_000).toISOString());
  recorder.play(technician, (move, context) => startStep(move, next.stepId, context));
}

/** Over the Line, with the long wait of the install or the upgrade under way; or held up by what went wrong after it. */
function crossNow(recorder: Recorder, technician: string, input: StoryInput): void {
  const heldUp = input.tables.troubles.find(
    ({ reference, detour }) => reference === recorder.current.reference && detour === null,
  );
  if (heldUp) return crossInto(recorder, technician, input, heldUp.step);
  signSome(recorder, technician, input, 40, (kind) => kind === 'install' || kind === 'start-upgrade');
  const next = readPlan(recorder.current, input.house)?.standings.find(({ state }) => state === 'open');
  if (!next) return;
  tickUntilCopying(recorder, technician, input.house);
  recorder.jumpTo(addMinutes(input.until, -between(input.random, 6, 18)));
  recorder.play(technician, (move, context) => startStep(move, next.stepId, context));
}

/** As far as the step at which something goes wrong, a few minutes ago. */
function crossInto(recorder: Recorder, technician: string, input: StoryInput, kind: string): void {
  signSome(recorder, technician, input, 40, (next) => next === kind);
  recorder.jumpTo(addMinutes(input.until, -12));
  signSome(recorder, technician, input, 1);
}

function crossAndSettle(
  recorder: Recorder,
  technician: string,
  input: StoryInput,
  stopInSettle: boolean,
): void {
  signSome(
    recorder,
    technician,
    input,
    40,
    (kind) => (stopInSettle && (kind === 'drivers' || kind === 'restore')) || kind === 'reconcile',
  );
}

function finish(recorder: Recorder, technician: string, input: StoryInput): void {
  const { dataSets } = recorder.current;
  recorder.wait(12);
  compareFiles(recorder, technician);
  const found = dataSets
    .filter((dataSet) => !listOf(recorder.current.fileLists, dataSet, 'before'))
    .map(({ id, fileCount, sizeBytes }) => ({ dataSetId: id, fileCount, sizeBytes, explanation: '' }));
  const keepUntil = addDays(recorder.now, input.house.houseRules.keepBackupDays);
  recorder.play(technician, (move, context) =>
    noteHandover(
      move,
      {
        found,
        openPoints: input.random() < 0.3 ? ['Second screen cable to be brought.'] : [],
      },
      context,
    ),
  );
  recorder.current.destinations
    .filter(({ takes }) => takes.length > 0)
    .forEach(({ id, name }, index) =>
      recorder.play(technician, (move, context) =>
        keepBackup(
          move,
          {
            destinationId: id,
            label: `${name}: ${move.reference}`,
            place: index === 0 ? 'office safe' : 'pier store',
            keepUntil,
          },
          context,
        ),
      ),
    );
  // Accounting for every file has signed itself; the owner reads the sheet.
  const accounting = recorder.current.plan?.runbook.steps.find(({ kind }) => kind === 'reconcile');
  if (accounting) {
    const { low, high } = accounting.handsOn;
    recorder.wait(between(input.random, Math.max(1, Math.floor(low)), Math.max(2, high)));
    input.random();
  }
  for (const { sentence } of thingsToTell(recorder.current))
    recorder.play(technician, (move, context) => tellOwner(move, { sentence, told: true }, context));
  if (accountFor(recorder.current).every(({ state }) => state !== 'open'))
    recorder.play(technician, (move, context) => signOff(move, input.group.owner, context));
}

function tellHold(recorder: Recorder, technician: string, input: StoryInput): void {
  const { tables, house } = input;
  if (staysAsItIs(recorder, technician, input)) return;
  const { advised } = decide(decideInput(recorder.current, house, recorder.now.slice(0, 10)));
  const reason =
    advised.routeId === 'hold' ? null : 'Nobody has time before the season ends; isolated until then.';
  recorder.wait(5);
  recorder.play(technician, (move, context) =>
    chooseRoute(move, { routeId: 'hold', releaseId: null, reason }, context),
  );
  listAndCopy(recorder, technician, input);
  recorder.play(technician, (move, context) =>
    prepare(move, { holdUntil: addDays(recorder.now, 90), isolation: { done: [...isolationIds] } }, context),
  );
  recorder.play(technician, plan);
  signSome(recorder, technician, input, 5, (kind) => kind === 'end-date');
  const step = recorder.current.plan?.runbook.steps.find(({ kind }) => kind === 'end-date');
  if (step && !isSigned(recorder.current.signatures, step.id))
    recorder.play(
      tables.colleagues.lead,
      (move, context) =>
        signStep(move, step.id, { actualMinutes: 3, note: 'agreed with the pier master' }, context),
      'lead',
    );
}

/** What still gets fixes is not held: it stays as it is, and the day on which they end is noted. */
function staysAsItIs(recorder: Recorder, technician: string, input: StoryInput): boolean {
  const { house } = input;
  const options = () => decide(decideInput(recorder.current, house, recorder.now.slice(0, 10)));
  if (!options().candidates.some(({ routeId, status }) => routeId === 'stay' && status === 'allowed'))
    return false;
  recorder.play(technician, (move, context) => stateWish(move, null, context));
  recorder.play(technician, (move, context) =>
    chooseRoute(move, { routeId: 'stay', releaseId: null, reason: null }, context),
  );
  recorder.play(technician, plan);
  signSome(recorder, technician, input, 1);
  return true;
}

/** A checksum differed: the tick was taken back, and a lead overruled another gate for the ferry's sake. */
function tellTrouble(recorder: Recorder, technician: string, input: StoryInput): void {
  const [first] = recorder.current.destinations;
  const [dataSet] = recorder.current.dataSets;
  if (!first || !dataSet) return;
  signSome(recorder, technician, input, 3);
  const verify = recorder.current.plan?.runbook.steps.find(({ id }) => id === `verify:${first.id}`);
  if (verify && isSigned(recorder.current.signatures, verify.id))
    recorder.play(technician, (move, context) =>
      unsignStep(move, verify.id, 'A checksum differed when the drive was read a second time.', context),
    );
  recorder.wait(9);
  if (first.takes.includes(dataSet.id)) compareCopy(recorder, technician, dataSet, first.id, true);
  recorder.play(technician, (move, context) => prepare(move, { power: null }, context));
  if (recorder.current.plan && !lineCrossed(recorder.current.plan.runbook, recorder.current.signatures))
    recorder.play(
      input.tables.colleagues.lead,
      (move, context) =>
        overruleGate(
          move,
          'power',
          'The charger is at Lowholm; the battery is at 96 % and the mains of the dock is on.',
          context,
        ),
      'lead',
    );
}

/** Fast start was found off after the plan had been made. */
function tellStale(recorder: Recorder, technician: string): void {
  recorder.wait(30);
  const now = valueOf(recorder.current.facts, 'diskEncryption');
  recorder.play(technician, (move, context) =>
    typeFact(move, 'diskEncryption', now === 'on' ? 'off' : 'on', context),
  );
}
