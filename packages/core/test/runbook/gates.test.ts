import { describe, expect, it } from 'vitest';
import { chooseRoute, overruleGate, plan, prepare, setDataSets, type Move } from '../../src/record';
import type { GateId } from '../../src/runbook';
import type { Survey } from '../../src/survey';
import {
  catalogue,
  done,
  laptop,
  laptopSurvey,
  laptopWith,
  lead,
  splitDisk,
  technician,
  without,
} from '../fixtures/shop';
import { gateOf, planned, ready } from '../fixtures/story';

/** State and first words of a gate; a gate that the plan does not have is neither. */
const gate = (move: Move, id: GateId) => {
  const found = gateOf(move, id);
  return found ? [found.state, found.proof, found.sentence] : undefined;
};
const withFacts = (change: Partial<Survey>): Move => ({ ...ready(planned()), facts: laptopWith(change) });
const system = (change: object) => withFacts({ system: { ...laptopSurvey.system, ...change } });
const noted = (change: Partial<Move['preparation']>): Move => {
  const move = ready(planned());
  return { ...move, preparation: { ...move.preparation, ...change } };
};
const by = { at: technician.now, by: 'Ines' };

describe('the recovery key', () => {
  it('is kept, or the disk is measured not to be encrypted; else it is asked for', () => {
    expect(gate(system({ diskEncryption: 'off' }), 'recovery-key')).toEqual([
      'green',
      'measured',
      'The disk is not encrypted.',
    ]);
    expect(gate(system({ diskEncryption: 'on' }), 'recovery-key')?.[2]).toContain('is encrypted and where');
    const unknown = { ...ready(planned()), facts: without(laptop, 'diskEncryption') };
    expect(gate(unknown, 'recovery-key')?.slice(0, 1)).toEqual(['closed']);
    expect(gate(unknown, 'recovery-key')?.[2]).toContain('is unknown');
    // A note is a statement, whatever the disk is.
    const kept = { keptWhere: 'office safe', ...by };
    expect(gate(noted({ recoveryKey: kept }), 'recovery-key')).toEqual([
      'green',
      'stated',
      'Kept: office safe.',
    ]);
  });
});

describe('power', () => {
  it('is the mains of a desktop, or a light that somebody saw', () => {
    const desktop = withFacts({ device: { ...laptopSurvey.device, chassis: 'desktop' } });
    expect(gate({ ...desktop, preparation: { ...desktop.preparation, power: null } }, 'power')).toEqual([
      'green',
      'measured',
      'A desktop, on the mains.',
    ]);
    expect(gate(noted({}), 'power')).toEqual(['green', 'stated', 'Seen by Ines.']);
    expect(gate(noted({ power: null }), 'power')?.slice(0, 2)).toEqual(['closed', null]);
  });
});

describe('a gate that was overruled', () => {
  it('is open by itself once its condition holds, and overruled only while it does not', () => {
    const dark = noted({ power: null });
    const overruled = done(overruleGate(dark, 'power', 'The charger is fixed to the desk.', lead));
    expect(gate(overruled, 'power')).toEqual([
      'overruled',
      null,
      'Overruled by Maud: The charger is fixed to the desk.',
    ]);
    const seen = done(prepare(overruled, { power: {} }, technician));
    expect(gate(seen, 'power')).toEqual(['green', 'stated', 'Seen by Ines.']);
  });

  it('keeps what is not spoken of when something else is noted', () => {
    const move = noted({});
    const next = done(prepare(move, { networkDriver: { how: 'Stick S-04' } }, technician));
    expect(next.preparation.power).toEqual(move.preparation.power);
    expect(next.preparation.stick).toEqual(move.preparation.stick);
    expect(next.preparation.networkDriver).toMatchObject({ how: 'Stick S-04', by: 'Ines' });
  });
});

describe('the licence', () => {
  it('fits the edition and is noted in a kind that activates the target', () => {
    expect(gate(noted({}), 'licence')).toEqual(['green', 'stated', 'digital, office safe.']);
    expect(gate(noted({ licence: null }), 'licence')?.[2]).toContain('is not noted');
    const target = catalogue.releases.find(({ id }) => id === 'corvel-10-business');
    const other = (['volume', 'key', 'digital', 'none'] as const).find(
      (kind) => !target?.activation.includes(kind),
    );
    expect(other).toBeDefined();
    if (other)
      expect(gate(noted({ licence: { kind: other, keptWhere: 'safe', ...by } }), 'licence')?.[2]).toContain(
        `A licence that is ${other} does not activate the target; it takes ${target?.activation.join(' or ') ?? ''}.`,
      );
    // One for another edition is found here: what is noted does not help.
    const personal = system({ release: 'corvel-9-personal' });
    expect(gate(personal, 'licence')?.[0]).toBe('closed');
    expect(gate(personal, 'licence')?.[2]).toContain('Get one that fits');
  });

  it('is none where the system takes none', () => {
    const free = done(
      plan(
        done(
          chooseRoute(
            planned(),
            { routeId: 'alternative-system', releaseId: 'saltbush-full', reason: 'The owner wants it.' },
            lead,
          ),
        ),
        lead,
      ),
    );
    expect(gate({ ...free, preparation: { ...free.preparation, licence: null } }, 'licence')).toEqual([
      'green',
      'measured',
      'The system needs no licence.',
    ]);
  });
});

describe('the disk', () => {
  it('is identified by what was typed of it, or cannot be', () => {
    expect(gate(noted({}), 'disk-identified')).toEqual(['green', 'measured', '…9C2E, 256.1 GB.']);
    expect(gate(noted({ diskMarks: null }), 'disk-identified')?.[0]).toBe('closed');
    const other = { serialEnd: '0000', sizeGigabytes: 256.1, ...by };
    expect(gate(noted({ diskMarks: other }), 'disk-identified')?.[0]).toBe('closed');
    const nothing = { ...ready(planned()), facts: without(laptop, 'disks') };
    expect(gate(nothing, 'disk-identified')?.[2]).toContain('cannot be told from the survey');
  });
});

describe('the network driver', () => {
  const release = catalogue.releases.find(({ id }) => id === 'corvel-10-business');
  const adapter = (driver: string) => withFacts({ network: [{ name: 'adapter', kind: 'wired', driver }] });

  it('comes with the release, or is carried', () => {
    expect(gate(adapter(release?.bundledDrivers[0] ?? ''), 'network-driver')).toEqual([
      'green',
      'measured',
      'The driver of adapter comes with the release.',
    ]);
    const none = adapter('no-such-driver');
    expect(gate(none, 'network-driver')?.[2]).toContain('No driver for its adapter comes with the release');
    const unknown = { ...ready(planned()), facts: without(laptop, 'networkAdapters') };
    expect(gate(unknown, 'network-driver')?.[2]).toContain('is unknown');
    const carried = {
      ...none,
      preparation: { ...none.preparation, networkDriver: { how: 'Stick S-04', ...by } },
    };
    expect(gate(carried, 'network-driver')).toEqual(['green', 'stated', 'Stick S-04.']);
  });
});

describe('what is saved', () => {
  it('is listed, or nothing is, and somebody says so', () => {
    expect(gate(noted({}), 'scope-stated')).toEqual(['green', 'stated', '2 data sets listed.']);
    const bare = done(setDataSets(ready(planned()), [], technician));
    expect(gate(bare, 'scope-stated')?.slice(0, 2)).toEqual(['closed', null]);
    const stated = done(prepare(bare, { nothingToSave: { statement: 'A kiosk' } }, technician));
    expect(gate(stated, 'scope-stated')).toEqual(['green', 'stated', 'Nothing to save, says Ines: A kiosk']);
    expect(gate(stated, 'copies-verified')).toEqual(['green', 'stated', 'There is nothing to copy.']);
  });
});

describe('the installer stick', () => {
  it('is named, and is not the backup', () => {
    expect(gate(noted({}), 'stick-apart')).toEqual(['green', 'measured', 'Stick S-03 holds no backup.']);
    expect(gate(noted({ stick: null }), 'stick-apart')?.[2]).toContain('is not named');
    const backup = { name: 'B-07', serial: 'OSB-7731C', ...by };
    expect(gate(noted({ stick: backup }), 'stick-apart')?.[2]).toContain('is also the backup B-07');
  });
});

describe('gates that hang on the route', () => {
  const weak = laptopWith({
    firmware: { mode: 'uefi', secureBoot: 'on', tpm: 'none' },
    disks: [splitDisk],
  });

  it('a waived check needs consent in writing from everybody whom the route names', () => {
    const base = { ...planned(), facts: weak };
    const waived = chooseRoute(
      base,
      {
        routeId: 'waived-clean',
        releaseId: 'corvel-10-business',
        reason: 'Until the new ones come.',
        waivers: ['tpm'],
      },
      lead,
    );
    const move = done(plan(done(waived), lead));
    const closedBy = gate(move, 'consents')?.[2];
    expect(closedBy).toContain('not agreed in writing');
    const paper = (signer: string) => ({ signer, keptWhere: 'safe', ...by });
    const agreed = {
      ...move,
      preparation: {
        ...move.preparation,
        ownerConsent: paper('Maud Sallow'),
        organisationConsent: paper('Odd Fennick'),
      },
    };
    expect(gate(agreed, 'consents')?.[0]).toBe('green');
    expect(gate(agreed, 'consents')?.[2]).toContain('Maud Sallow for the owner');
    // None of the others asks for papers.
    expect(gate(noted({}), 'consents')).toBe(undefined);
    expect(gate(noted({}), 'data-moved')).toBe(undefined);
    expect(gate(noted({}), 'capsule-kept')).toBe(undefined);
  });
});
