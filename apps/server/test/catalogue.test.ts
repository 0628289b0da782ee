import { api, type HouseView } from '@ulvane/contract';
import { exportCatalogue, type Release } from '@ulvane/core/catalogue';
import type { Move } from '@ulvane/core/record';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { Workers } from '../src/threads/workers';
import { TestHouse, type Visitor } from './house';

let house: TestHouse;
let lead: Visitor;

beforeAll(async () => {
  house = await TestHouse.open('demo');
  lead = await house.signedIn('lead');
});
afterAll(() => house.close());

const read = (): Promise<HouseView> => lead.call(api.house);
const releaseIn = ({ catalogue }: HouseView, id: string): Release => {
  const release = catalogue.releases.find((one) => one.id === id);
  if (!release) throw new Error(`no release ${id}`);
  return release;
};

/** Waits until every device has been assessed against the present catalogue. */
async function reassessed(): Promise<void> {
  for (let tries = 0; tries < 1200; tries += 1) {
    const { waiting } = await lead.call(api.reassessment);
    if (waiting === 0) return;
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
  throw new Error('the fleet was not reassessed in a minute');
}

/** Money that a release would take on a device that was handed over: of others the list speaks by itself. */
const costOf = async (reference: string, releaseId: string) => {
  const { rows } = await lead.call(api.moves, { query: `?search=${reference}&fit=yes&stage=done` });
  const cell = rows[0]?.fit?.cells[releaseId];
  return cell?.kind === 'price' ? cell.cost : undefined;
};

describe('editing the catalogue', () => {
  it('reassesses the fleet in the background: asking for more memory makes a release cost money', async () => {
    await reassessed();
    // A ticket desk with 8 or 16 GiB, whose board takes 32.
    expect(await costOf('MV-0001', 'saltbush-full')).toBe(0);
    const view = await read();
    const release = releaseIn(view, 'saltbush-full');
    const entry = {
      ...release,
      requirements: release.requirements.map((requirement) =>
        requirement.kind === 'memory' ? { ...requirement, minimumBytes: 32 * 1024 ** 3 } : requirement,
      ),
    };
    const after = await lead.call(api.putCatalogueEntry, {
      params: { kind: 'releases', id: release.id },
      body: { version: view.catalogueVersion, entry },
    });
    expect(after.catalogueVersion).toBe(view.catalogueVersion + 1);
    await reassessed();
    expect(await costOf('MV-0001', 'saltbush-full')).toBeGreaterThan(0);
    const [change] = (await lead.call(api.catalogueHistory, { query: '?kind=releases&id=saltbush-full' }))
      .changes;
    expect(change).toMatchObject({ by: 'lead', what: 'changed', title: 'Saltbush Desktop 6 Full' });
    expect(change?.fields.map(({ path }) => path)).toEqual(['requirements']);
  });

  it('leaves alone what somebody changes while the threads are at it, and holds nobody up', async () => {
    await reassessed();
    const workers = house.running.app.get(Workers);
    const changed: string[] = [];
    const spy = vi.spyOn(workers, 'run').mockImplementation(async (name, input, list) => {
      const [first] = 'moves' in input && Array.isArray(input.moves) ? (input.moves as readonly Move[]) : [];
      if (name === 'assessTask' && first && changed.length === 0) {
        changed.push(first.reference);
        const params = { reference: first.reference };
        const { version, move } = await lead.call(api.move, { params });
        await lead.call(api.setIdentity, {
          params,
          body: { version, owner: 'Changed meanwhile', site: move.site, dueOn: move.dueOn },
        });
      }
      return Workers.prototype.run.call(workers, name, input, list) as never;
    });
    try {
      await house.sql(`UPDATE move SET assessed_for = ''`);
      await reassessed();
    } finally {
      spy.mockRestore();
    }
    expect(changed).toHaveLength(1);
    const { rows } = await lead.call(api.moves, { query: `?search=${changed[0] ?? ''}` });
    expect(rows.map(({ owner }) => owner)).toEqual(['Changed meanwhile']);
  });

  it('renames a release in every list, and the moves on it stay the same', async () => {
    await reassessed();
    const view = await read();
    const release = releaseIn(view, 'corvel-9-business');
    const on = async () => (await lead.call(api.moves, { query: '?present=corvel-9-business' })).rows;
    const before = await on();
    expect(before.length).toBeGreaterThan(0);
    await lead.call(api.putCatalogueEntry, {
      params: { kind: 'releases', id: release.id },
      body: { version: view.catalogueVersion, entry: { ...release, edition: 'Trade' } },
    });
    await reassessed();
    const after = await on();
    expect(after.map(({ reference }) => reference)).toEqual(before.map(({ reference }) => reference));
    for (const { present } of after) expect(present).toBe('Corvel 9 Trade');
  });

  it('is refused when somebody else was quicker, and nothing changes', async () => {
    const view = await read();
    const [family] = view.catalogue.families;
    const answer = await lead.at(api.putCatalogueEntry, {
      params: { kind: 'families', id: family?.id ?? '' },
      body: { version: view.catalogueVersion - 1, entry: { ...family, about: 'x' } },
    });
    expect(answer.status).toBe(409);
    expect(await read()).toEqual(view);
  });

  it('lets one of two changes at the same moment through', async () => {
    const view = await read();
    const [family] = view.catalogue.families;
    const put = (about: string) =>
      lead.at(api.putCatalogueEntry, {
        params: { kind: 'families', id: family?.id ?? '' },
        body: { version: view.catalogueVersion, entry: { ...family, about } },
      });
    const answers = await Promise.all([put('One says this.'), put('Another says that.')]);
    expect(answers.map(({ status }) => status).sort()).toEqual([200, 409]);
    const { changes } = await lead.call(api.catalogueHistory, {
      query: `?kind=families&id=${family?.id ?? ''}`,
    });
    expect(changes).toHaveLength(1);
  });

  it.each([
    ['a reference to nowhere', { upgradesFrom: ['corvel-99'] }, 'reference-to-nowhere'],
    ['a circle of jumps', { upgradesFrom: ['corvel-10-business'] }, 'circle-of-jumps'],
    [
      'dates the wrong way round',
      { fixesUntil: '2030-01-01', extendedUntil: '2029-01-01' },
      'dates-the-wrong-way',
    ],
    ['another id', { id: 'corvel-88' }, 'id-stays'],
    ['a field that is not one', { colour: 'red' }, 'unrecognized-keys'],
  ])('is refused with %s, in one sentence with its place', async (_what, change, code) => {
    const view = await read();
    const answer = await lead.at(api.putCatalogueEntry, {
      params: { kind: 'releases', id: 'corvel-8-business' },
      body: { version: view.catalogueVersion, entry: { ...releaseIn(view, 'corvel-8-business'), ...change } },
    });
    expect(answer.status).toBe(422);
    expect(answer.body).toMatchObject({ problems: [{ code }] });
    expect(await read()).toEqual(view);
  });

  it('is refused for a model whose years overlap with another’s', async () => {
    const view = await read();
    const [model] = view.catalogue.models;
    const answer = await lead.at(api.putCatalogueEntry, {
      params: { kind: 'models', id: 'twin' },
      body: { version: view.catalogueVersion, entry: { ...model, id: 'twin' } },
    });
    expect(answer.body).toMatchObject({ problems: [{ code: 'models-overlap' }] });
  });

  it('does not take out what others name, and takes out what nobody names', async () => {
    const view = await read();
    const remove = (kind: string, id: string) =>
      lead.at(api.removeCatalogueEntry, { params: { kind, id }, body: { version: view.catalogueVersion } });
    expect((await remove('families', 'corvel')).status).toBe(422);
    expect((await remove('families', 'nobody')).status).toBe(404);
    expect((await remove('applications', 'chartroom')).status).toBe(200);
    expect((await read()).catalogue.applications.some(({ id }) => id === 'chartroom')).toBe(false);
  });

  it('keeps a history that the database itself lets nobody change', async () => {
    await expect(house.sql('DELETE FROM catalogue_change')).rejects.toThrow('append-only');
    await expect(house.sql(`UPDATE practice_change SET by = 'x'`)).resolves.toEqual([]);
  });
});

describe('a catalogue as a file', () => {
  it('goes out and comes in again as it was', async () => {
    const { body } = await lead.raw('GET', api.exportCatalogue.path);
    expect((await lead.call(api.previewCatalogue, { body })).changes).toEqual([]);
  });

  it('shows what it would change, then changes it', async () => {
    const view = await read();
    const document = {
      ...exportCatalogue(view.catalogue),
      applications: view.catalogue.applications.slice(1),
      families: view.catalogue.families.map((family) =>
        family.id === 'harrow' ? { ...family, about: 'For workstations.' } : family,
      ),
    };
    const { changes } = await lead.call(api.previewCatalogue, { body: document });
    expect(changes.map(({ kind, id, what }) => [kind, id, what])).toEqual([
      ['families', 'harrow', 'changed'],
      ['applications', view.catalogue.applications[0]?.id, 'removed'],
    ]);
    expect(await read()).toEqual(view);
    const after = await lead.call(api.importCatalogue, {
      body: { version: view.catalogueVersion, document },
    });
    expect(after.catalogue.families.find(({ id }) => id === 'harrow')?.about).toBe('For workstations.');
  });

  it('is refused when it is none, newer, or leads nowhere', async () => {
    const view = await read();
    const preview = async (body: unknown) => (await lead.at(api.previewCatalogue, { body })).body;
    expect(await preview({ format: 'something' })).toMatchObject({ problems: [{ code: 'not-a-catalogue' }] });
    expect(await preview({ ...exportCatalogue(view.catalogue), version: 9 })).toMatchObject({
      problems: [{ code: 'catalogue-newer' }],
    });
    expect(await preview({ ...exportCatalogue(view.catalogue), families: [] })).toMatchObject({
      problems: expect.arrayContaining([
        expect.objectContaining({ code: 'reference-to-nowhere' }),
      ]) as unknown,
    });
  });
});

describe('house rules', () => {
  it('keeps who changed it, when and how; the same again is no change', async () => {
    const { houseRules, houseRulesVersion } = await read();
    const next = { ...houseRules, copiesBeforeLine: houseRules.copiesBeforeLine === 2 ? 1 : 2 };
    const changed = await lead.call(api.setHouseRules, {
      body: { version: houseRulesVersion, houseRules: next },
    });
    const { changes } = await lead.call(api.houseRulesHistory);
    expect(changes[0]).toMatchObject({ by: 'lead', sentences: ['Copies before the Line: two, now one.'] });
    await lead.call(api.setHouseRules, { body: { version: changed.houseRulesVersion, houseRules: next } });
    expect((await lead.call(api.houseRulesHistory)).changes).toHaveLength(changes.length);
  });
});
