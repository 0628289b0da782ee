import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { supportDaysLeft } from '../../src/catalogue';
import { after, type Machine } from '../../src/machine';
import { planSteps, type RunbookInput, type Step } from '../../src/runbook';
import { diskMark, isEmptyDevice, valueOf } from '../../src/survey';
import { anyPlanInput } from '../fixtures/plans';

type Moment = {
  readonly input: RunbookInput;
  readonly step: Step;
  readonly before: Machine;
  readonly then: Machine;
};

/** What a sentence says, and what the state has to be for it to be true. */
type Claim = {
  readonly says: string;
  readonly in: (step: Step) => boolean;
  readonly holds: (moment: Moment) => boolean;
};

const present = ({ systems }: Machine) => systems.find(({ id }) => id === 'present');
const target = ({ systems }: Machine) => systems.find(({ id }) => id === 'target');
const words = ({ title, why, success, caution }: Step) => `${title} ${why} ${success} ${caution ?? ''}`;
const fixesOver = ({ present: release, today }: RunbookInput) =>
  release === undefined || supportDaysLeft(release, today) < 0;

const claims: readonly Claim[] = [
  {
    says: 'a disk by the end of its serial number: it is one of the device',
    in: ({ title }) => /…\S{4}\b/.test(title),
    holds: ({ input, step }) => {
      const marks = (valueOf(input.facts, 'disks') ?? []).map(diskMark);
      return [...step.title.matchAll(/…(\S{4})\b/g)].every(([mark]) => marks.includes(mark));
    },
  },
  {
    says: 'an EFI system partition: the new system starts in UEFI mode',
    in: (step) => step.kind === 'install-beside' && words(step).includes('EFI system partition'),
    holds: ({ then }) => target(then)?.mode !== 'legacy',
  },
  {
    says: 'no system on the disk: there is none',
    in: ({ title }) => title.includes('which has no partition'),
    holds: ({ input, before }) => isEmptyDevice(input.facts) && before.systems.length === 0,
  },
  {
    says: 'that the present system has no updates: its fixes are over, and it goes off the network',
    in: (step) => words(step).includes('no security updates any more'),
    holds: ({ input, then }) => fixesOver(input) && present(then)?.onNetwork === false,
  },
  {
    says: 'a day from which it stays off the network: until then it gets fixes, and stays on it',
    in: ({ title }) => title.includes('stays off the network after'),
    holds: ({ input, then }) => !fixesOver(input) && present(then)?.onNetwork === true,
  },
  {
    says: 'that Secure Boot is turned on: the firmware has it, in UEFI mode alone',
    in: ({ title }) => title.startsWith('Turn Secure Boot on'),
    holds: ({ then: { firmware } }) =>
      firmware.secureBoot === 'on' && firmware.starts.length === 1 && firmware.starts[0] === 'uefi',
  },
  {
    says: 'that a stick is taken out: it was plugged in, and is not any more',
    in: ({ kind }) => kind === 'stick-out',
    holds: ({ before, then }) => before.installer.plugged && !then.installer.plugged,
  },
  {
    says: 'that data come back from a drive: the copies on it count',
    in: ({ kind }) => kind === 'restore',
    holds: ({ step, before }) => {
      const ids = step.effects.flatMap(({ dataSetIds }) => dataSetIds);
      return before.data.filter(({ id }) => ids.includes(id)).every(({ good }) => good.length > 0);
    },
  },
  {
    says: 'that disks are plugged in again: they were unplugged',
    in: ({ title }) => title.startsWith('Plug the other disk'),
    holds: ({ step, before, then }) => {
      const named = ({ called }: Machine['disks'][number]) => step.title.includes(called);
      return (
        before.disks.filter(named).every(({ plugged }) => !plugged) &&
        then.disks.filter(named).every(({ plugged }) => plugged)
      );
    },
  },
  {
    says: 'that encryption is suspended: it is not locked any more',
    in: ({ kind }) => kind === 'suspend-encryption',
    holds: ({ then }) => present(then)?.encryption !== 'locked',
  },
  {
    says: 'that the disk is emptied: nothing is on it afterwards, and what lay there has a copy',
    in: ({ title }) => title.startsWith('Erase every partition'),
    holds: ({ then }) =>
      then.disks.some(({ partitions }) => partitions.length === 0) &&
      then.data.every(({ original, good }) => original !== 'gone' || good.length > 0),
  },
  {
    says: 'a key of a disk beside: the system that unlocks it is still there',
    in: ({ id }) => id === 'record-recovery-key:beside',
    holds: ({ before }) => before.unlockedByPresent.length > 0 && present(before) !== undefined,
  },
];

describe('the words of a plan', () => {
  it('contradict the state in no step of any plan', () => {
    const told = new Map<string, number>();
    fc.assert(
      fc.property(anyPlanInput, (input) => {
        if (!input) return;
        const planned = planSteps(input);
        if (!planned.ok) return;
        const { steps, worlds } = planned.value;
        for (const world of worlds.slice(0, 2)) {
          let state = world;
          for (const { step, operators } of steps) {
            const then = operators.reduce(after, state);
            for (const claim of claims) {
              if (!claim.in(step)) continue;
              told.set(claim.says, (told.get(claim.says) ?? 0) + 1);
              expect([claim.says, step.title, claim.holds({ input, step, before: state, then })]).toEqual([
                claim.says,
                step.title,
                true,
              ]);
            }
            state = then;
          }
        }
      }),
      { numRuns: 700, seed: 21 },
    );
    console.log(Object.fromEntries(told));
    for (const { says } of claims) expect([says, (told.get(says) ?? 0) > 10]).toEqual([says, true]);
  });
});
