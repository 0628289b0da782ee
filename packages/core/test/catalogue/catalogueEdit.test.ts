import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  catalogueChanges,
  catalogueKinds,
  checkCatalogue,
  exportCatalogue,
  importCatalogue,
  withEntry,
  type Catalogue,
  type CatalogueKind,
} from '../../src/catalogue';
import { catalogue, codesOf, releaseOf, today } from '../fixtures/shop';

const codes = (changed: Catalogue) => checkCatalogue(changed).map(({ code }) => code);
const anyKind = fc.constantFrom(...catalogueKinds);

/** The catalogue after a change that must be let through. */
function put(kind: CatalogueKind, id: string, entry: unknown, before = catalogue): Catalogue {
  const outcome = withEntry(before, kind, id, entry);
  if (!outcome.ok) throw new Error(outcome.problems.map(({ sentence }) => sentence).join(' '));
  return outcome.value.catalogue;
}

describe('checking a catalogue', () => {
  it('finds nothing in the one that ships', () => {
    expect(checkCatalogue(catalogue)).toEqual([]);
  });

  it('names a circle of upgrade jumps once, with its way round', () => {
    const circle = {
      ...catalogue,
      releases: catalogue.releases.map((release) =>
        release.id === 'corvel-7-business' ? { ...release, upgradesFrom: ['corvel-9-business'] } : release,
      ),
    };
    const problems = checkCatalogue(circle).filter(({ code }) => code === 'circle-of-jumps');
    expect(problems.length).toBeGreaterThanOrEqual(1);
    for (const { sentence } of problems) {
      expect(sentence).toContain('corvel-7-business');
      expect(sentence).toContain('corvel-9-business');
    }
  });

  it('lets jumps meet again without a circle', () => {
    // 7 → 8 → 9 and 7 → 9: two ways, no circle.
    expect(releaseOf('corvel-9-business').upgradesFrom).toEqual(['corvel-7-business', 'corvel-8-business']);
    expect(codes(catalogue)).toEqual([]);
  });

  it('names two models that a device would fit, and lets their years meet without overlapping', () => {
    const [model] = catalogue.models;
    if (!model) throw new Error('no model');
    const twin = (fromYear: number, toYear: number) => ({
      ...catalogue,
      models: [...catalogue.models, { ...model, id: 'twin', fromYear, toYear }],
    });
    expect(codes(twin(model.toYear, model.toYear + 2))).toEqual(['models-overlap']);
    expect(codes(twin(model.toYear + 1, model.toYear + 2))).toEqual([]);
    expect(codes(twin(model.toYear + 3, model.toYear + 2))).toEqual(['dates-the-wrong-way']);
  });

  it('finds references to nowhere wherever one can stand', () => {
    const [release, ...releases] = catalogue.releases;
    const [application, ...applications] = catalogue.applications;
    const patched = catalogue.models.find(({ patch }) => patch);
    if (!release || !application || !patched?.patch) throw new Error('the catalogue is too small');
    const others = catalogue.models.filter(({ id }) => id !== patched.id);
    const nowhere: readonly Catalogue[] = [
      { ...catalogue, releases: [{ ...release, family: 'nobody' }, ...releases] },
      { ...catalogue, releases: [{ ...release, upgradesFrom: ['nothing'] }, ...releases] },
      { ...catalogue, models: [{ ...patched, lastRelease: 'nothing' }, ...others] },
      {
        ...catalogue,
        models: [{ ...patched, patch: { ...patched.patch, releases: ['nothing'] } }, ...others],
      },
      { ...catalogue, applications: [{ ...application, lockedToFamily: 'nobody' }, ...applications] },
      { ...catalogue, applications: [{ ...application, equivalents: { nobody: 'x' } }, ...applications] },
      {
        ...catalogue,
        applications: [{ ...application, formats: [{ name: 'x', survivesIn: ['nobody'] }] }, ...applications],
      },
    ];
    for (const one of nowhere) expect(codes(one)).toEqual(['reference-to-nowhere']);
  });
});

describe('editing', () => {
  it('puts an entry in its place, and taking it out and putting it back changes only the order', () => {
    fc.assert(
      fc.property(anyKind, fc.nat(), (kind, pick) => {
        const entries = catalogue[kind];
        const entry = entries[pick % entries.length];
        if (!entry) return;
        expect(put(kind, entry.id, entry)).toEqual(catalogue);
        const gone = withEntry(catalogue, kind, entry.id, null);
        if (!gone.ok) {
          // Something names it: it stays.
          expect(gone.problems[0]?.code).toBe('reference-to-nowhere');
          return;
        }
        const back = put(kind, entry.id, entry, gone.value.catalogue);
        expect(catalogueChanges(catalogue, back)).toEqual([]);
      }),
    );
  });

  it('says field by field what a change was', () => {
    const release = releaseOf('saltbush-full');
    const after = put('releases', release.id, { ...release, restarts: 9, mediaRecipe: 'Another one.' });
    expect(catalogueChanges(catalogue, after)).toEqual([
      {
        kind: 'releases',
        id: 'saltbush-full',
        title: 'Saltbush Desktop 6 Full',
        what: 'changed',
        fields: [
          { path: 'restarts', before: String(release.restarts), after: '9' },
          { path: 'mediaRecipe', before: release.mediaRecipe, after: 'Another one.' },
        ].sort((a, b) => Object.keys(release).indexOf(a.path) - Object.keys(release).indexOf(b.path)),
      },
    ]);
  });

  it('mirrors: what is added one way is removed the other', () => {
    const without = { ...catalogue, applications: catalogue.applications.slice(1) };
    const there = catalogueChanges(catalogue, without).map(({ id, what }) => [id, what]);
    const back = catalogueChanges(without, catalogue).map(({ id, what }) => [id, what]);
    expect(there).toEqual([[catalogue.applications[0]?.id, 'removed']]);
    expect(back).toEqual([[catalogue.applications[0]?.id, 'added']]);
  });

  it('refuses what does not fit, with the place in the entry', () => {
    const release = releaseOf('saltbush-full');
    const outcome = withEntry(catalogue, 'releases', release.id, { ...release, imageBytes: -1 });
    expect(outcome.ok || outcome.problems.map(({ path }) => path)).toEqual(['/imageBytes']);
    expect(codesOf(withEntry(catalogue, 'releases', 'other', release))).toEqual(['id-stays']);
    expect(codesOf(withEntry(catalogue, 'models', 'nothing', null))).toEqual(['no-such-entry']);
  });

  it('does not hold an old fault against a new change', () => {
    const [model] = catalogue.models;
    if (!model) throw new Error('no model');
    const faulty = { ...catalogue, models: [...catalogue.models, { ...model, id: 'twin' }] };
    const [family] = catalogue.families;
    expect(withEntry(faulty, 'families', family?.id ?? '', { ...family, about: 'x' }).ok).toBe(true);
  });
});

describe('a catalogue as a file', () => {
  it('comes in as it went out', () => {
    expect(importCatalogue(JSON.parse(JSON.stringify(exportCatalogue(catalogue))), today)).toEqual({
      ok: true,
      value: catalogue,
    });
  });

  it('is refused for what it is not', () => {
    expect(codesOf(importCatalogue(null, today))).toEqual(['not-a-catalogue']);
    expect(codesOf(importCatalogue({ format: 'ulvane-catalogue', version: 2 }, today))).toEqual([
      'catalogue-newer',
    ]);
    expect(codesOf(importCatalogue({ ...exportCatalogue(catalogue), extra: 1 }, today))).toEqual([
      'unrecognized-keys',
    ]);
  });

  it('survives anything at all without a crash', () => {
    fc.assert(
      fc.property(fc.anything(), (input) => {
        expect(importCatalogue(input, today).ok).toBe(false);
      }),
    );
  });
});
