import { describe, expect, it } from 'vitest';
import { installerMediaFor, routes } from '../../src/route';
import { planSteps } from '../../src/runbook';
import { contextFor, decisionInput } from '../../src/decide';
import type { RouteId } from '../../src/route';
import type { Facts, Survey } from '../../src/survey';
import { catalogue, inputFor, laptopSurvey, laptopWith, today } from '../fixtures/shop';
import { defaultHouseRules } from '../../src/rules';

/** What a plan says at the step of a kind. */
function said(
  kind: string,
  facts: Facts,
  routeId: RouteId,
  releaseId: string,
  installerMedium = 'stick',
): string {
  const planned = planSteps(
    inputFor(routeId, releaseId, {
      facts,
      installerMedium: installerMedium as 'stick' | 'optical-disc' | 'disk-partition',
    }),
  );
  if (!planned.ok) throw new Error(planned.problems[0]?.sentence);
  const step = planned.value.steps.find((one) => one.step.kind === kind)?.step;
  return [step?.title, step?.why, step?.success].join(' | ');
}

const firmware = (change: Survey['firmware']) =>
  laptopWith({ firmware: { ...laptopSurvey.firmware, ...change } });

describe('a drive for discs', () => {
  const finding = (opticalDrive: Survey['opticalDrive']) => {
    const facts = laptopWith(opticalDrive === undefined ? {} : { opticalDrive });
    const input = decisionInput({ facts, catalogue, houseRules: defaultHouseRules, today });
    const choice = { routeId: 'clean-whole-disk', releaseId: 'corvel-10-business' } as const;
    const context = contextFor(input, choice);
    if (!context) throw new Error('there is such an option');
    return installerMediaFor(context, routes['clean-whole-disk']).find(
      ({ installerMedium }) => installerMedium.id === 'optical-disc',
    )?.finding.finding;
  };

  it('allows a disc, or excludes it; where nobody has looked it is asked', () => {
    expect(finding('internal')).toBe('allows');
    expect(finding('external')).toBe('allows');
    expect(finding('none')).toBe('excludes');
    expect(finding(undefined)).toBe('unknown');
  });

  it('on USB is plugged in before the device is switched on', () => {
    const start = (opticalDrive: NonNullable<Survey['opticalDrive']>) =>
      said(
        'start-from-disc',
        laptopWith({ opticalDrive }),
        'clean-whole-disk',
        'corvel-10-business',
        'optical-disc',
      );
    expect(start('external')).toContain('before the device is switched on');
    expect(start('internal')).not.toContain('switched on');
  });
});

describe('a loader in a file', () => {
  const start = (bootFromFile?: 'yes' | 'no') =>
    said(
      'start-from-partition',
      firmware(bootFromFile === undefined ? {} : { bootFromFile }),
      'beside-same-disk',
      'saltbush-full',
      'disk-partition',
    );

  it('is started by the firmware’s own page where it has one, else by an entry of the running system', () => {
    expect(start('yes')).toMatch(/^Start the loader with the firmware’s “boot from file”: set-up key/);
    expect(start('yes')).not.toContain('start entry');
    expect(start('no')).toMatch(/^Start the loader by an entry that the running system adds/);
    expect(start('no')).toContain('for the next start only');
    // Nobody has looked: both ways are said.
    expect(start()).toContain('“boot from file”: set-up key');
    expect(start()).toContain('Where the firmware has no such line');
  });
});

describe('a medium that is started', () => {
  it('is found by the name of its volume, where its release gives one', () => {
    const start = (releaseId: string) =>
      said('start-from-stick', laptopWith(laptopSurvey), 'clean-whole-disk', releaseId);
    expect(start('aurin-15')).toContain(
      'The volume to take is called “AURIN 15”, whatever else the medium holds.',
    );
    expect(start('corvel-10-business')).not.toContain('volume');
  });
});

describe('the check of drivers', () => {
  const facts = laptopWith({
    display: {
      ...laptopSurvey.display,
      chips: [
        { name: 'Lantern 4', driver: 'kite-eth' },
        { name: 'Beacon 900', driver: 'beacon' },
      ],
    },
    network: [{ name: 'wl-a', kind: 'wireless', driver: 'no-such-driver' }],
    system: {
      ...laptopSurvey.system,
      attachedDevices: [{ name: 'ticket printer', needsDriver: true }, { name: 'mouse' }],
    },
  });

  it('says where each driver comes from, the network first, and what is tried', () => {
    const words = said('drivers', facts, 'clean-whole-disk', 'corvel-10-business');
    const order = [
      'wl-a: its driver is carried',
      'Lantern 4: its driver comes with the release',
      'Beacon 900: its driver comes by the update service, else from the maker’s page for the Fenwright 14',
      'ticket printer: its driver is carried',
      'mouse: the system’s own driver',
    ];
    const places = order.map((one) => words.indexOf(one));
    expect(places).not.toContain(-1);
    expect(places).toEqual(places.toSorted((a, b) => a - b));
    expect(words).toContain('Tried, one after the other: wl-a reaches the network, Lantern 4 draws');
  });

  it('says that a driver is carried only where a step carries it', () => {
    const adapters = (...drivers: string[]) =>
      laptopWith({ network: drivers.map((driver) => ({ name: `adapter of ${driver}`, driver })) });
    const words = (given: Facts, kind: string) => said(kind, given, 'clean-whole-disk', 'corvel-10-business');
    // The first adapter works by itself, so nothing is carried for the second.
    const one = adapters('kite-eth', 'no-such-driver');
    expect(words(one, 'carry-drivers')).toBe(' |  | ');
    expect(words(one, 'drivers')).toContain(
      'adapter of no-such-driver: its driver comes by the update service',
    );
    const none = adapters('no-such-driver');
    expect(words(none, 'carry-drivers')).toContain('network driver');
    expect(words(none, 'drivers')).toContain('adapter of no-such-driver: its driver is carried');
  });

  it('names the maker’s set for this model and the family of the target, and no set for another family', () => {
    const set = (family: string) => ({
      family,
      from: `https://kestle.example/${family}`,
      serves: ['network' as const, 'graphics' as const, 'sound' as const],
    });
    const model = catalogue.models.find(({ id }) => id === 'kestle-fenwright-14');
    if (!model) throw new Error('no model');
    const words = (family: string, kind: string) => {
      const planned = planSteps(
        inputFor('clean-whole-disk', 'corvel-10-business', {
          facts,
          model: { ...model, driverSets: [set(family)] },
        }),
      );
      const step = planned.ok ? planned.value.steps.find((one) => one.step.kind === kind)?.step : undefined;
      return `${step?.why ?? ''} ${step?.success ?? ''}`;
    };
    const own = words('corvel', 'drivers');
    expect(own).toContain(
      'Beacon 900: its driver is in the maker’s set for the Fenwright 14, https://kestle.example/corvel',
    );
    // What the release brings needs no set; what the survey does not list is named by its kind, once.
    expect(own).toContain('Lantern 4: its driver comes with the release');
    expect(own).toContain('Sound: its driver is in the maker’s set');
    expect(own.split('sound plays')).toHaveLength(2);
    expect(words('corvel', 'carry-drivers')).toContain('The maker’s set for the Fenwright 14 has it');
    expect(words('saltbush', 'drivers')).not.toContain('maker’s set');
    expect(words('saltbush', 'carry-drivers')).not.toContain('maker’s set');
  });

  it('has its usual words where no part is known', () => {
    const { network: _network, ...bare } = laptopSurvey;
    const words = said(
      'drivers',
      laptopWith({ ...bare, network: [] }),
      'clean-whole-disk',
      'corvel-10-business',
    );
    expect(words).toContain('| Graphics and sound from the maker');
    expect(words).toContain('Tried, one after the other: sound plays');
  });
});
