import { describe, expect, it } from 'vitest';
import { buildRunbook, type RunbookInput } from '../../src/runbook';
import { causesAt, dangerOf, planDetour, signsOf, stopLetter, troublePlace } from '../../src/trouble';
import { runbookInput } from '../../src/record';
import { asRunbookInput } from '../../src/runbook/input';
import type { Survey } from '../../src/survey';
import { laptopSurvey, laptopWith, technician } from '../fixtures/shop';
import { planned, ready } from '../fixtures/story';

const input = (): RunbookInput => {
  const made = runbookInput(ready(planned()), technician);
  if (!made) throw new Error('the bench laptop has a plan');
  return made;
};
const placeOf = (stepId: string, given = input()) => {
  const place = troublePlace(given, stepId);
  if (!place) throw new Error(`no place for ${stepId}`);
  return place;
};
const detourOf = (stepId: string, sign: Parameters<typeof causesAt>[1], causeId: string) => {
  const place = placeOf(stepId);
  const cause = causesAt(place, sign).find(({ id }) => id === causeId);
  const detour = cause && planDetour(place, cause, 3);
  if (!detour) throw new Error(`no detour for ${causeId}`);
  return detour;
};

describe('the causes of a sign', () => {
  it('are of the step where it was seen, and none is asked of a plan that has no such step', () => {
    const built = buildRunbook(input());
    if (!built.ok) throw new Error('the bench laptop has a plan');
    for (const step of built.value.steps) expect(troublePlace(input(), step.id)?.step).toEqual(step);
    expect(troublePlace(input(), 'nowhere')).toBeUndefined();
    expect(signsOf({ troubles: ['no-network', 'a sign of tomorrow', 'stick-not-offered'] })).toEqual([
      'stick-not-offered',
      'no-network',
    ]);
  });

  it('are ordered by the state first, then by what the house found, and excluded ones come last', () => {
    const place = placeOf('start-from-stick');
    const ids = (counts = {}) => causesAt(place, 'stick-not-offered', counts).map(({ id }) => id);
    const bare = ids();
    expect(bare[0]).toBe('usb-start-off');
    // Two grades more where all cases were this one: 2 + 2 before 3.
    expect(ids({ 'written-badly': 5 })[0]).toBe('written-badly');
    // One case of five weighs 0.4: 2.4 is behind 3.
    expect(ids({ 'written-badly': 1, 'port-or-reader': 4 }).indexOf('usb-start-off')).toBeLessThan(
      ids({ 'written-badly': 1, 'port-or-reader': 4 }).indexOf('written-badly'),
    );
    const causes = causesAt(place, 'stick-not-offered', { 'refused-by-secure-boot': 9 });
    const excluded = causes.filter(({ likelihood }) => likelihood === 0);
    expect(excluded.map(({ id }) => id)).toContain('refused-by-secure-boot');
    expect(causes.slice(-excluded.length)).toEqual(excluded);
    for (const { worlds } of excluded) expect(worlds).toEqual([]);
  });

  it('follow what the survey has of graphics chips and of the storage controller', () => {
    const withChange = (change: Partial<Survey>) => {
      const given = input();
      const place = placeOf('start-from-stick', asRunbookInput({ ...given, facts: laptopWith(change) }));
      return (sign: Parameters<typeof causesAt>[1], id: string) =>
        causesAt(place, sign).find((cause) => cause.id === id);
    };
    const chips = (...names: string[]) =>
      withChange({ display: { ...laptopSurvey.display, chips: names.map((name) => ({ name })) } });
    const restarts = 'restarts-before-installer';
    expect(chips('Lantern 4', 'Beacon 900')(restarts, 'graphics-before-installer')).toMatchObject({
      likelihood: 3,
      because: expect.stringContaining('This device has 2: Lantern 4 and Beacon 900.') as string,
    });
    expect(chips('Lantern 4')(restarts, 'graphics-before-installer')).toMatchObject({
      likelihood: 2,
      because: expect.stringContaining('one graphics chip, Lantern 4') as string,
    });
    const controller = (storageMode: 'ahci' | 'raid') =>
      withChange({ firmware: { ...laptopSurvey.firmware, storageMode } })('no-disk-shown', 'controller-mode');
    expect(controller('ahci')).toMatchObject({ likelihood: 0 });
    expect(controller('raid')?.because).toContain('in the mode RAID, for several disks');
    expect(JSON.stringify(controller('raid')?.remedy)).toContain('back to RAID, for several disks');
  });

  it('are none for a danger: one stops, and calls somebody', () => {
    expect(causesAt(placeOf('charger'), 'battery-swollen')).toEqual([]);
    expect(dangerOf('battery-swollen')).toContain('qualified person');
    expect(dangerOf('no-network')).toBeNull();
  });
});

describe('a detour', () => {
  it('has lettered stops with minutes, and says what undoes it, the last change first', () => {
    const { stops, wayBack, wayBackMinutes, obstacle } = detourOf(
      'first-start',
      'loader-prompt',
      'loader-looks-elsewhere',
    );
    expect(obstacle).toBeNull();
    expect(stops.map(({ id }) => id)).toEqual(stops.map((_stop, index) => `detour:3:${stopLetter(index)}`));
    for (const { step } of stops) {
      expect(step.kind).toBe('detour');
      expect(step.stage).toBe('settle');
      expect(step.handsOn.low).toBeLessThanOrEqual(step.handsOn.likely);
    }
    expect(wayBack.map(({ undo }) => undo)).toEqual(['Write the kept file back to the small partition.']);
    // It undoes the stop that writes, and no other.
    expect(stops.find(({ id }) => id === wayBack[0]?.stepId)?.step.title).toContain('Write the loader again');
    // As long as the stop that it undoes: three minutes to write the loader.
    expect(wayBackMinutes).toBe(3);
  });

  it('stops before what writes to the disk until the disk is identified and the charger is connected', () => {
    const barriers = detourOf('first-start', 'loader-prompt', 'loader-looks-elsewhere').stops.flatMap(
      ({ step }) => (step.barrier ? [step.barrier.gates] : []),
    );
    expect(barriers).toEqual([['disk-identified', 'power']]);
    // A switch of the firmware asks for the recovery key where the disk is encrypted; nothing else of this remedy risks anything.
    const usb = detourOf('start-from-stick', 'stick-not-offered', 'usb-start-off');
    expect(usb.stops.map(({ risks }) => risks.length)).toEqual(usb.stops.map(() => 0));
  });

  it('ends where the step needs the device: the installer is started again', () => {
    const detour = detourOf('erase-disk', 'no-disk-shown', 'disk-not-connected');
    expect(detour.before.running.what).toBe('installer');
    expect(detour.stops.at(-1)?.after.running.what).toBe('installer');
    expect(detour.stops.at(-1)?.step.title).toContain('Start the installer again');
  });

  it('says what is missing where the runbook could not go on after it', () => {
    const place = placeOf('start-from-stick');
    const cause = causesAt(place, 'stick-not-offered').find(({ id }) => id === 'usb-start-off');
    const stuck = { ...place, rest: [{ id: 'boot-files', operators: [{ op: 'write-loader' as const }] }] };
    expect(cause && planDetour(place, cause, 1)?.obstacle).toBeNull();
    expect(cause && planDetour(stuck, cause, 1)?.obstacle).toEqual({
      stepId: 'boot-files',
      missing: 'the present system has its loader: there is nothing to make',
    });
  });

  it('is none where nothing at the step helps: then a sentence says what to do with the move', () => {
    const place = placeOf('erase-disk');
    const failed = causesAt(place, 'no-disk-shown').find(({ id }) => id === 'disk-failed');
    expect(failed && planDetour(place, failed, 1)).toBeNull();
    expect(failed?.remedy).toContain('Plan again with another disk');
  });
});
