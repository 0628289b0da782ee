import { describe, expect, it } from 'vitest';
import { planStates, forecast, type Step } from '../../src/runbook';
import { inputFor, now } from '../fixtures/shop';

const planned = planStates(inputFor('clean-whole-disk', 'corvel-10-business'));
const [template] = planned.ok ? planned.value.steps : [];

const stepOf = (id: string, handsOn: number, waiting: number): Step => {
  if (!template) throw new Error('the plan has steps');
  return {
    ...template.step,
    id,
    handsOn: { low: handsOn, likely: handsOn, high: handsOn },
    waiting: { low: waiting, likely: waiting, high: waiting },
  };
};

const steps = [stepOf('a', 5, 10), stepOf('b', 3, 0), stepOf('c', 2, 20)];
const line = (
  stepId: string,
  action: 'start' | 'sign' | 'unsign',
  at: string,
  actualMinutes: number | null = null,
) => ({
  stepId,
  title: stepId,
  action,
  at,
  by: 'Ines',
  actualMinutes,
  note: '',
});
// The fixtures' now: 10:00.
const at = (clock: string) => `2026-03-02T${clock}:00.000Z`;

describe('when steps will be at work', () => {
  it('puts them one after the other from now on', () => {
    const { spans, handsOnMinutes, waitingMinutes, doneAt } = forecast(steps, [], now);
    // 5 + 10, then 3, then 2 + 20: from 10:00 to 10:40.
    expect(spans.map((span) => span?.from)).toEqual([at('10:00'), at('10:15'), at('10:18')]);
    expect(spans.map((span) => span?.handsUntil)).toEqual([at('10:05'), at('10:18'), at('10:20')]);
    expect(doneAt).toBe(at('10:40'));
    expect([handsOnMinutes, waitingMinutes]).toEqual([10, 30]);
  });

  it('counts a wait under way from its start, and never below nothing', () => {
    const running = forecast(steps, [line('a', 'start', at('09:56'))], now);
    // Of 10 minutes of wait 4 are over.
    expect(running.waitingMinutes).toBe(26);
    expect(running.handsOnMinutes).toBe(5);
    expect(running.spans[0]).toEqual({
      from: at('09:56'),
      handsUntil: at('09:56'),
      until: at('10:06'),
      done: false,
    });
    expect(running.doneAt).toBe(at('10:31'));
    expect(forecast(steps, [line('a', 'start', at('09:00'))], now).doneAt).toBe(at('10:25'));
  });

  it('puts what is signed where it was: from its start, or so long before its signature as it took', () => {
    const signed = forecast(
      steps,
      [
        line('a', 'start', at('09:00')),
        line('a', 'sign', at('09:12'), 4),
        line('b', 'sign', at('09:30'), 7),
        line('c', 'sign', at('09:50')),
        line('c', 'unsign', at('09:55')),
      ],
      now,
    );
    expect(signed.spans[0]).toEqual({
      from: at('09:00'),
      handsUntil: at('09:04'),
      until: at('09:12'),
      done: true,
    });
    expect(signed.spans[1]).toEqual({
      from: at('09:23'),
      handsUntil: at('09:30'),
      until: at('09:30'),
      done: true,
    });
    // Withdrawn: it is still to do.
    expect(signed.spans[2]?.from).toBe(at('10:00'));
    expect(signed.doneAt).toBe(at('10:22'));
    expect([signed.handsOnMinutes, signed.waitingMinutes]).toEqual([2, 20]);
  });

  it('lets the hands be busy no longer than the step took', () => {
    const [span] = forecast(
      [stepOf('a', 5, 0)],
      [line('a', 'start', at('09:00')), line('a', 'sign', at('09:02'))],
      now,
    ).spans;
    expect(span?.handsUntil).toBe(at('09:02'));
  });
});
