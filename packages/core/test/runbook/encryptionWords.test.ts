import { describe, expect, it } from 'vitest';
import { buildRunbook, type RunbookInput } from '../../src/runbook';
import { defaultHouseRules, type HouseRules } from '../../src/rules';
import type { RouteId } from '../../src/route';
import { inputFor, laptop, laptopWith, splitDisk } from '../fixtures/shop';

const second = { ...splitDisk, name: 'sdb', serial: 'BL77A0QQ31', partitions: [], scheme: 'none' as const };
const twoDisks = laptopWith({ disks: [splitDisk, second] });

function step(
  kind: string,
  routeId: RouteId,
  facts: RunbookInput['facts'],
  rules: Partial<HouseRules> = {},
  releaseId = 'corvel-10-business',
) {
  const built = buildRunbook(
    inputFor(routeId, releaseId, { facts, houseRules: { ...defaultHouseRules, ...rules } }),
  );
  if (!built.ok) throw new Error(built.problems[0]?.sentence);
  return built.value.steps.find((one) => one.kind === kind);
}

describe('after the first start', () => {
  it('encryption is looked at on every fixed disk by name: on or off as decided, as before elsewhere', () => {
    const success = (...given: Parameters<typeof step> extends [string, ...infer Rest] ? Rest : never) =>
      step('first-start', ...given)?.success;
    const mark = splitDisk.serial?.slice(-4) ?? '';
    expect(success('clean-whole-disk', twoDisks, { encryption: 'off' })).toBe(
      `The desktop, after a sign-in that was asked for. The encryption page says off for the new system on …${mark}, and as before for …QQ31.`,
    );
    // One that is unplugged meanwhile is looked at by nobody.
    expect(success('clean-whole-disk', twoDisks, { encryption: 'off', otherDisks: 'unplug' })).toBe(
      `The desktop, after a sign-in that was asked for. The encryption page says off for the new system on …${mark}.`,
    );
    expect(success('clean-whole-disk', twoDisks, { encryption: 'during-setup' })).toContain(
      'says on for the new system',
    );
    // An upgrade leaves it as it was.
    expect(success('in-place-upgrade', laptop)).toBe('The desktop.');
  });

  it('the passphrase is in the vault before it is switched on', () => {
    expect(step('encrypt', 'clean-whole-disk', laptop, { encryption: 'after' })?.why).toContain(
      'in the vault before it is switched on',
    );
  });
});

describe('fast start', () => {
  it('stays off for good where two systems share the disk, and only there', () => {
    const why = (routeId: RouteId) =>
      step('fast-start-off', routeId, laptopWith({ disks: [splitDisk] }), {}, 'saltbush-full')?.why;
    expect(why('beside-same-disk')).toContain('It stays off for good');
    expect(why('clean-system-partition') ?? 'no such step').not.toContain('for good');
  });
});
