import { api, ProblemDetailsSchema, type MoveView } from '@ulvane/contract';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { TestHouse, type Visitor } from './house';

let house: TestHouse;
let technician: Visitor;
let lead: Visitor;

beforeAll(async () => {
  house = await TestHouse.open('demo');
  technician = await house.signedIn('technician');
  lead = await house.signedIn('lead');
});
afterAll(() => house.close());

const disk = (name: string, serial: string) => ({
  name,
  serial,
  bus: 'sata',
  rotational: false,
  removable: false,
  sectorBytes: 512,
  sectorCount: 500_118_192,
  scheme: 'none',
  health: 'good',
  partitions: [],
});
/** A new computer with two blank disks. */
const survey = (serial: string) => ({
  format: 'ulvane-survey',
  version: 1,
  takenAt: '2026-03-02T09:00:00.000Z',
  device: { maker: 'Kestle', model: 'Fenwright 14', serial, year: 2017, chassis: 'laptop' },
  disks: [disk('sda', 'NEW-AAAA'), disk('sdb', 'NEW-BBBB')],
});
const started = (serial: string): Promise<MoveView> =>
  technician.call(api.addMove, {
    body: { owner: '', site: '', dueOn: null, surveyText: JSON.stringify(survey(serial)) },
  });
const at = ({ move, version }: MoveView) => ({ params: { reference: move.reference }, version });
const problem = (body: unknown) => ProblemDetailsSchema.parse(body);

describe('why a move is made', () => {
  it('is stated, changes the options, and is in the log', async () => {
    const view = await started('KF14-WISH-1');
    expect(view.move.wish).toBeNull();
    const { params, version } = at(view);
    const stated = await technician.call(api.stateWish, {
      params,
      body: { version, wish: { purpose: 'another-beside', until: null } },
    });
    expect(stated.move.wish?.purpose).toBe('another-beside');
    const { options } = await technician.call(api.options, { params });
    expect(options.filter(({ status }) => status !== 'excluded')).toEqual([]);
    expect(options[0]?.reasons[0]?.rule).toBe('serves-the-wish');
    const { lines } = await technician.call(api.events, { params });
    expect(lines.map(({ kind }) => kind)).toContain('wish-stated');
  });

  it('is refused where a trial has no last day, or one that is over', async () => {
    const view = await started('KF14-WISH-2');
    const { params, version } = at(view);
    const none = await technician.at(api.stateWish, {
      params,
      body: { version, wish: { purpose: 'trial', until: null } },
    });
    expect([none.status, problem(none.body).detail]).toEqual([422, expect.stringContaining('last day')]);
    const over = await technician.at(api.stateWish, {
      params,
      body: { version, wish: { purpose: 'trial', until: '2026-03-01' } },
    });
    expect([over.status, problem(over.body).detail]).toEqual([422, expect.stringContaining('still to come')]);
  });
});

describe('several facts at once', () => {
  it('are typed all of them, or none', async () => {
    const view = await started('KF14-FACTS-1');
    const { params, version } = at(view);
    const wrong = await technician.at(api.typeFacts, {
      params,
      body: { version, facts: { cores: 4, tpm: 'perhaps' } },
    });
    expect([wrong.status, problem(wrong.body).detail]).toEqual([
      422,
      expect.stringContaining('Security chip'),
    ]);
    const same = await technician.call(api.move, { params });
    expect([same.version, same.move.facts.cores]).toEqual([version, undefined]);
    const typed = await technician.call(api.typeFacts, {
      params,
      body: { version, facts: { cores: 4, tpm: '2.0' } },
    });
    expect([typed.version, typed.move.facts.cores?.value, typed.move.facts.tpm?.value]).toEqual([
      version + 1,
      4,
      '2.0',
    ]);
  });
});

describe('the disk that is written', () => {
  it('is one of the two blank ones, by name and serial number, and no third', async () => {
    const view = await started('KF14-DISK-1');
    expect(view.move.facts.presentRelease?.value).toBe('none');
    const { params, version } = at(view);
    const choice = {
      version,
      routeId: 'clean-whole-disk' as const,
      releaseId: 'saltbush-full',
      reason: 'Agreed with the owner.',
    };
    const refused = await lead.at(api.choose, {
      params,
      body: { ...choice, disk: { name: 'sdc', serial: 'NEW-CCCC' } },
    });
    expect([refused.status, problem(refused.body).detail]).toEqual([
      422,
      'This route cannot write to that disk: it can write to …AAAA, …BBBB.',
    ]);
    const chosen = await lead.call(api.choose, {
      params,
      body: { ...choice, disk: { name: 'sdb', serial: 'NEW-BBBB' } },
    });
    expect(chosen.move.decision?.disk).toEqual({ name: 'sdb', serial: 'NEW-BBBB' });
  });
});
