import { describe, expect, it } from 'vitest';
import {
  after,
  carryOut,
  needsOf,
  orderSteps,
  type Machine,
  type Operator,
  type PlanStep,
} from '../../src/machine';
import { planSteps } from '../../src/runbook';
import { driveB7, inputFor, laptopWith, laptopSurvey, splitDisk } from '../fixtures/shop';

/** The bench laptop before a clean install, as the survey tells it; its fast start is on. */
function bench(change: Partial<Machine> = {}, system: Partial<Machine['systems'][number]> = {}): Machine {
  const planned = planSteps(inputFor('clean-system-partition', 'corvel-10-business'));
  const [machine] = planned.ok ? planned.value.worlds : [];
  if (!machine) throw new Error('the bench laptop has a plan');
  return {
    ...machine,
    systems: machine.systems.map((one) => ({ ...one, ...system })),
    ...change,
  };
}

const newSystem = {
  disk: 'sda',
  mode: 'uefi' as const,
  consents: false,
  after: { needsShim: false, signature: 'signed' as const, licence: false, networkDriver: true },
};
const install: Operator = { op: 'install', into: 'system-partition', ...newSystem };
const lacks = (machine: Machine, operator: Operator) =>
  needsOf(machine, operator).map(({ missing }) => missing);
const through = (machine: Machine, ...operators: readonly Operator[]) => operators.reduce(after, machine);
const sets = ['documents', 'pictures'];
const saved: readonly Operator[] = [
  { op: 'copy', destination: 'b-07', sets },
  { op: 'verify', destination: 'b-07', sets },
];
const onDisk: readonly Operator[] = [
  { op: 'shut-down-fully' },
  { op: 'connect-mains' },
  { op: 'identify', disk: 'sda' },
];
const stick: readonly Operator[] = [
  { op: 'write-installer', kind: 'stick', modes: ['uefi'] },
  { op: 'set-switch', to: { switch: 'usb-start', on: true } },
];

describe('copies', () => {
  it('count once they are compared, and what is erased is neither copied nor compared any more', () => {
    const machine = bench();
    expect(lacks(machine, { op: 'verify', destination: 'b-07', sets })).toEqual([
      'not copied there yet: Documents, Pictures',
    ]);
    const copied = through(machine, { op: 'copy', destination: 'b-07', sets });
    expect(copied.data.map(({ good }) => good)).toEqual([[], []]);
    expect(through(copied, { op: 'verify', destination: 'b-07', sets }).data.map(({ good }) => good)).toEqual(
      [['b-07'], ['b-07']],
    );
    const erased = through(
      machine,
      ...saved,
      ...onDisk,
      ...stick,
      { op: 'start', what: 'installer' },
      { op: 'erase', disk: 'sda' },
    );
    expect(erased.data.map(({ original }) => original)).toEqual(['gone', 'gone']);
    expect(lacks(erased, { op: 'copy', destination: 'pier-store', sets })).toContain(
      'erased already: Documents, Pictures',
    );
  });

  it('come back into a system that is set up, from where they are', () => {
    const done = through(
      bench(),
      ...saved,
      ...onDisk,
      ...stick,
      { op: 'start', what: 'installer' },
      { op: 'format-system', disk: 'sda' },
      install,
      { op: 'take-out' },
    );
    expect(lacks(done, { op: 'restore', destination: 'b-07', sets: ['documents'] })).toEqual([
      'the new system is not set up yet',
    ]);
    const used = through(done, { op: 'set-up', withNetwork: false });
    expect(lacks(used, { op: 'restore', destination: 'b-07', sets: ['documents'] })).toEqual([]);
    expect(lacks(used, { op: 'restore', destination: 'pier-store', sets: ['documents'] })).toEqual([
      'no verified copy there of Documents',
    ]);
  });
});

describe('a shrink', () => {
  const shrink: Operator = { op: 'shrink', disk: 'sda', partition: 3 };

  it('needs copies of what lies there, a full shut-down, suspended encryption, mains, and the disk identified', () => {
    expect(lacks(bench({}, { encryption: 'locked' }), shrink)).toEqual([
      'disk …9C2E is not identified by serial number and size',
      'the device is not on its charger',
      'the present system only sleeps when it is shut down',
      'the disk’s encryption is not suspended',
      'no recovery medium of the present system is at hand',
      'no verified copy of Documents',
    ]);
    const ready = through(
      bench({}, { encryption: 'locked' }),
      ...saved,
      ...onDisk,
      { op: 'note', note: 'recovery-key' },
      { op: 'suspend-encryption' },
      { op: 'make-recovery-medium' },
    );
    expect(lacks(ready, shrink)).toEqual([]);
    // A disk without the present system needs none.
    const elsewhere = { ...ready, recovery: 'missing' as const };
    expect(lacks(elsewhere, shrink)).toHaveLength(1);
    expect(
      lacks({ ...elsewhere, systems: elsewhere.systems.map((one) => ({ ...one, disk: 'sdb' })) }, shrink),
    ).toEqual([]);
    // Of the data partition it is the other data set that counts.
    expect(
      lacks(through(bench(), ...onDisk, { op: 'make-recovery-medium' }), { ...shrink, partition: 4 }),
    ).toEqual(['no verified copy of Pictures']);
  });

  it('needs the other disks told apart', () => {
    const two = bench();
    const [disk] = two.disks;
    if (!disk) throw new Error('no disk');
    const beside = { ...two, disks: [disk, { ...disk, id: 'sdb', called: '…SC08' }] };
    const ready = through(beside, ...saved, ...onDisk, { op: 'make-recovery-medium' });
    expect(lacks(ready, shrink)).toEqual(['disk …SC08 is neither labelled nor unplugged']);
    expect(lacks(through(ready, { op: 'label', disk: 'sdb' }), shrink)).toEqual([]);
    expect(lacks(through(ready, { op: 'unplug', disk: 'sdb' }), shrink)).toEqual([]);
  });
});

describe('a partition that is deleted', () => {
  it('takes away what lies in it, and the system only with its own partition', () => {
    const kept = through(bench(), { op: 'delete-partition', disk: 'sda', partition: 4 });
    expect(kept.systems).toHaveLength(1);
    expect(kept.data.map(({ original }) => original === 'gone')).toEqual([false, true]);
    // Nobody has marked which one is the system's: it is not gone with another one.
    const unmarked = bench();
    const nameless = {
      ...unmarked,
      disks: unmarked.disks.map((disk) => ({
        ...disk,
        partitions: disk.partitions.map(({ number }) => ({ number, role: undefined })),
      })),
    };
    const after4 = through(nameless, { op: 'delete-partition', disk: 'sda', partition: 4 });
    expect(after4.systems).toHaveLength(1);
    expect(through(nameless, { op: 'erase', disk: 'sda' }).systems).toEqual([]);
    expect(through(bench(), { op: 'delete-partition', disk: 'sda', partition: 3 }).systems).toEqual([]);
  });
});

describe('starting', () => {
  it('from a stick needs it written for a mode that the firmware starts, and USB start', () => {
    const machine = through(bench(), { op: 'write-installer', kind: 'stick', modes: ['legacy'] });
    expect(lacks(machine, { op: 'start', what: 'installer' })).toEqual([
      'the firmware does not start from USB',
      'the installer is not written for the mode that the firmware starts in',
    ]);
    expect(lacks(through(bench(), ...stick), { op: 'start', what: 'installer' })).toEqual([]);
    // A disc asks for no USB start; an image is not started from at all.
    const disc = through(bench(), { op: 'write-installer', kind: 'disc', modes: ['uefi'] });
    expect(lacks(disc, { op: 'start', what: 'installer' })).toEqual([]);
    const image = through(bench(), { op: 'write-installer', kind: 'image', modes: ['uefi'] });
    expect(lacks(image, { op: 'start', what: 'installer' })).toEqual([
      'an image is opened in a running system, not started from',
    ]);
    expect(lacks(image, { op: 'start', what: 'installer-inside' })).toEqual([]);
  });

  it('from elsewhere locks an encrypted disk that is not suspended', () => {
    const locked = through(bench({}, { encryption: 'locked' }), ...stick);
    expect(lacks(locked, { op: 'start', what: 'installer' })).toEqual([
      'the disk’s encryption is not suspended',
    ]);
    expect(lacks(locked, { op: 'suspend-encryption' })).toEqual([
      'where the recovery key is kept is not noted',
    ]);
    const open = through(locked, { op: 'note', note: 'recovery-key' }, { op: 'suspend-encryption' });
    expect(lacks(open, { op: 'start', what: 'installer' })).toEqual([]);
  });

  it('comes again from the medium that is left in, where that is first', () => {
    const machine = through(bench(), ...stick, {
      op: 'set-switch',
      to: { switch: 'first', first: 'medium' },
    });
    expect(lacks(machine, { op: 'start', what: 'present' })).toEqual([
      'the installer would start again: it is still plugged in and comes first',
    ]);
  });

  it('of the present system ends with its mode, and after a conversion with its loader', () => {
    const converted = through(bench({}, { mode: 'legacy' }), { op: 'convert', disk: 'sda', scheme: 'mbr' });
    expect(lacks(converted, { op: 'start', what: 'present' })).toEqual([
      'the present system has no loader that starts it',
      'the firmware does not start the present system: it is in another mode',
    ]);
    const started = through(
      converted,
      { op: 'write-loader' },
      { op: 'start', what: 'firmware' },
      { op: 'set-switch', to: { switch: 'mode', only: 'legacy' } },
    );
    expect(lacks(started, { op: 'start', what: 'present' })).toEqual([]);
  });
});

describe('a switch', () => {
  const secureBoot: Operator = { op: 'set-switch', to: { switch: 'secure-boot', on: true } };
  const inSetUp = (firmware: Partial<Machine['firmware']>) =>
    through(bench({ firmware: { ...bench().firmware, ...firmware } }), { op: 'start', what: 'firmware' });

  it('let Secure Boot refuse a loader that nobody signed, and one of others until that is allowed', () => {
    const written = (
      signature: 'signed' | 'third-party' | 'unsigned',
      firmware: Partial<Machine['firmware']>,
    ) => {
      const machine = through(bench({}, { encryption: 'off' }), ...stick);
      return {
        ...machine,
        firmware: { ...machine.firmware, starts: ['uefi' as const], secureBoot: 'on' as const, ...firmware },
        installer: { ...machine.installer, signature },
      };
    };
    const start: Operator = { op: 'start', what: 'installer' };
    const refused = ['Secure Boot refuses the installer’s loader'];
    expect(lacks(written('signed', {}), start)).toEqual([]);
    expect(lacks(written('unsigned', {}), start)).toEqual(refused);
    expect(lacks(written('unsigned', { othersLoaders: true }), start)).toEqual(refused);
    expect(lacks(written('unsigned', { secureBoot: 'off' }), start)).toEqual([]);
    expect(lacks(written('third-party', { othersLoaders: false }), start)).toEqual(refused);
    expect(lacks(written('third-party', { othersLoaders: true }), start)).toEqual([]);
    // A kept system is refused in the same way.
    const kept = bench(
      { firmware: { ...bench().firmware, secureBoot: 'on', starts: ['uefi'], othersLoaders: false } },
      { signature: 'third-party' },
    );
    expect(lacks({ ...kept, running: { what: 'off' } }, { op: 'start', what: 'present' })).toEqual([
      'Secure Boot refuses the loader of the present system',
    ]);
  });

  it('is turned in the set-up, where the firmware has it, Secure Boot in UEFI mode only', () => {
    expect(lacks(bench(), secureBoot)).toEqual(['the firmware’s set-up is not open']);
    expect(lacks(inSetUp({}), secureBoot)).toEqual([]);
    expect(lacks(inSetUp({ secureBoot: 'none' }), secureBoot)).toEqual(['the firmware has no Secure Boot']);
    expect(lacks(inSetUp({ starts: ['uefi', 'legacy'] }), secureBoot)).toEqual([
      'Secure Boot can be on in UEFI mode only',
    ]);
    const chip: Operator = { op: 'set-switch', to: { switch: 'chip', on: true } };
    expect(lacks(inSetUp({ chip: 'none' }), chip)).toEqual(['the device has no security chip']);
    const mode: Operator = { op: 'set-switch', to: { switch: 'mode', only: 'uefi' } };
    expect(lacks(inSetUp({ can: ['legacy'], starts: ['legacy'] }), mode)).toEqual([
      'the firmware has no UEFI mode',
    ]);
    // One that stands there already is looked at, wherever one is.
    expect(lacks(bench({ firmware: { ...bench().firmware, secureBoot: 'on' } }), secureBoot)).toEqual([]);
  });
});

describe('an install', () => {
  const ready = through(bench(), ...saved, ...onDisk, ...stick, { op: 'start', what: 'installer' });

  it('needs its place: an empty disk, a formatted partition, or a free run', () => {
    expect(lacks(ready, install)).toEqual(['the system partition is not formatted']);
    expect(lacks(ready, { ...install, into: 'empty-disk' })).toEqual(['disk …9C2E is not emptied']);
    expect(lacks(through(ready, { op: 'format-system', disk: 'sda' }), install)).toEqual([]);
    const beside: Operator = { ...install, into: 'free-run' };
    const full = { ...ready, disks: ready.disks.map((disk) => ({ ...disk, room: false })) };
    expect(lacks(full, beside)).toEqual(['there is no free run for it']);
    expect(lacks(through(full, { op: 'shrink', disk: 'sda', partition: 3 }), beside)).toEqual([]);
  });

  it('on a table that stays needs the scheme to suit the mode that it was started in', () => {
    const formatted = through(ready, { op: 'format-system', disk: 'sda' });
    const mbr = { ...formatted, disks: formatted.disks.map((disk) => ({ ...disk, scheme: 'mbr' as const })) };
    expect(lacks(mbr, install)).toEqual(['disk …9C2E has MBR, and the installer was started in UEFI mode']);
  });

  it('takes the present system away with the partition or the disk, and leaves other partitions', () => {
    const formatted = through(ready, { op: 'format-system', disk: 'sda' });
    expect(formatted.systems).toEqual([]);
    expect(formatted.data.map(({ original }) => original === 'gone')).toEqual([true, false]);
    expect(formatted.disks[0]?.partitions.map(({ number }) => number)).toEqual([1, 2, 4, 5]);
    expect(lacks(formatted, { op: 'start', what: 'present' })).toEqual(['the present system is not there']);
  });

  it('past what the firmware accepts keeps the stick in until the shim is on the disk', () => {
    const shimmed = through(ready, {
      op: 'install-over',
      ...newSystem,
      after: { ...newSystem.after, needsShim: true },
    });
    expect(lacks(shimmed, { op: 'take-out' })).toEqual([
      'the only shim is on the stick: without it the new system does not start',
    ]);
    const withShim = through(
      shimmed,
      { op: 'write-shim', onto: 'installer' },
      { op: 'set-up', withNetwork: false },
    );
    const onItsDisk = through(withShim, { op: 'write-shim', onto: 'disk' });
    expect(lacks(onItsDisk, { op: 'take-out' })).toEqual([]);
  });
});

describe('the order of steps', () => {
  const step = (id: string, ...operators: readonly Operator[]): PlanStep => ({ id, operators });
  const ids = (steps: readonly PlanStep[]) => steps.map(({ id }) => id);

  it('follows from what each needs, and is the house’s where nothing asks for another', () => {
    const given = [
      step('verify', { op: 'verify', destination: 'b-07', sets }),
      step('habits'),
      step('copy', { op: 'copy', destination: 'b-07', sets }),
    ];
    const ordered = orderSteps([bench()], given);
    expect(ordered.ok && ids(ordered.steps)).toEqual(['habits', 'copy', 'verify']);
    const fine = [given[2], given[0], given[1]].flatMap((one) => (one ? [one] : []));
    const kept = orderSteps([bench()], fine);
    expect(kept.ok && ids(kept.steps)).toEqual(['copy', 'verify', 'habits']);
  });

  it('puts nothing that takes something away before what still needs it', () => {
    const ordered = orderSteps(
      [bench()],
      [
        step('unplug', { op: 'unplug', disk: 'sda' }),
        step('copy', { op: 'copy', destination: 'b-07', sets }),
      ],
    );
    expect(ordered.ok && ids(ordered.steps)).toEqual(['copy', 'unplug']);
    // Also where it comes back later: what can be done now is not put off for it.
    const back = orderSteps(
      [bench()],
      [
        step('unplug', { op: 'unplug', disk: 'sda' }),
        step('copy', { op: 'copy', destination: 'b-07', sets }),
        step('plug', { op: 'plug', disk: 'sda' }),
      ],
    );
    expect(back.ok && ids(back.steps)).toEqual(['copy', 'unplug', 'plug']);
  });

  it('holds in every world, and names what nothing supplies', () => {
    const usb = bench();
    const noUsb = { ...usb, firmware: { ...usb.firmware, usbStart: false } };
    const withUsb = { ...usb, firmware: { ...usb.firmware, usbStart: true } };
    const start = [
      step('write', { op: 'write-installer', kind: 'stick', modes: ['uefi'] }),
      step('start', { op: 'start', what: 'installer' }),
    ];
    expect(orderSteps([withUsb], start).ok).toBe(true);
    const refused = orderSteps([withUsb, noUsb], start);
    expect(refused.ok).toBe(false);
    expect(!refused.ok && refused.obstacles.map(({ stepId, need }) => [stepId, need.missing])).toEqual([
      ['start', 'the firmware does not start from USB'],
    ]);
    const allowed = [
      ...start,
      step(
        'allow',
        { op: 'start', what: 'firmware' },
        { op: 'set-switch', to: { switch: 'usb-start', on: true } },
      ),
    ];
    const ordered = orderSteps([withUsb, noUsb], allowed);
    expect(ordered.ok && ids(ordered.steps)).toEqual(['write', 'allow', 'start']);
    expect(carryOut(noUsb, start)).toMatchObject({ ok: false, obstacle: { stepId: 'start' } });
  });
});

describe('a plan that cannot be carried out', () => {
  it('is one that upgrades over files of which there is no copy', () => {
    const planned = planSteps(
      inputFor('in-place-upgrade', 'corvel-10-business', {
        destinations: [{ ...driveB7, takes: ['pictures'] }],
      }),
    );
    expect(!planned.ok && planned.problems.map(({ path, sentence }) => [path, sentence])).toEqual([
      ['/steps/start-upgrade', expect.stringContaining('cannot be done: no verified copy of Documents.')],
    ]);
  });

  it('is refused with the step, what is missing, and what would have to come first', () => {
    // UEFI firmware, and a table that starts in legacy mode only and stays.
    const facts = laptopWith({
      ...laptopSurvey,
      disks: [{ ...splitDisk, scheme: 'mbr' }],
      firmware: { mode: 'uefi', secureBoot: 'off', tpm: 'none' },
    });
    const planned = planSteps(inputFor('clean-system-partition', 'saltbush-full', { facts }));
    expect(planned.ok).toBe(false);
    expect(!planned.ok && planned.problems).toMatchObject([
      {
        code: 'cannot-be-carried-out',
        path: '/steps/start-from-stick',
        sentence: expect.stringContaining(
          'cannot be done: the installer is not written for the mode that the firmware starts in.',
        ),
      },
    ]);
  });
});
