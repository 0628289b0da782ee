import { describe, expect, it } from 'vitest';
import {
  answerCause,
  causesFound,
  closeTrouble,
  detourSteps,
  forecastOf,
  handoverSheet,
  leaveDetour,
  openTrouble,
  openTroubleOf,
  plan,
  readPlan,
  signStep,
  startDetour,
  unsignStep,
  wayBackFrom,
  type CommandContext,
  type CommandOutcome,
  type Move,
} from '../../src/record';
import { changedPositions } from '../../src/machine/positions';
import { addMinutes } from '../../src/quantity';
import { codesOf, done, now, technician } from '../fixtures/shop';
import { crossable, later, ready, planned, signThrough } from '../fixtures/story';

/** At “Start from the stick”, everything before it signed. */
const atStart = () => signThrough(ready(planned()), 'start-from-stick');
const seen = { stepId: 'start-from-stick', sign: 'stick-not-offered' as const, seenAt: addMinutes(now, 60) };
const at = (minutes: number): CommandContext => later(60 + minutes);
const answered = (move: Move, causeId: string, answer: 'yes' | 'no' | 'cannot', minutes: number) =>
  done(answerCause(move, { ...seen, causeId, answer }, at(minutes)));
const standing = (move: Move, id: string) => {
  const reading = readPlan(move, technician);
  return [...(reading?.standings ?? []), ...(reading?.stops ?? [])].find(({ stepId }) => stepId === id);
};
const codes = (outcome: CommandOutcome) => codesOf(outcome);
const signed = (move: Move, id: string, minutes: number) =>
  done(signStep(move, id, { actualMinutes: 9, note: '' }, at(minutes)));

describe('a trouble', () => {
  it('holds the runbook up from its step on until it is over', () => {
    const before = atStart();
    expect(standing(before, 'start-from-stick')?.state).toBe('open');
    const move = done(openTrouble(before, seen, at(2)));
    expect(openTroubleOf(move)).toMatchObject({
      number: 1,
      seenAt: seen.seenAt,
      stepTitle: expect.any(String),
    });
    expect(standing(move, 'start-from-stick')).toMatchObject({ state: 'locked' });
    expect(standing(move, 'start-from-stick')?.reason).toContain('The installer medium is not offered');
    expect(codes(signStep(move, 'start-from-stick', { actualMinutes: 1, note: '' }, at(3)))).toEqual([
      'step-locked',
    ]);
    const over = done(closeTrouble(move, 1, 'The cable was loose.', at(5)));
    expect(standing(over, 'start-from-stick')?.state).toBe('open');
    expect(causesFound(over)).toEqual([]);
  });

  it('is noted by the first answer, and times each check from the line before it', () => {
    const first = answered(atStart(), 'usb-start-off', 'no', 3);
    const second = answered(first, 'port-or-reader', 'cannot', 8);
    expect(second.troubles).toHaveLength(1);
    expect(
      openTroubleOf(second)?.answers.map(({ causeId, answer, minutes }) => [causeId, answer, minutes]),
    ).toEqual([
      ['usb-start-off', 'no', 3],
      ['port-or-reader', 'cannot', 5],
    ]);
  });

  it('takes the time of the server where that of the page cannot be', () => {
    for (const seenAt of [addMinutes(now, 90), addMinutes(now, -20 * 60)]) {
      const move = done(openTrouble(atStart(), { ...seen, seenAt }, at(2)));
      expect(openTroubleOf(move)?.seenAt).toBe(at(2).now);
    }
  });

  it('is one at a time, at a step that is to be done, with a sign of that step', () => {
    const open = done(openTrouble(atStart(), seen, at(1)));
    expect(codes(openTrouble(open, { ...seen, sign: 'black-screen' }, at(2)))).toEqual(['trouble-open']);
    expect(codes(openTrouble(atStart(), { ...seen, sign: 'key-refused' }, at(2)))).toEqual([
      'no-such-trouble',
    ]);
    expect(codes(openTrouble(atStart(), { ...seen, stepId: 'nowhere' }, at(2)))).toEqual(['no-such-step']);
    expect(codes(openTrouble(atStart(), { ...seen, stepId: 'updates', sign: 'no-network' }, at(2)))).toEqual([
      'step-locked',
    ]);
    expect(codes(openTrouble(crossable(), seen, at(2)))).toEqual(['step-conflict']);
    expect(codes(answerCause(open, { ...seen, causeId: 'nothing', answer: 'no' }, at(2)))).toEqual([
      'no-such-cause',
    ]);
    expect(codes(closeTrouble(open, 2, 'It passed.', at(2)))).toEqual(['no-such-trouble']);
    expect(codes(closeTrouble(open, 1, ' ', at(2)))).toEqual(['reason-needed']);
  });
});

describe('the hand-over sheet', () => {
  it('says what went wrong, and what the signed steps left otherwise in the firmware', () => {
    const before = atStart();
    expect(handoverSheet(before, technician).troubles).toEqual([]);
    const open = done(openTrouble(before, seen, at(2)));
    // What is still open is no line of the past.
    expect(handoverSheet(open, technician).troubles).toEqual([]);
    const over = done(closeTrouble(open, 1, 'The cable was loose.', at(5)));
    expect(handoverSheet(over, technician).troubles).toEqual([
      expect.stringMatching(
        /^The installer medium is not offered, at “Start from the stick.*”, .*: The cable was loose\.$/,
      ),
    ]);
  });

  it('tells a switch by its position before and after, and says nothing of the others', () => {
    const firmware = {
      starts: ['uefi', 'legacy'],
      can: ['uefi', 'legacy'],
      secureBoot: 'on',
      othersLoaders: false,
      chip: 'on',
      usbStart: false,
      first: 'disk',
    } as const;
    const changed = (change: Partial<Parameters<typeof changedPositions>[0][number]>) =>
      changedPositions([firmware], [{ ...firmware, ...change }]);
    expect(changed({})).toEqual([]);
    expect(changed({ secureBoot: 'off', usbStart: true })).toEqual([
      'Secure Boot: on before, off now.',
      'Start from USB: off before, on now.',
    ]);
    expect(changed({ starts: ['uefi'], othersLoaders: true, chip: 'off', first: 'medium' })).toEqual([
      'Start mode: UEFI and legacy before, UEFI now.',
      'Third-party loaders: off before, on now.',
      'Security chip: on before, off now.',
      'Tried first: the disk before, a medium now.',
    ]);
    // What the survey does not know was not on or off before; what may be either now is not said.
    const other = { ...firmware, secureBoot: 'off' } as const;
    expect(changedPositions([firmware, other], [firmware, { ...other, secureBoot: 'on' }])).toEqual([
      'Secure Boot: not known before, on now.',
    ]);
    expect(changedPositions([firmware, other], [firmware, other])).toEqual([]);
  });
});

describe('a detour', () => {
  const begun = () =>
    done(
      startDetour(
        answered(atStart(), 'usb-start-off', 'yes', 3),
        { ...seen, causeId: 'usb-start-off' },
        at(4),
      ),
    );

  it('is signed stop by stop, ends the trouble with its last one, and counts for the house', () => {
    const move = begun();
    const stops = detourSteps(move);
    expect(stops.map(({ id }) => id)).toEqual(['detour:1:A', 'detour:1:B']);
    expect(standing(move, 'detour:1:A')?.state).toBe('open');
    expect(standing(move, 'detour:1:B')).toMatchObject({
      state: 'locked',
      reason: expect.stringContaining('Stop A'),
    });
    const half = signed(move, 'detour:1:A', 8);
    expect(openTroubleOf(half)).toBeDefined();
    expect(codes(unsignStep(half, 'detour:1:B', 'A mistake.', at(9)))).toEqual(['step-conflict']);
    const back = done(unsignStep(half, 'detour:1:A', 'It was not saved.', at(9)));
    expect(standing(back, 'detour:1:A')?.state).toBe('open');
    const whole = signed(signed(back, 'detour:1:A', 12), 'detour:1:B', 14);
    expect(openTroubleOf(whole)).toBeUndefined();
    expect(whole.troubles[0]?.closed).toMatchObject({ how: 'remedied', causeId: 'usb-start-off' });
    expect(causesFound(whole)).toEqual([{ sign: 'stick-not-offered', causeId: 'usb-start-off' }]);
    expect(standing(whole, 'start-from-stick')?.state).toBe('open');
    expect(codes(signStep(whole, 'detour:1:B', { actualMinutes: 1, note: '' }, at(15)))).toEqual([
      'no-such-step',
    ]);
  });

  it('makes the day longer by its minutes, and by nothing once it is signed', () => {
    const before = atStart();
    const move = begun();
    const minutes = detourSteps(move).reduce(
      (sum, { handsOn, waiting }) => sum + handsOn.likely + waiting.likely,
      0,
    );
    const end = (one: Move) => Date.parse(forecastOf(one, at(4).now).doneAt) / 60_000;
    expect(minutes).toBeGreaterThan(0);
    expect(end(move) - end(before)).toBeCloseTo(minutes, 6);
    const times = forecastOf(move, at(4).now);
    expect(times.spans).toHaveLength(move.plan?.runbook.steps.length ?? 0);
    expect(times.stopSpans).toHaveLength(2);
    const index = move.plan?.runbook.steps.findIndex(({ id }) => id === 'start-from-stick') ?? -1;
    expect(times.spans[index]?.from).toBe(times.stopSpans[1]?.until);
  });

  it('is left with a reason, its cause is answered, and the next one has another number', () => {
    const begunToWork = signed(begun(), 'detour:1:A', 8);
    expect(codes(leaveDetour(begunToWork, 1, '', at(9)))).toEqual(['reason-needed']);
    // Only what was begun has to be undone.
    expect(wayBackFrom(begun())).toEqual([]);
    expect(wayBackFrom(begunToWork)).toEqual(['Switch it off again.']);
    const left = done(leaveDetour(begunToWork, 1, 'Still not listed; the switch is off again.', at(10)));
    expect(openTroubleOf(left)?.detour).toBeNull();
    expect(openTroubleOf(left)?.answers.at(-1)).toMatchObject({
      causeId: 'usb-start-off',
      answer: 'no',
      minutes: 6,
    });
    const next = done(startDetour(left, { ...seen, causeId: 'written-badly' }, at(11)));
    expect(detourSteps(next)[0]?.id).toBe('detour:2:A');
    expect(standing(next, 'detour:2:A')?.state).toBe('open');
    // One that was not begun has shown nothing.
    const unbegun = done(leaveDetour(begun(), 1, 'Chosen by mistake.', at(5)));
    expect(openTroubleOf(unbegun)?.answers.at(-1)?.answer).toBe('yes');
  });

  it('is the only one, and nothing is planned or ended over it', () => {
    const move = begun();
    expect(codes(startDetour(move, { ...seen, causeId: 'written-badly' }, at(5)))).toEqual(['detour-open']);
    expect(codes(answerCause(move, { ...seen, causeId: 'written-badly', answer: 'no' }, at(5)))).toEqual([
      'detour-open',
    ]);
    expect(codes(closeTrouble(move, 1, 'It passed.', at(5)))).toEqual(['detour-open']);
    expect(codes(plan(move, at(5)))).toEqual(['trouble-open']);
    expect(codes(startDetour(atStart(), { ...seen, causeId: 'refused-by-secure-boot' }, at(5)))).toEqual([
      'no-detour',
    ]);
  });
});
