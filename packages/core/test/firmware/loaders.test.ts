import { describe, expect, it } from 'vitest';
import { findRelease } from '../../src/catalogue';
import { firmwareSwitches, switchTitle } from '../../src/firmware';
import { buildRunbook, startOn } from '../../src/runbook';
import { withFacts, type Facts } from '../../src/survey';
import { catalogue, inputFor, laptop, without } from '../fixtures/shop';

const asked = (releaseId: string, facts: Facts, presentId?: string) => {
  const on = startOn(
    inputFor('alternative-system', releaseId, {
      facts,
      ...(presentId ? { present: findRelease(catalogue, presentId) } : {}),
    }),
  );
  if (!on) throw new Error('there is a target');
  return firmwareSwitches(on).flatMap((one) =>
    one.id === 'secure-boot-off' || one.id === 'others-loaders' ? [`${one.id} ${one.certainty}`] : [],
  );
};
const uefi = (secureBoot: 'on' | 'off' | 'not-supported') =>
  withFacts(laptop, { firmwareMode: 'uefi', secureBoot });

describe('a loader that the firmware’s own key did not sign', () => {
  it('has Secure Boot off where nobody signed it', () => {
    expect(asked('rushlight', uefi('on'))).toEqual(['secure-boot-off needed']);
    expect(asked('rushlight', uefi('off'))).toEqual([]);
    expect(asked('rushlight', without(uefi('on'), 'secureBoot'))).toEqual(['secure-boot-off ask']);
  });

  it('is allowed beside Secure Boot where others signed it: whether that is so, nobody sees from outside', () => {
    expect(asked('saltbush-full', uefi('on'))).toEqual(['others-loaders ask']);
    expect(asked('saltbush-full', uefi('off'))).toEqual([]);
    // One like it starts the device now, with Secure Boot on.
    expect(asked('saltbush-full', uefi('on'), 'saltbush-5-full')).toEqual([]);
    expect(asked('corvel-10-business', uefi('on'))).toEqual([]);
  });

  it('concerns neither legacy mode nor a firmware without Secure Boot', () => {
    const legacy = withFacts(laptop, { firmwareMode: 'legacy', secureBoot: 'off' });
    expect(asked('rushlight', legacy)).toEqual([]);
    const old = { ...uefi('not-supported') };
    const on = startOn(inputFor('alternative-system', 'rushlight', { facts: old, model: undefined }));
    expect(on && firmwareSwitches(on).map(({ id }) => id)).not.toContain('secure-boot-off');
  });

  it('is a step of the runbook, before the installer is started', () => {
    const plan = buildRunbook(inputFor('alternative-system', 'rushlight', { facts: uefi('on') }));
    if (!plan.ok) throw new Error(plan.problems.map(({ sentence }) => sentence).join(' '));
    const at = (id: string) => plan.value.steps.findIndex((step) => step.id === id);
    expect(at('firmware:secure-boot-off')).toBeGreaterThan(-1);
    expect(at('firmware:secure-boot-off')).toBeLessThan(at('start-from-stick'));
    const on = startOn(inputFor('alternative-system', 'saltbush-full', { facts: uefi('on') }));
    const [first] = on ? firmwareSwitches(on) : [];
    expect(first && switchTitle(first)).toBe(
      'Look, and if needed: allow loaders that others signed, under Secure Boot',
    );
  });
});
