import { commandText } from '../../src/catalogue/command';
import { describe, expect, it } from 'vitest';
import {
  findModel,
  releaseTitle,
  resolveCatalogue,
  supportDaysLeft,
  supportedUntil,
  type CatalogueFile,
} from '../../src/catalogue';
import { CatalogueFileSchema } from '../../src/catalogue';
import { catalogue, catalogueFile, releaseOf, today } from '../fixtures/shop';

const file: CatalogueFile = CatalogueFileSchema.parse(catalogueFile);

describe('the catalogue that ships', () => {
  it('has at least four families and fourteen releases, and leads nowhere wrong', () => {
    expect(catalogue.families.length).toBeGreaterThanOrEqual(4);
    expect(catalogue.releases.length).toBeGreaterThanOrEqual(14);
  });

  it('counts support days from the first day', () => {
    // Corvel 9 Personal: fixes for 23 days from the start; 2026-03-02 + 23 days = 2026-03-25.
    expect(supportedUntil(releaseOf('corvel-9-personal'))).toBe('2026-03-25');
    expect(supportDaysLeft(releaseOf('corvel-9-personal'), today)).toBe(23);
    // The Business edition is extended: 388 days.
    expect(supportDaysLeft(releaseOf('corvel-9-business'), today)).toBe(388);
  });

  it('gives a rolling system no end', () => {
    expect(supportedUntil(releaseOf('rushlight'))).toBeNull();
    expect(supportDaysLeft(releaseOf('rushlight'), today)).toBeGreaterThan(3000);
  });

  it('titles a release with its edition', () => {
    expect(releaseTitle(releaseOf('corvel-10-campus'))).toBe('Corvel 10 Campus');
    expect(releaseTitle(releaseOf('rushlight'))).toBe('Rushlight');
  });
});

describe('a catalogue file', () => {
  const codes = (input: unknown) => {
    const resolved = resolveCatalogue(input, today);
    return resolved.ok ? [] : resolved.problems.map(({ code }) => code);
  };
  const [first, ...others] = file.releases;
  if (!first) throw new Error('the catalogue is empty');

  it('is refused with a reference to nowhere', () => {
    expect(codes({ ...file, releases: [{ ...first, upgradesFrom: ['corvel-99'] }, ...others] })).toEqual([
      'reference-to-nowhere',
    ]);
    expect(
      codes({
        ...file,
        applications: [{ id: 'x', name: 'X', lockedToFamily: 'nobody', equivalents: {}, formats: [] }],
      }),
    ).toEqual(['reference-to-nowhere']);
  });

  it('is refused with a doubled id', () => {
    expect(codes({ ...file, releases: [first, first, ...others] })).toContain('doubled-id');
  });

  it('is refused when extended support ends before the security updates do', () => {
    expect(
      codes({
        ...file,
        releases: [{ ...first, fixesUntil: '2027-01-01', extendedUntil: '2026-12-31' }, ...others],
      }),
    ).toEqual(['dates-the-wrong-way']);
  });

  it('is refused when its set-up contradicts itself', () => {
    const command = { does: 'List', type: 'list' };
    const skip = { what: 'network', how: 'Say so.', consequence: 'Nothing comes.' };
    const asked = (change: object) => codes({ ...file, releases: [{ ...first, ...change }, ...others] });
    expect(asked({ wireless: 'commands', wirelessCommands: [command] })).toEqual([]);
    expect(asked({ wireless: 'commands', wirelessCommands: [] })).toEqual(['wireless-commands']);
    expect(asked({ wireless: 'page', wirelessCommands: [command] })).toEqual(['wireless-commands']);
    expect(asked({ setUpWithout: [skip, { ...skip, what: 'account' }] })).toEqual([]);
    expect(asked({ setUpWithout: [skip, skip] })).toEqual(['doubled-skip']);
  });

  it('is refused with the place of what does not fit', () => {
    const resolved = resolveCatalogue({ ...file, releases: [{ ...first, imageBytes: 0 }] }, today);
    expect(!resolved.ok && resolved.problems[0]?.path).toBe('/releases/0/imageBytes');
  });
});

describe('a command', () => {
  it('has what is known filled in, and what is not left for the hand', () => {
    expect(commandText('airctl {adapter} join {name}', { adapter: 'wl-a' })).toBe('airctl wl-a join {name}');
    expect(commandText('part active {active}', { active: '' })).toBe('part active');
  });
});

describe('the model table', () => {
  it('finds a model whatever the case, within its years', () => {
    expect(findModel(catalogue, 'kestle', 'FENWRIGHT 14', 2017).model?.bootMenuKey).toBe('F7');
    expect(findModel(catalogue, 'Kestle', 'Fenwright 14', 2031).model).toBeUndefined();
    expect(findModel(catalogue, undefined, 'Fenwright 14', 2017).model).toBeUndefined();
  });

  it('names two entries that fit, and picks neither', () => {
    const [model] = catalogue.models;
    if (!model) throw new Error('no model');
    const twice = { ...catalogue, models: [...catalogue.models, { ...model, id: 'again' }] };
    const found = findModel(twice, model.maker, model.model, undefined);
    expect(found.model).toBeUndefined();
    expect(found.ambiguous.map(({ id }) => id)).toEqual([model.id, 'again']);
  });
});
