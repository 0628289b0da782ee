import { describe, expect, it } from 'vitest';
import type { InstallerMediumId } from '../../src/catalogue';
import { stepKinds } from '../../src/rules';
import { chooseRoute } from '../../src/record';
import { stepsOfRoute, routeIds, routes } from '../../src/route';
import { buildRunbook, nothingPrepared, type Runbook } from '../../src/runbook';
import {
  codesOf,
  done,
  emptyMove,
  inputFor,
  laptop,
  laptopSurvey,
  laptopWith,
  splitDisk,
  technician,
} from '../fixtures/shop';

const ways: readonly InstallerMediumId[] = ['stick', 'optical-disc', 'disk-partition', 'running-system'];

function built(
  routeId: 'beside-same-disk' | 'clean-system-partition',
  installerMedium: InstallerMediumId,
): Runbook {
  const outcome = buildRunbook(inputFor(routeId, 'saltbush-full', { installerMedium }));
  if (!outcome.ok) throw new Error(outcome.problems.map(({ sentence }) => sentence).join(' '));
  return outcome.value;
}

describe('a plan', () => {
  it('has the steps of the way in which its installer comes, in order, on every route', () => {
    for (const id of routeIds)
      for (const way of ways) {
        const places = stepsOfRoute(routes[id], way).map((kind) => stepKinds.indexOf(kind));
        expect([id, way, places]).toEqual([id, way, [...places].sort((a, b) => a - b)]);
      }
  });

  it('asks for a stick that is no backup only where a stick is used', () => {
    expect(built('beside-same-disk', 'stick').gates).toContain('stick-apart');
    for (const way of ways.slice(1))
      expect(built('beside-same-disk', way).gates).not.toContain('stick-apart');
  });

  it('takes the installer’s partition away again at the end, and the disc out at the first restart', () => {
    const partition = built('clean-system-partition', 'disk-partition').steps.map(({ kind }) => kind);
    expect(partition).toContain('make-installer-partition');
    expect(partition.indexOf('installer-partition-away')).toBeGreaterThan(partition.indexOf('restore'));
    expect(built('clean-system-partition', 'optical-disc').steps.map(({ kind }) => kind)).toContain(
      'disc-out',
    );
  });
});

describe('choosing how it comes', () => {
  const choice = { routeId: 'clean-whole-disk', releaseId: 'corvel-10-business', reason: 'Slow.' } as const;

  it('is refused where the way does not lead there', () => {
    const move = { ...emptyMove, facts: laptop };
    expect(codesOf(chooseRoute(move, { ...choice, installerMedium: 'disk-partition' }, technician))).toEqual([
      'cannot-be-brought',
    ]);
    expect(codesOf(chooseRoute(move, { ...choice, installerMedium: 'running-system' }, technician))).toEqual([
      'cannot-be-brought',
    ]);
    expect(
      done(chooseRoute(move, { ...choice, installerMedium: 'optical-disc' }, technician)).decision?.bringing,
    ).toBe('optical-disc');
  });
});

describe('what the survey knows is in the steps', () => {
  const steps = (system: object, model = 'Fenwright 14', release = 'corvel-10-personal') => {
    const facts = laptopWith({
      device: { maker: 'Kestle', model, year: 2017, chassis: 'laptop' },
      disks: [splitDisk],
      system: { ...laptopSurvey.system, ...system },
    });
    const outcome = buildRunbook(
      inputFor('clean-whole-disk', release, { facts, preparation: nothingPrepared }),
    );
    if (!outcome.ok) throw new Error('no plan');
    return new Map(outcome.value.steps.map((step) => [step.id, step]));
  };

  it('names other accounts, devices that need a driver, and where the recovery key is said to be', () => {
    const told = steps({
      accounts: ['Crew', 'Purser'],
      attachedDevices: [{ name: 'ticket printer', needsDriver: true }],
      diskEncryption: 'on',
      recoveryKeyPlace: 'envelope 14',
    });
    expect(told.get('forgotten-things')?.why).toContain('2 accounts are on the device: Crew, Purser.');
    expect(told.get('carry-drivers')?.title).toContain('ticket printer');
    expect(told.get('record-recovery-key')?.why).toContain('envelope 14');
  });

  it('says where a network is needed although the house stays offline', () => {
    expect(steps({}, 'Fenwright 14', 'rushlight').get('first-start')?.why).toContain(
      'goes no further without a network',
    );
  });
});
