import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Destination } from '../../src/backup';
import { defaultHouseRules, type HouseRules } from '../../src/rules';
import { runbookInput, setDestinations } from '../../src/record';
import { decide } from '../../src/decide';
import { isRouteId, routeIds, type RouteId } from '../../src/route';
import {
  buildRunbook,
  custodyAlarms,
  custodyNow,
  custodyOf,
  nothingPrepared,
  planDifferences,
  stepStandings,
  totalMinutes,
  troubleIds,
  type Runbook,
  type RunbookInput,
} from '../../src/runbook';
import type { Facts } from '../../src/survey';
import {
  documents,
  done,
  driveB7,
  laptop,
  laptopWith,
  now,
  share,
  splitDisk,
  technician,
  today,
  anyHouseRules,
  inputFor,
} from '../fixtures/shop';
import { inputOf } from '../fixtures/devices';
import { saved } from '../fixtures/story';

function built(input: RunbookInput): Runbook {
  const outcome = buildRunbook(input);
  if (!outcome.ok) throw new Error(outcome.problems.map(({ sentence }) => sentence).join(' '));
  return outcome.value;
}

const targets: readonly (readonly [RouteId, string | null])[] = [
  ['waived-upgrade', 'corvel-10-business'],
  ['waived-clean', 'corvel-10-business'],
  ['waived-system-partition', 'corvel-10-business'],
  ['patched-install', 'aurin-15'],
  ['beside-same-disk', 'saltbush-full'],
  ['beside-second-disk', 'saltbush-full'],
  ['replace', null],
  ['in-place-upgrade', 'corvel-10-business'],
  ['clean-whole-disk', 'corvel-10-business'],
  ['clean-system-partition', 'corvel-10-business'],
  ['alternative-system', 'saltbush-full'],
  ['hold', null],
];

const anyFacts: fc.Arbitrary<Facts> = fc
  .record({
    encryption: fc.constantFrom('on' as const, 'off' as const),
    fastStart: fc.constantFrom('on' as const, 'off' as const),
    secureBoot: fc.constantFrom('on' as const, 'off' as const),
    tpm: fc.constantFrom('2.0' as const, 'present-off' as const),
    chassis: fc.constantFrom('laptop' as const, 'desktop' as const),
    second: fc.boolean(),
  })
  .map(({ encryption, fastStart, secureBoot, tpm, chassis, second }) =>
    laptopWith({
      device: { maker: 'Kestle', model: 'Fenwright 14', year: 2017, chassis },
      firmware: { mode: 'uefi', secureBoot, tpm },
      disks: second
        ? [splitDisk, { ...splitDisk, name: 'sdb', serial: 'BL77A0', partitions: [] }]
        : [splitDisk],
      system: {
        release: 'corvel-9-business',
        language: 'en',
        activation: 'digital',
        diskEncryption: encryption,
        fastStart,
        applications: [],
      },
    }),
  );

const anyInput = fc
  .tuple(fc.constantFrom(...targets), anyHouseRules, anyFacts)
  .map(([[routeId, releaseId], houseRules, facts]) => inputFor(routeId, releaseId, { houseRules, facts }));

describe('the Line', () => {
  it('stands before the first destructive step, on every route, house rules and survey', () => {
    fc.assert(
      fc.property(anyInput, (input) => {
        const { steps, lineIndex, gates } = built(input);
        const destructive = steps.flatMap((step, index) => (step.destructive ? [index] : []));
        expect(lineIndex).toBe(destructive[0] ?? null);
        if (lineIndex !== null) expect(gates.length).toBeGreaterThan(5);
        expect(steps.slice(0, lineIndex ?? steps.length).some((step) => step.destructive)).toBe(false);
      }),
    );
  });

  it('keeps every step from it on locked while one gate is closed, and opens them one by one', () => {
    fc.assert(
      fc.property(anyInput, (input) => {
        const runbook = built(input);
        const line = runbook.lineIndex ?? runbook.steps.length;
        const closed = stepStandings(runbook, [], [{ id: 'power', sentence: 'Look at the light.' }]);
        closed.forEach(({ state }, index) => expect(state).toBe(index < line ? 'open' : 'locked'));
        const open = stepStandings(runbook, [], []);
        open.forEach(({ state }, index) => expect(state).toBe(index <= line ? 'open' : 'locked'));
      }),
    );
  });

  it('says what cannot be brought back', () => {
    expect(built(inputFor('clean-whole-disk', 'corvel-10-business')).lineSentence).toContain(
      'nothing on this disk',
    );
    expect(built(inputFor('hold', null))).toMatchObject({ lineIndex: null, lineSentence: null, gates: [] });
  });
});

describe('custody', () => {
  it('never touches zero: after every step every data set has a good copy', () => {
    fc.assert(
      fc.property(anyInput, (input) => {
        const { steps } = built(input);
        for (const { counts } of custodyOf(steps, input.dataSets))
          expect(Math.min(...counts)).toBeGreaterThanOrEqual(1);
      }),
    );
  });

  it('is worked by hand for a clean install: copied twice, erased, restored', () => {
    const { steps } = built(inputFor('clean-whole-disk', 'corvel-10-business', { dataSets: [documents] }));
    const [row] = custodyOf(steps, [documents]);
    const changes = steps.flatMap(({ kind }, index) =>
      row && row.counts[index + 1] !== row.counts[index] ? [[kind, row.counts[index + 1]]] : [],
    );
    expect(changes).toEqual([
      ['verify', 2],
      ['verify', 3],
      ['erase-disk', 2],
      ['restore', 3],
    ]);
  });

  it('is told as it is now: as planned where all was signed and verified, and less where a copy fell away', () => {
    const { steps } = built(inputFor('clean-whole-disk', 'corvel-10-business', { dataSets: [documents] }));
    const planned = custodyOf(steps, [documents])[0]?.counts ?? [];
    const sign = (upTo: number) =>
      steps.slice(0, upTo).map(({ id, title }) => ({
        stepId: id,
        title,
        action: 'sign' as const,
        at: now,
        by: 'Ines',
        actualMinutes: null,
        note: '',
      }));
    const copiesAt = (upTo: number) =>
      steps.slice(0, upTo).flatMap(({ effects }) =>
        effects.flatMap((effect) =>
          effect.kind === 'verified-copy'
            ? [
                {
                  dataSetId: documents.id,
                  destinationId: effect.destinationId,
                  verifiedAt: now,
                  verifiedBy: 'Ines',
                },
              ]
            : [],
        ),
      );
    for (let upTo = 0; upTo <= steps.length; upTo += 1)
      expect(custodyNow(steps, sign(upTo), [documents], copiesAt(upTo)).get(documents.id)).toBe(
        planned[upTo],
      );
    // Both verifications are signed, and a newer list took one of them away.
    const erase = steps.findIndex(({ destructive }) => destructive);
    const [first, second] = copiesAt(erase);
    if (!first || !second) throw new Error('two copies are planned');
    const told = (copies: (typeof first)[]) =>
      custodyNow(steps, sign(erase), [documents], copies).get(documents.id);
    expect(told([first, second])).toBe(3);
    expect(told([second])).toBe(2);
    // Taken back, the erasing has not been.
    const taken = [
      ...sign(erase + 1),
      {
        stepId: steps[erase]?.id ?? '',
        title: '',
        action: 'unsign' as const,
        at: now,
        by: 'Ines',
        actualMinutes: null,
        note: '',
      },
    ];
    expect(custodyNow(steps, taken, [documents], [first, second]).get(documents.id)).toBe(3);
  });

  it('leaves data on another partition alone', () => {
    const { steps } = built(inputFor('clean-system-partition', 'corvel-10-business'));
    const erased = steps.flatMap(({ effects }) => effects.filter(({ kind }) => kind === 'erased'));
    expect(erased).toEqual([{ kind: 'erased', dataSetIds: ['documents'] }]);
  });

  it('refuses a plan that would lose a data set, and names it and the step', () => {
    const outcome = buildRunbook(
      inputFor('clean-whole-disk', 'corvel-10-business', {
        destinations: [{ ...driveB7, takes: ['documents'] }],
      }),
    );
    expect(!outcome.ok && outcome.problems).toEqual([
      expect.objectContaining({
        code: 'no-good-copy',
        path: '/dataSets/pictures',
        sentence: expect.stringContaining('Erase every partition'),
      }),
    ]);
    expect(custodyAlarms([], [documents])).toEqual([]);
  });

  it('is counted as the house counts: a cloud alone is no copy where it says so', () => {
    const cloud: Destination = {
      ...share,
      id: 'cloud',
      name: 'Cloud',
      kind: 'cloud',
      takes: ['documents', 'pictures'],
    };
    const move = done(setDestinations(saved(), [cloud], technician));
    const build = (cloudCopyCounts: boolean) => {
      const context = { ...technician, houseRules: { ...technician.houseRules, cloudCopyCounts } };
      const input = runbookInput(move, context);
      return input && buildRunbook(input);
    };
    const without = build(false);
    expect(without && !without.ok && without.problems.map(({ code }) => code)).toContain('no-good-copy');
    expect(build(true)?.ok).toBe(true);
  });

  it('refuses a destination that cannot hold what it takes', () => {
    const outcome = buildRunbook(
      inputFor('clean-whole-disk', 'corvel-10-business', {
        destinations: [{ ...driveB7, freeBytes: 1000 }, share],
      }),
    );
    expect(!outcome.ok && outcome.problems.map(({ code }) => code)).toEqual(['does-not-fit']);
  });
});

describe('the steps', () => {
  const kinds = (runbook: Runbook) => runbook.steps.map(({ kind }) => kind);
  const clean = (change: Partial<RunbookInput> = {}) =>
    built(inputFor('clean-whole-disk', 'corvel-10-business', change));
  const houseRules = (change: Partial<HouseRules>) =>
    clean({ houseRules: { ...defaultHouseRules, ...change } });

  it('have ids of their own, a why, and what to see when they worked', () => {
    for (const [routeId, releaseId] of targets) {
      const { steps } = built(inputFor(routeId, releaseId));
      expect(new Set(steps.map(({ id }) => id)).size).toBe(steps.length);
      for (const { why, success, waiting, handsOn } of steps) {
        expect(why.length * success.length).toBeGreaterThan(0);
        expect(handsOn.low <= handsOn.likely && handsOn.likely <= handsOn.high).toBe(true);
        expect(waiting.low <= waiting.likely && waiting.likely <= waiting.high).toBe(true);
      }
    }
  });

  it('take the stick out right after the install', () => {
    const list = kinds(clean());
    expect(list[list.indexOf('install') + 1]).toBe('stick-out');
  });

  it('name only signs that are known', () => {
    for (const { troubles: own } of clean().steps) for (const id of own) expect(troubleIds).toContain(id);
  });

  it('put encryption where the house wants it', () => {
    expect(kinds(houseRules({ encryption: 'after' }))).toContain('encrypt');
    expect(kinds(houseRules({ encryption: 'off' }))).not.toContain('encrypt');
    expect(
      houseRules({ encryption: 'during-setup' }).steps.find(({ kind }) => kind === 'first-start')?.why,
    ).toContain('encryption on now');
  });

  it('put the number for the size box into the step that needs it', () => {
    const wanted = clean({ preparation: { ...nothingPrepared, wantedSystemBytes: 90 * 1024 ** 3 } });
    // 92 160 + 260 + 16 + 780 MiB.
    expect(wanted.steps.find(({ kind }) => kind === 'erase-disk')?.why).toContain('93216');
  });

  it('tell the partition by number, label and size, and warn of the owner’s', () => {
    const step = built(inputFor('clean-system-partition', 'corvel-10-business')).steps.find(
      ({ kind }) => kind === 'format-system',
    );
    expect(step?.title).toBe('Format partition 3 on disk …9C2E');
    expect(step?.why).toContain('128.8 GB (120.0 GiB), label SYSTEM. Not partition 4');
  });

  it('name the usual boot keys where the table has neither model nor maker', () => {
    const stranger = laptopWith({ device: { maker: 'Nobody', model: 'Nothing' } });
    expect(clean({ facts: stranger }).steps.find(({ kind }) => kind === 'start-from-stick')?.title).toBe(
      'Start from the stick: F12, F11, F9 or Esc',
    );
  });

  it('add up', () => {
    const { steps } = clean();
    const { handsOn, waiting } = totalMinutes(steps);
    expect(handsOn.likely).toBe(steps.reduce((sum, step) => sum + step.handsOn.likely, 0));
    expect(waiting.likely).toBe(steps.reduce((sum, step) => sum + step.waiting.likely, 0));
  });

  it('are near what the candidate was estimated at', () => {
    const { candidates } = decide(inputOf(laptop));
    const candidate = candidates.find(
      ({ routeId, releaseId }) => routeId === 'clean-whole-disk' && releaseId === 'corvel-10-business',
    );
    const { handsOn } = totalMinutes(clean().steps);
    expect(Math.abs((candidate?.handsOnMinutes ?? 0) - handsOn.likely)).toBeLessThan(30);
  });
});

describe('a stale plan', () => {
  const made = built(inputFor('clean-whole-disk', 'corvel-10-business'));

  it('is one that would now be made differently, and says how', () => {
    expect(planDifferences(made, made)).toEqual([]);
    const now = built(
      inputFor('clean-whole-disk', 'corvel-10-business', {
        facts: laptopWith({
          system: { release: 'corvel-9-business', diskEncryption: 'on', fastStart: 'on' },
        }),
      }),
    );
    const kinds = planDifferences(made, now).map(({ kind, stepId }) => `${kind} ${stepId}`);
    expect(kinds).toContain('added suspend-encryption');
    expect(kinds).toContain('added record-recovery-key');
  });

  it('names another route first', () => {
    const other = built(inputFor('alternative-system', 'saltbush-full'));
    expect(planDifferences(made, other)[0]?.sentence).toContain('Saltbush Desktop 6 Full');
  });
});

describe('a runbook that cannot be made', () => {
  it('says that the release is gone', () => {
    const outcome = buildRunbook(inputFor('clean-whole-disk', 'corvel-99'));
    expect(!outcome.ok && outcome.problems[0]?.code).toBe('no-release');
  });

  it('says that the system partition is no longer known', () => {
    const outcome = buildRunbook(
      inputFor('clean-system-partition', 'corvel-10-business', {
        facts: laptopWith({ disks: [{ ...splitDisk, partitions: [] }] }),
      }),
    );
    expect(!outcome.ok && outcome.problems[0]?.code).toBe('no-system-partition');
  });

  it('knows its routes', () => {
    expect(routeIds.every(isRouteId)).toBe(true);
    expect(isRouteId('teleport')).toBe(false);
    expect(now.startsWith(today)).toBe(true);
  });
});
