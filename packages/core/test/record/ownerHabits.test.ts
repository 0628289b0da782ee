import { describe, expect, it } from 'vitest';
import { ownerHabits, signStep, unsignStep, type Move } from '../../src/record';
import { done, technician } from '../fixtures/shop';
import { later, planned, ready, signThrough } from '../fixtures/story';

const before = signThrough(ready(planned()), 'habits');
const stepId = before.plan?.runbook.steps.find(({ kind }) => kind === 'habits')?.id ?? '';
const shown = (move: Move, note: string, minutes: number) =>
  done(signStep(move, stepId, { actualMinutes: 10, note }, later(minutes)));

describe('what an owner was shown with earlier devices', () => {
  it('is the note under the step with the owner, the latest first', () => {
    const first = { ...shown(before, 'Opens letters by one click.', 100), reference: 'MV-0101' };
    const second = { ...shown(before, '', 200), reference: 'MV-0102' };
    const found = ownerHabits([first, second]);
    expect(found.map(({ reference, note }) => [reference, note])).toEqual([
      ['MV-0102', ''],
      ['MV-0101', 'Opens letters by one click.'],
    ]);
    expect(found[1]).toMatchObject({
      at: later(100).now,
      by: technician.actor.name,
      device: 'Kestle Fenwright 14',
      move: 'Clean install, whole disk to Corvel 10 Business',
    });
  });

  it('is nothing while that step is not signed, or was taken back, and where there is no plan', () => {
    const back = done(unsignStep(shown(before, 'x', 100), stepId, 'The wrong device.', later(101)));
    expect(ownerHabits([before, back, { ...before, plan: null }])).toEqual([]);
  });
});
