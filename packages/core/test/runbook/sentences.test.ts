import { describe, expect, it } from 'vitest';
import { chooseRoute, plan, readPlan } from '../../src/record';
import { buildRunbook, stepStandings, type Runbook, type StepStanding } from '../../src/runbook';
import { defaultHouseRules } from '../../src/rules';
import {
  done,
  driveB7,
  inputFor,
  laptop,
  laptopSurvey,
  laptopWith,
  pictures,
  documents,
  releaseOf,
  splitDisk,
  technician,
  without,
} from '../fixtures/shop';
import { gateOf, planned, ready, signThrough } from '../fixtures/story';

const built = (input: Parameters<typeof buildRunbook>[0]): Runbook => {
  const runbook = buildRunbook(input);
  if (!runbook.ok) throw new Error(runbook.problems[0]?.sentence);
  return runbook.value;
};
const stepIn = ({ steps }: Runbook, kind: string) => steps.find((step) => step.kind === kind);

describe('a gate about the steps above the Line', () => {
  it('names the first three that are not signed, and counts the others', () => {
    const move = ready(planned());
    const above = (move.plan?.runbook.steps.slice(0, move.plan.runbook.lineIndex ?? 0) ?? []).filter(
      ({ kind }) => kind !== 'identify-disk',
    );
    expect(above.length).toBeGreaterThan(5);
    // Signed down to the last few, one step fewer each time.
    let asked = 0;
    for (const left of [5, 4, 3, 2, 1]) {
      const stop = above[above.length - left];
      const names = above.slice(-left).map(({ title }) => title);
      const signatures = above.slice(0, above.length - left).map(({ id, title }) => ({
        stepId: id,
        title,
        action: 'sign' as const,
        at: technician.now,
        by: 'Ines',
        actualMinutes: null,
        note: '',
      }));
      const gate = gateOf({ ...move, signatures }, 'steps-above-signed');
      expect([left, stop?.title, gate?.sentence]).toEqual([
        left,
        stop?.title,
        left > 3
          ? `Not signed: ${names.slice(0, 3).join(', ')} and ${left - 3} more.`
          : `Not signed: ${names.join(', ')}.`,
      ]);
      asked += 1;
    }
    expect(asked).toBe(5);
  });

  it('of a whole story is open', () => {
    expect(gateOf(signThrough(ready(planned()), 'erase-disk'), 'steps-above-signed')?.state).toBe('green');
  });
});

describe('a step that is locked', () => {
  const runbook = built(inputFor('clean-whole-disk', 'corvel-10-business'));
  const reasonWith = (...sentences: readonly string[]): StepStanding['reason'] | undefined =>
    stepStandings(
      runbook,
      [],
      sentences.map((sentence) => ({ id: 'copies-verified' as const, sentence })),
    )[runbook.lineIndex ?? 0]?.reason;

  it('says how many gates are closed, and each', () => {
    expect(reasonWith('No copy.')).toBe('1 gate is closed. No copy.');
    expect(reasonWith('No copy.', 'No charger.')).toBe('2 gates are closed. No copy. No charger.');
    expect(reasonWith()).toBeNull();
  });

  it('behind the Line waits for those before it', () => {
    const standings = stepStandings(runbook, [], []);
    const line = runbook.lineIndex ?? 0;
    expect(standings[line]?.state).toBe('open');
    expect(standings[line + 1]).toMatchObject({
      state: 'locked',
      reason: `“${runbook.steps[line]?.title ?? ''}” comes first.`,
    });
  });
});

describe('an image of the disk', () => {
  it('is as large as what the disk uses, or as the data sets where these are more', () => {
    const imaged = { ...defaultHouseRules, savedAs: 'image' as const };
    const whyOf = (usedGb: readonly (number | undefined)[]) => {
      const disk = {
        ...splitDisk,
        partitions: splitDisk.partitions.map(({ usedBytes: _used, ...one }) => {
          const used = one.role === 'system' ? usedGb[0] : one.role === 'data' ? usedGb[1] : undefined;
          return used === undefined ? one : { ...one, usedBytes: used * 1e9 };
        }),
      };
      const runbook = built(
        inputFor('clean-whole-disk', 'corvel-10-business', {
          facts: laptopWith({ disks: [disk] }),
          houseRules: imaged,
          dataSets: [
            { ...documents, sizeBytes: 5e9 },
            { ...pictures, sizeBytes: 7e9 },
          ],
          destinations: [driveB7],
        }),
      );
      return runbook.steps.find(({ id }) => id === 'copy:b-07')?.why ?? '';
    };
    expect(whyOf([40, 60])).toContain('100.0 GB');
    expect(whyOf([40, undefined])).toContain('40.0 GB');
    // 5 and 7 GB in the data sets, and less measured on the disk.
    expect(whyOf([4, 1])).toContain('12.0 GB');
    expect(whyOf([undefined, undefined])).toContain('12.0 GB');
  });
});

describe('a step that the device does not need', () => {
  const has = (kind: string, facts: typeof laptop, releaseId = 'corvel-10-business') =>
    stepIn(built(inputFor('clean-whole-disk', releaseId, { facts })), kind);
  const encrypted = (state: 'on' | 'off') =>
    laptopWith({ system: { ...laptopSurvey.system, diskEncryption: state } });

  it('is left out: the recovery key of a disk that is not encrypted', () => {
    expect(has('record-recovery-key', encrypted('off'))).toBe(undefined);
    expect(has('record-recovery-key', encrypted('on'))?.title).toBe('Make sure of the recovery key');
    expect(has('record-recovery-key', without(laptop, 'diskEncryption'))?.title).toContain(
      'Find out whether the disk is encrypted',
    );
  });

  it('is left out: a driver that comes with the release', () => {
    const release = releaseOf('corvel-10-business');
    const adapter = (driver: string | undefined) =>
      laptopWith({
        network: [{ name: 'adapter', kind: 'wired', ...(driver === undefined ? {} : { driver }) }],
      });
    const bundled = release.bundledDrivers[0] ?? '';
    expect(bundled).not.toBe('');
    expect(has('carry-drivers', adapter(bundled))).toBe(undefined);
    expect(has('carry-drivers', adapter('no-such-driver'))?.why).toContain(
      'No driver for its network adapter',
    );
    expect(has('carry-drivers', adapter(undefined))?.why).toContain('No driver for its network adapter');
    expect(has('carry-drivers', without(laptop, 'networkAdapters'))?.why).toContain('is not known');
  });
});

describe('a plan that is read', () => {
  it('has a standing for each of its steps', () => {
    const move = done(
      plan(
        done(
          chooseRoute(
            planned(),
            { routeId: 'clean-whole-disk', releaseId: 'corvel-10-business', reason: 'As asked.' },
            technician,
          ),
        ),
        technician,
      ),
    );
    const reading = readPlan(move, technician);
    expect(reading?.standings.map(({ stepId }) => stepId)).toEqual(
      move.plan?.runbook.steps.map(({ id }) => id),
    );
  });
});
