import fc from 'fast-check';
import { afterAll, describe, expect, it } from 'vitest';
import type { DataSet } from '../../src/backup';
import { parseWith } from '../../src/outcome';
import { addMinutes } from '../../src/quantity';
import {
  chooseRoute,
  exportMove,
  importMove,
  makeFactUnknown,
  MoveSchema,
  overruleGate,
  plan,
  prepare,
  readPlan,
  setDataSets,
  setDestinations,
  signStep,
  stageOf,
  startStep,
  takeSurvey,
  tickCopy,
  joinDataSet,
  recordCheck,
  recordFileList,
  packDataSets,
  typeFact,
  unsignStep,
  type CommandContext,
  type CommandOutcome,
  type Move,
} from '../../src/record';
import { custodyOf, lineCrossed, standingOf } from '../../src/runbook';
import {
  documents,
  driveB7,
  emptyMove,
  laptopSurvey,
  now,
  pictures,
  share,
  technician,
  listHead,
} from '../fixtures/shop';
import { shownByInstaller } from '../fixtures/story';

/** Whatever anybody does, in any order: some of it is refused, and these laws hold after every step. */
type Deed = { readonly name: string; readonly act: (move: Move, context: CommandContext) => CommandOutcome };

const stepIds = [
  'forgotten-things',
  'copy:b-07',
  'verify:b-07',
  'copy:pier-store',
  'verify:pier-store',
  'record-licence',
  'write-stick',
  'fast-start-off',
  'charger',
  'identify-disk',
  'firmware:secure-boot-on',
  'firmware:tpm-on',
  'firmware:usb-start',
  'start-from-stick',
  'erase-disk',
  'format-system',
  'start-upgrade',
  'install',
  'stick-out',
  'first-start',
  'updates',
  'isolate',
  'end-date',
] as const;

const stepId = fc.constantFrom(...stepIds);

const deed: fc.Arbitrary<Deed> = fc.oneof(
  {
    weight: 6,
    arbitrary: stepId.map((id): Deed => ({
      name: `sign ${id}`,
      act: (move, context) =>
        signStep(
          move,
          id,
          { actualMinutes: null, note: 'as it was done', crossing: shownByInstaller },
          context,
        ),
    })),
  },
  {
    weight: 2,
    arbitrary: stepId.map((id): Deed => ({
      name: `start ${id}`,
      act: (move, context) => startStep(move, id, context),
    })),
  },
  {
    weight: 1,
    arbitrary: stepId.map((id): Deed => ({
      name: `unsign ${id}`,
      act: (move, context) => unsignStep(move, id, 'A slip of the hand.', context),
    })),
  },
  { weight: 2, arbitrary: fc.constant<Deed>({ name: 'plan', act: plan }) },
  {
    weight: 2,
    arbitrary: fc
      .constantFrom(
        ['in-place-upgrade', 'corvel-10-business'] as const,
        ['clean-whole-disk', 'corvel-10-business'] as const,
        ['clean-system-partition', 'corvel-10-business'] as const,
        ['hold', null] as const,
      )
      .map(([routeId, releaseId]): Deed => ({
        name: `choose ${routeId}`,
        act: (move, context) => chooseRoute(move, { routeId, releaseId, reason: 'Because.' }, context),
      })),
  },
  {
    weight: 1,
    arbitrary: fc.subarray([documents, pictures]).map((sets): Deed => ({
      name: `${sets.length} data sets`,
      act: (move, context) => setDataSets(move, sets, context),
    })),
  },
  {
    weight: 1,
    arbitrary: fc.subarray([driveB7, share]).map((list): Deed => ({
      name: `${list.length} destinations`,
      act: (move, context) =>
        setDestinations(
          move,
          list.map((destination) => ({ ...destination, takes: move.dataSets.map(({ id }) => id) })),
          context,
        ),
    })),
  },
  {
    weight: 2,
    arbitrary: fc
      .tuple(
        fc.constantFrom('documents', 'pictures'),
        fc.constantFrom('b-07', 'pier-store'),
        fc.constantFrom(0, 0, 3),
      )
      .map(([dataSetId, destinationId, count]): Deed => ({
        name: `compare ${dataSetId} ${destinationId}: ${count} differ`,
        act: (move, context) =>
          recordCheck(
            move,
            {
              dataSetId,
              destinationId,
              check: { method: 'full', files: 10 },
              count,
              files: count === 0 ? [] : [{ kind: 'changed', path: 'a.txt' }],
            },
            context,
          ),
      })),
  },
  {
    weight: 1,
    arbitrary: fc
      .tuple(fc.constantFrom('documents', 'pictures'), fc.constantFrom('before', 'after'), fc.nat({ max: 3 }))
      .map(([dataSetId, role, files]): Deed => ({
        name: `list of ${dataSetId} ${role}`,
        act: (move, context) =>
          recordFileList(move, listHead({ dataSetId, role, fileCount: 10 + files }), context),
      })),
  },
  {
    weight: 1,
    arbitrary: fc.constantFrom('documents', 'pictures').map((dataSetId): Deed => ({
      name: `split ${dataSetId}`,
      act: (move, context) => {
        const { sizeBytes, fileCount } = move.dataSets.find(({ id }) => id === dataSetId) ?? documents;
        const half = { largestFileBytes: 1, destinationIds: ['b-07'] };
        return packDataSets(
          move,
          move.dataSets.map((dataSet) => ({
            dataSetId: dataSet.id,
            parts:
              dataSet.id === dataSetId
                ? [
                    { ...half, places: ['a'], sizeBytes, fileCount: 1 },
                    { ...half, places: ['b'], sizeBytes: 0, fileCount: fileCount - 1 },
                  ]
                : [{ ...half, ...dataSet, places: [''] }],
          })),
          context,
        );
      },
    })),
  },
  {
    weight: 1,
    arbitrary: fc.constantFrom('documents', 'pictures').map((id): Deed => ({
      name: `put ${id} together`,
      act: (move, context) => joinDataSet(move, id, context),
    })),
  },
  {
    weight: 2,
    arbitrary: fc
      .tuple(fc.constantFrom('documents', 'pictures'), fc.constantFrom('b-07', 'pier-store'), fc.boolean())
      .map(([dataSetId, destinationId, verified]): Deed => ({
        name: `tick ${dataSetId} ${destinationId}`,
        act: (move, context) => tickCopy(move, { dataSetId, destinationId, verified }, context),
      })),
  },
  {
    weight: 1,
    arbitrary: fc.constantFrom('on', 'off').map((value): Deed => ({
      name: `encryption ${value}`,
      act: (move, context) => typeFact(move, 'diskEncryption', value, context),
    })),
  },
  {
    weight: 1,
    arbitrary: fc.constant<Deed>({ name: 'forget disks', act: (move) => makeFactUnknown(move, 'disks') }),
  },
  {
    weight: 1,
    arbitrary: fc.constant<Deed>({
      name: 'survey again',
      act: (move, context) => takeSurvey(move, laptopSurvey, 'collector', context),
    }),
  },
  {
    weight: 2,
    arbitrary: fc.constant<Deed>({
      name: 'get ready',
      act: (move, context) =>
        prepare(
          move,
          {
            stick: { name: 'S-03', serial: 'C7' },
            licence: { kind: 'digital', keptWhere: 'safe' },
            recoveryKey: { keptWhere: 'safe' },
            diskMarks: { serialEnd: '9C2E', sizeGigabytes: 256 },
            power: {},
            networkDriver: { how: 'stick' },
          },
          context,
        ),
    }),
  },
  {
    weight: 1,
    arbitrary: fc
      .constantFrom('power', 'copies-verified', 'steps-above-signed', 'plan-current')
      .map((gate): Deed => ({
        name: `overrule ${gate}`,
        act: (move, context) => overruleGate(move, gate, 'Agreed with the pier master.', context),
      })),
  },
);

const role = fc.constantFrom('technician' as const, 'lead' as const);
const story = fc.array(fc.tuple(deed, role), { minLength: 5, maxLength: 60 });

function contextAt(minute: number, actor: 'technician' | 'lead'): CommandContext {
  return { ...technician, actor: { name: actor, role: actor }, now: addMinutes(now, minute) };
}

/** Plays a story and hands each change to the law: the move before, the move after, and what was done. */
/** How much was really done: a law that nothing exercises says nothing. */
const tried = { stories: 0, deeds: 0, done: 0 };
afterAll(() => {
  expect(tried.stories).toBeGreaterThanOrEqual(500);
  expect(tried.deeds).toBeGreaterThan(8000);
  expect(tried.done).toBeGreaterThan(2500);
});

function play(
  deeds: readonly (readonly [Deed, 'technician' | 'lead'])[],
  law: (before: Move, after: Move, deed: Deed, context: CommandContext) => void,
): Move {
  let move = emptyMove;
  tried.stories += 1;
  tried.deeds += deeds.length;
  deeds.forEach(([one, actor], minute) => {
    const context = contextAt(minute, actor);
    const outcome = one.act(move, context);
    if (!outcome.ok) {
      for (const { sentence } of outcome.problems) expect(sentence).toMatch(/[.!?]$/);
      return;
    }
    tried.done += 1;
    law(move, outcome.value.move, one, context);
    move = outcome.value.move;
  });
  return move;
}

describe('whatever anybody does, in any order', () => {
  it('nobody crosses the Line while a gate is closed', () => {
    fc.assert(
      fc.property(story, (deeds) => {
        play(deeds, (before, after, _deed, context) => {
          if (
            !before.plan ||
            !after.plan ||
            lineCrossed(before.plan.runbook, before.signatures) ||
            !lineCrossed(after.plan.runbook, after.signatures)
          )
            return;
          const closed = readPlan(before, context)?.gates.filter(({ state }) => state === 'closed');
          expect(closed).toEqual([]);
        });
      }),
    );
  });

  it('the history of signatures only grows', () => {
    fc.assert(
      fc.property(story, (deeds) => {
        play(deeds, (before, after) =>
          expect(after.signatures.slice(0, before.signatures.length)).toEqual(before.signatures),
        );
      }),
    );
  });

  it('no plan ever leaves a data set without a good copy', () => {
    fc.assert(
      fc.property(story, (deeds) => {
        play(deeds, (_before, after, { name }) => {
          if (name !== 'plan' || !after.plan) return;
          for (const { counts } of custodyOf(after.plan.runbook.steps, after.dataSets))
            expect(Math.min(...counts)).toBeGreaterThan(0);
        });
      }),
    );
  });

  it('below the Line steps are signed in order', () => {
    fc.assert(
      fc.property(story, (deeds) => {
        const move = play(deeds, () => undefined);
        const { runbook } = move.plan ?? {};
        if (runbook?.lineIndex == null) return;
        const states = runbook.steps
          .slice(runbook.lineIndex)
          .map(({ id }) => standingOf(move.signatures, id).state === 'signed');
        // A run of signed steps, then only unsigned ones; a plan made again may bring new steps in between.
        if (
          readPlan(move, technician)?.differences.length === 0 &&
          !deeds.some(([{ name }], index) => index > 0 && name === 'plan')
        )
          expect(states).toEqual([...states].sort((a, b) => Number(b) - Number(a)));
      }),
    );
  });

  it('a copy counts only where its destination takes its data set', () => {
    fc.assert(
      fc.property(story, (deeds) => {
        play(deeds, (_before, after) => {
          for (const { dataSetId, destinationId } of after.copies)
            expect(
              after.destinations.some(({ id, takes }) => id === destinationId && takes.includes(dataSetId)),
            ).toBe(true);
          expect(
            new Set(after.copies.map(({ dataSetId, destinationId }) => `${dataSetId} ${destinationId}`)).size,
          ).toBe(after.copies.length);
        });
      }),
    );
  });

  it('a copy that differs never counts, and closes the gate of every plan', () => {
    fc.assert(
      fc.property(story, (deeds) => {
        play(deeds, (_before, after) => {
          for (const { dataSetId, destinationId } of after.failedChecks) {
            expect(
              after.copies.some(
                (copy) => copy.dataSetId === dataSetId && copy.destinationId === destinationId,
              ),
            ).toBe(false);
            expect(
              after.destinations.some(({ id, takes }) => id === destinationId && takes.includes(dataSetId)),
            ).toBe(true);
          }
          const gate = readPlan(after, technician)?.gates.find(({ id }) => id === 'copies-verified');
          if (after.failedChecks.length > 0 && gate) expect(gate.state).not.toBe('green');
        });
      }),
    );
  });

  it('splitting and putting together loses no file and no byte', () => {
    fc.assert(
      fc.property(story, (deeds) => {
        play(deeds, (before, after, { name }) => {
          if (!name.startsWith('split') && !name.startsWith('put')) return;
          const sum = (move: Move, of: (dataSet: DataSet) => number) =>
            move.dataSets.reduce((total, dataSet) => total + of(dataSet), 0);
          expect(sum(after, ({ sizeBytes }) => sizeBytes)).toBe(sum(before, ({ sizeBytes }) => sizeBytes));
          expect(sum(after, ({ fileCount }) => fileCount)).toBe(sum(before, ({ fileCount }) => fileCount));
        });
      }),
    );
  });

  it('only leads leave an overrule behind', () => {
    fc.assert(
      fc.property(story, (deeds) => {
        const { overrules } = play(deeds, () => undefined);
        for (const { by, reason } of overrules) expect([by, reason.length >= 10]).toEqual(['lead', true]);
      }),
    );
  });

  it('the record stays one that its own schema takes, in some stage, and goes out and in again the same', () => {
    fc.assert(
      fc.property(story, (deeds) => {
        const move = play(deeds, () => undefined);
        expect(parseWith(MoveSchema, move)).toEqual({ ok: true, value: move });
        expect(stageOf(move)).not.toBe('done');
        const document = importMove(JSON.parse(JSON.stringify(exportMove(move, []))));
        expect(document.ok && document.value.move).toEqual(move);
      }),
    );
  });
});
