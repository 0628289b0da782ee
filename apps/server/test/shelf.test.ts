import { api, ProblemDetailsSchema, type ImageView } from '@ulvane/contract';
import { mediumNeed } from '@ulvane/core/record';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { TestHouse, type Visitor } from './house';

let house: TestHouse;
let technician: Visitor;
beforeAll(async () => {
  house = await TestHouse.open('demo');
  technician = await house.signedIn('technician');
});
afterAll(() => house.close());

const problemsOf = (body: unknown) => ProblemDetailsSchema.parse(body).problems.map(({ code }) => code);
const id = '5f0d6f0e-1b55-4c1f-9a37-0a6f5f7c0799';
const image: Omit<ImageView, 'id' | 'version'> = {
  releaseId: 'saltbush-full',
  language: 'en',
  bytes: 3_720_000_000,
  sha256: null,
  keptWhere: 'bench computer 3',
  source: '',
  fetchedOn: '2026-03-01',
  by: 'technician',
  signature: 'not-checked',
  download: null,
};

describe('the media shelf', () => {
  it('lists installer media only, and needs as core finds them, the first due in front', async () => {
    const { media, needs } = await technician.call(api.shelf);
    expect(media.length).toBeGreaterThan(6);
    for (const { purpose } of media) expect(purpose).toBe('installer');
    expect(needs.length).toBeGreaterThan(10);
    const due = needs.map(({ dueOn }) => dueOn ?? '9999');
    expect(due).toEqual(due.toSorted());
    const { catalogue, houseRules } = await technician.call(api.house);
    for (const need of needs.slice(0, 12)) {
      const { move } = await technician.call(api.move, { params: { reference: need.reference } });
      expect(mediumNeed(move, { catalogue, houseRules })).toEqual(need);
    }
  });

  it('keeps an image, tells a colleague’s change, and takes it off again', async () => {
    const put = (version: number, given: Partial<typeof image> = {}) =>
      technician.at(api.putImage, { params: { id }, body: { version, image: { ...image, ...given } } });
    expect((await put(0)).status).toBe(200);
    const stale = await put(0, { keptWhere: 'elsewhere' });
    expect([stale.status, problemsOf(stale.body)]).toEqual([409, ['version']]);
    expect((await put(1, { sha256: 'ABC' })).status).toBe(422);
    expect((await put(1, { keptWhere: 'Pier store' })).status).toBe(200);
    const shelf = await technician.call(api.shelf);
    expect(shelf.images.find((one) => one.id === id)).toMatchObject({ version: 2, keptWhere: 'Pier store' });
    const remove = (version: number) => technician.at(api.removeImage, { params: { id }, body: { version } });
    expect((await remove(1)).status).toBe(409);
    expect((await remove(2)).status).toBe(200);
    expect((await technician.call(api.shelf)).images.some((one) => one.id === id)).toBe(false);
    expect(
      (
        await (
          await house.signedIn('observer')
        ).at(api.putImage, { params: { id }, body: { version: 0, image } })
      ).status,
    ).toBe(403);
  });

  it('leaves an image off that cannot be read, and shows the others', async () => {
    const { images } = await technician.call(api.shelf);
    await house.sql(`INSERT INTO image (id, version, body) VALUES ('${id}', 1, '{"releaseId": 7}')`);
    expect((await technician.call(api.shelf)).images).toEqual(images);
    await house.sql(`DELETE FROM image WHERE id = '${id}'`);
  });

  it('knows what a move has written to its stick from the signature, and that nobody has compared it', async () => {
    const { needs, media } = await technician.call(api.shelf);
    let written = 0;
    for (const need of needs) {
      const stick = media.find(({ serial }) => serial !== '' && serial === need.named?.serial);
      const params = { reference: need.reference };
      const before = await technician.call(api.move, { params });
      const step = before.move.plan?.runbook.steps.find(({ id: one }) => one === 'write-stick');
      if (!stick || !step) continue;
      const signed = await technician.at(api.signStep, {
        params: { ...params, stepId: step.id },
        body: { version: before.version, actualMinutes: null, note: 'Written before it was started here.' },
      });
      const after = (await technician.call(api.shelf)).media.find((one) => one.id === stick.id);
      if (signed.status !== 200) {
        // Refused: the shelf knows of nothing.
        expect(after).toEqual(stick);
        continue;
      }
      written += 1;
      expect(after?.version).toBe(stick.version + 1);
      expect(after?.seenOn).toBe('2026-03-02');
      expect(after?.holds).toEqual([
        expect.objectContaining({
          releaseId: need.releaseId,
          mode: need.mode,
          skips: need.skips,
          bytes: need.imageBytes,
          writtenOn: '2026-03-02',
          by: 'technician',
          check: null,
        }),
      ]);
      // It needs none any more.
      expect((await technician.call(api.shelf)).needs.map(({ reference }) => reference)).not.toContain(
        need.reference,
      );
      break;
    }
    expect(written).toBe(1);
  });
});
