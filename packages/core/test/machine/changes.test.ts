import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { diskText, machineChanges, runningText } from '../../src/machine';
import { planStates } from '../../src/runbook';
import { anyPlanInput } from '../fixtures/plans';
import { documents, driveB7, inputFor, share, endedLaptop } from '../fixtures/shop';

const named = (id: string) => id.toUpperCase();
const stepped = (input: Parameters<typeof planStates>[0]) => {
  const plan = planStates(input);
  if (!plan.ok) throw new Error(plan.problems[0]?.sentence);
  const { before, steps } = plan.value;
  return steps.map(({ step, operators, after }, index) => ({
    kind: step.kind,
    operators,
    after,
    said: machineChanges(steps[index - 1]?.after ?? before, after, named),
  }));
};

describe('what a step changed', () => {
  const steps = stepped(inputFor('clean-whole-disk', 'corvel-10-business'));
  const said = (kind: string) => steps.find((one) => one.kind === kind)?.said;
  it('is told from the states before and after it', () => {
    expect(said('copy')).toEqual(['Documents and Pictures are copied to B-07.']);
    expect(said('verify')).toEqual(['Documents and Pictures have copies that count on B-07.']);
    expect(said('identify-disk')).toEqual(['Disk …9C2E is told from its like by serial number and size.']);
    expect(said('charger')).toEqual(['The mains are on.']);
    expect(said('erase-disk')).toEqual([
      'Documents and Pictures are gone from the device.',
      'Disk …9C2E has no table now.',
      'Disk …9C2E holds nothing.',
      'The present system is gone.',
    ]);
    expect(said('install')?.at(-1)).toBe('The new system is installed.');
    expect(said('stick-out')).toEqual(['The installer is out.']);
    expect(said('activate')).toEqual(['The new system is activated.']);
    expect(said('restore')).toEqual(['Documents and Pictures are in their place again.']);
    expect(said('habits')).toEqual([]);
  });

  it('speaks of two systems where two stay, and of a part that is fitted', () => {
    const beside = stepped(inputFor('beside-same-disk', 'saltbush-full', { facts: endedLaptop }));
    const of = (kind: string) => beside.find((one) => one.kind === kind)?.said;
    expect(of('shrink-system')).toEqual(['Room for what is to come is free on disk …9C2E.']);
    expect(of('boot-menu')).toContain('The menu at the start lists every system.');
    expect(of('isolate-old-system')).toContain('The present system is off the network.');
    expect(beside.flatMap((one) => one.said)).not.toContain('The present system is gone.');
  });

  it('is empty where the state stays, and never where it changes but for what runs and what is on paper', () => {
    let changed = 0;
    let still = 0;
    fc.assert(
      fc.property(anyPlanInput, (input) => {
        const plan = input && planStates(input);
        if (!plan?.ok) return;
        const { before, steps } = plan.value;
        let last = before;
        for (const { after } of steps) {
          const compared = ({ running: _running, notes: _notes, ...rest }: typeof after) =>
            JSON.stringify(rest);
          const same = compared(last) === compared(after);
          const told = machineChanges(last, after, named);
          if (same) {
            still += 1;
            expect(told).toEqual([]);
          } else if (told.length > 0) changed += 1;
          last = after;
        }
      }),
      { numRuns: 100 },
    );
    expect(changed).toBeGreaterThan(500);
    expect(still).toBeGreaterThan(300);
  });
});

describe('many data sets', () => {
  it('are named by three of them, and one by itself', () => {
    const sets = (count: number) =>
      Array.from({ length: count }, (_one, index) => ({
        ...documents,
        id: `set-${index}`,
        name: `Set ${index}`,
      }));
    const copied = (count: number) => {
      const dataSets = sets(count);
      const takes = dataSets.map(({ id }) => id);
      const destinations = [driveB7, share].map((one) => ({ ...one, takes }));
      return stepped(inputFor('clean-whole-disk', 'corvel-10-business', { dataSets, destinations })).find(
        ({ kind }) => kind === 'copy',
      )?.said;
    };
    expect(copied(1)).toEqual(['Set 0 is copied to B-07.']);
    expect(copied(4)).toEqual(['Set 0, Set 1, Set 2 and Set 3 are copied to B-07.']);
    expect(copied(6)).toEqual(['Set 0, Set 1, Set 2 and 3 more are copied to B-07.']);
  });
});

describe('a machine in words', () => {
  it('says what runs', () => {
    expect(runningText({ what: 'off' })).toBe('The device is off, or restarts.');
    expect(runningText({ what: 'firmware' })).toBe('The firmware’s set-up is open.');
    expect(runningText({ what: 'system', system: 'present' })).toBe('The present system runs.');
    expect(runningText({ what: 'installer', mode: 'uefi', inside: false })).toBe(
      'The installer runs, in UEFI mode.',
    );
    expect(runningText({ what: 'installer', mode: 'uefi', inside: true })).toContain(
      'inside the present system',
    );
    expect(runningText({ what: 'live', mode: 'legacy' })).toBe('The system is tried live, in legacy mode.');
  });

  it('says what stands on a disk', () => {
    const disk = stepped(inputFor('clean-whole-disk', 'corvel-10-business')).at(-1)?.after.disks[0];
    expect(disk && diskText(disk)).toMatch(/^…9C2E: GPT, /);
    expect(disk && diskText({ ...disk, plugged: false })).toBe('…9C2E: unplugged');
    expect(disk && diskText({ ...disk, scheme: 'none', partitions: [] })).toBe('…9C2E: no table, empty');
    expect(disk && diskText({ ...disk, partitions: [{ number: 7, role: undefined }] })).toContain(
      'partition 7',
    );
  });
});
