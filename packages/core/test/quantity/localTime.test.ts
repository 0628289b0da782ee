import { describe, expect, it } from 'vitest';
import { defaultHouseRules, HouseRulesSchema } from '../../src/rules';
import { dayIn, printClockIn, printInstantIn } from '../../src/quantity';
import { handoverSheet, signStep } from '../../src/record';
import { codesOf, done, technician } from '../fixtures/shop';
import { planned } from '../fixtures/story';

const late = '2026-03-24T23:40:00Z';

describe('times in the house’s zone', () => {
  // By hand: Etc/GMT-1 is one hour ahead of UTC (the sign is POSIX’s), so 23:40 UTC is 00:40 of the next day.
  it('are marked, and an hour ahead may be another day', () => {
    expect(printInstantIn('UTC', late)).toBe('24 Mar 2026, 23:40 UTC');
    expect(printInstantIn('Etc/GMT-1', late)).toBe('25 Mar 2026, 00:40 UTC+1');
    expect([printClockIn('UTC', late), printClockIn('Etc/GMT-1', late)]).toEqual([
      '23:40 UTC',
      '00:40 UTC+1',
    ]);
    expect([dayIn('UTC', late), dayIn('Etc/GMT-1', late)]).toEqual(['2026-03-24', '2026-03-25']);
  });

  it('are refused where there is no such zone; houses of earlier releases have UTC', () => {
    expect(HouseRulesSchema.safeParse({ ...defaultHouseRules, timeZone: 'Nowhere/Pier' }).success).toBe(
      false,
    );
    const { timeZone: _unsaid, ...earlier } = defaultHouseRules;
    expect(HouseRulesSchema.parse(earlier).timeZone).toBe('UTC');
  });

  it('are in messages and on paper: stored in UTC, said in the zone', () => {
    const ahead = { ...technician, houseRules: { ...technician.houseRules, timeZone: 'Etc/GMT-1' } };
    const stepId = planned().plan?.runbook.steps.find(({ stage }) => stage === 'prepare')?.id ?? '';
    const signed = done(signStep(planned(), stepId, { actualMinutes: 90, note: 'done' }, ahead));
    expect(signed.signatures.at(-1)?.at).toBe(technician.now);
    const again = signStep(signed, stepId, { actualMinutes: 90, note: '' }, ahead);
    expect(codesOf(again)).toEqual(['step-conflict']);
    expect(again.ok ? '' : again.problems[0]?.sentence).toContain(printClockIn('Etc/GMT-1', technician.now));
    expect(handoverSheet(signed, ahead).done[0]?.at).toBe(printInstantIn('Etc/GMT-1', technician.now));
  });
});
