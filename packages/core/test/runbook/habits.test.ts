import { describe, expect, it } from 'vitest';
import { habitChanges } from '../../src/catalogue';
import { planInput } from '../../src/decide';
import { planSteps } from '../../src/runbook';
import { decisionInput } from '../../src/decide';
import { defaultHouseRules } from '../../src/rules';
import type { RouteId } from '../../src/route';
import { catalogue, laptop, releaseOf, today } from '../fixtures/shop';

const { families } = catalogue;
const corvel = releaseOf('corvel-9-business');
const saltbush = releaseOf('saltbush-full');

/** The reason of the step that sets up habits. */
function step(routeId: RouteId, releaseId: string): string {
  const input = decisionInput({ facts: laptop, catalogue, houseRules: defaultHouseRules, today });
  const planned = planSteps(planInput(input, { routeId, releaseId, bringing: 'stick', waivers: [] }));
  if (!planned.ok) throw new Error(planned.problems[0]?.sentence);
  return planned.value.steps.find((one) => one.step.kind === 'habits')?.step.why ?? '';
}

describe('what is done in another way', () => {
  it('is what both families say and do not share, in the order of the new one', () => {
    const changes = habitChanges(families, corvel, saltbush);
    expect(changes.map(({ what }) => what)).toEqual(['Finding a program', 'Opening a file', 'Own files']);
    expect(changes[1]).toEqual({ what: 'Opening a file', before: 'two clicks', now: 'one click' });
    // The same things, the other way round.
    const back = habitChanges(families, saltbush, corvel);
    expect(back.map(({ what, before, now }) => [what, now, before])).toEqual(
      changes.map(({ what, before, now }) => [what, before, now]),
    );
  });

  it('is nothing within a family, and where nobody has said', () => {
    expect(habitChanges(families, corvel, releaseOf('corvel-10-business'))).toEqual([]);
    expect(habitChanges(families, corvel, releaseOf('rushlight'))).toEqual([]);
    expect(habitChanges(families, undefined, saltbush)).toEqual([]);
  });

  it('is in the step with the owner, with how it was before', () => {
    expect(step('alternative-system', 'saltbush-full')).toContain(
      'Opening a file: one click (before: two clicks)',
    );
    expect(step('in-place-upgrade', 'corvel-10-business')).toContain(
      'one click or two, default applications',
    );
  });
});
