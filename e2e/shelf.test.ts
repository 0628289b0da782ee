import { createHash } from 'node:crypto';
import type { Browser, Page } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { newPage, openBrowser, signIn } from './lib/browser';
import { openHouse, type RunningHouse } from './lib/house';
import { click, dialogGone, fetchJson, fill, pick, sees, textOf } from './lib/page';
import { makeRunbook, unfoldSteps } from './lib/runbook';

let house: RunningHouse;
let browser: Browser;
let closeBrowser: () => Promise<void>;
let page: Page;

beforeAll(async () => {
  house = await openHouse('demo');
  ({ browser, close: closeBrowser } = await openBrowser());
  page = await newPage(browser);
  await page.setViewport({ width: 1280, height: 900 });
  await signIn(page, house.address, 'lead', house.password);
});
afterAll(async () => {
  await closeBrowser();
  await house.close();
});

const open = (path: string) => page.goto(`${house.address}${path}`, { waitUntil: 'networkidle0' });

/** What a medium’s place on its board says, card and tag. */
const place = (name: string) =>
  page.$$eval(
    '.medium-place',
    (places, wanted) =>
      places
        .find((one) => one.querySelector('.medium-head strong')?.textContent === wanted)
        ?.textContent.replaceAll(/\s+/g, ' ') ?? '',
    name,
  );

async function openMedium(name: string) {
  await page.waitForSelector('.medium-place');
  await page.$$eval(
    '.medium',
    (media, wanted) =>
      media
        .find((one) => one.querySelector('.medium-head strong')?.textContent === wanted)
        ?.dispatchEvent(new MouseEvent('click', { bubbles: true })),
    name,
  );
  await page.waitForSelector('.modal');
}

const placeSays = (name: string, text: string) =>
  page.waitForFunction(
    (wanted, words) =>
      [...document.querySelectorAll('.medium-place')].some(
        (one) =>
          one.querySelector('.medium-head strong')?.textContent === wanted && one.textContent.includes(words),
      ),
    {},
    name,
    text,
  );

/** Drops a file anywhere on the shelf. */
const drop = (name: string, content: string) =>
  page.$eval(
    '.shelf',
    (shelf, fileName, text) => {
      const transfer = new DataTransfer();
      transfer.items.add(new File([text], fileName));
      for (const kind of ['dragenter', 'dragover', 'drop'])
        shelf.dispatchEvent(new DragEvent(kind, { dataTransfer: transfer, bubbles: true, cancelable: true }));
    },
    name,
    content,
  );

const sha256 = (text: string) => createHash('sha256').update(text).digest('hex');

type Shelf = {
  readonly media: readonly {
    readonly name: string;
    readonly holds: readonly { readonly releaseId: string }[];
  }[];
  readonly needs: readonly { readonly reference: string; readonly releaseId: string }[];
};

describe('the media shelf', () => {
  it('says which medium each of the next moves can use, and what has to be done with it first', async () => {
    await open('/shelf');
    await sees(page, 'moves ahead');
    const strip = await textOf(page, '.need-strip');
    const { needs } = (await fetchJson(page, '/api/v1/shelf')) as Shelf;
    expect(strip).toContain(`${needs.length} moves ahead`);
    for (const { reference } of needs.slice(0, 4)) expect(strip).toContain(reference);
    expect(await place('S-03')).toContain('Corvel 10 Business');
    expect(await place('S-05')).toContain('not compared');
    expect(await place('S-07')).toContain('Content unknown');
    // A stick that is as it should be is on the tag of a move, and is not offered for writing.
    expect(await place('S-03')).not.toContain('may be overwritten');
  });

  it('is walked through with the arrow keys, and Enter opens a medium', async () => {
    const named = () =>
      page.evaluate(() => document.activeElement?.querySelector('.medium-head strong')?.textContent);
    await page.focus('.board .medium');
    expect(await named()).toBe('S-01');
    await page.keyboard.press('ArrowRight');
    expect(await named()).toBe('S-03');
    await page.keyboard.press('ArrowDown');
    expect(await page.evaluate(() => document.activeElement?.className)).toBe('image-card');
    await page.keyboard.press('ArrowUp');
    await page.keyboard.press('Enter');
    await page.waitForSelector('.modal');
    await sees(page, 'Compare Corvel 9 Business');
    await click(page, 'Close');
    await dialogGone(page);
  });

  it('takes what was written only for the stick in the hand, identified by serial number and size', async () => {
    await openMedium('S-06');
    await click(page, 'Note what is on it');
    await pick(page, 'Release', 'saltbush-light');
    const isShut = () =>
      page.$eval('.modal form button[type="submit"]', (button) => (button as HTMLButtonElement).disabled);
    expect(await isShut()).toBe(true);
    await fill(page, 'Serial number, its end', '00C7');
    await fill(page, 'Size in GB, as its list shows it', '7.8');
    await sees(page, 'The serial number of S-06 does not end so');
    expect(await isShut()).toBe(true);
    await fill(page, 'Serial number, its end', '2e40');
    await fill(page, 'Size in GB, as its list shows it', '30.8');
    await sees(page, 'S-06 has 7.8 GB: is it another stick?');
    await fill(page, 'Size in GB, as its list shows it', '7,8');
    await click(page, 'It is written');
    await dialogGone(page);
    await placeSays('S-06', 'Saltbush Desktop 6 Light');
    expect(await place('S-06')).toContain('not compared');
  });

  it('compares a stick with the published checksum, and says of one that differs not to use it', async () => {
    await openMedium('S-06');
    await click(page, 'Compare Saltbush Desktop 6 Light');
    await fill(page, 'SHA-256 that was read back', 'abc');
    await sees(page, '64 figures, 0 to 9 and a to f; these are 3.');
    await fill(page, 'SHA-256 that was read back', sha256('something else'));
    await click(page, 'Compare with the published one');
    await dialogGone(page);
    await placeSays('S-06', 'differs: do not use');
    const house = (await fetchJson(page, '/api/v1/house')) as {
      catalogue: { releases: { id: string; imageSha256: string }[] };
    };
    const published = house.catalogue.releases.find(({ id }) => id === 'saltbush-light')?.imageSha256 ?? '';
    await openMedium('S-06');
    await click(page, 'Compare Saltbush Desktop 6 Light');
    await fill(page, 'SHA-256 that was read back', published);
    await click(page, 'Compare with the published one');
    await dialogGone(page);
    await placeSays('S-06', 'compared');
    await page.waitForFunction(() => !document.body.innerText.includes('differs: do not use\n7.8 GB'));
  });

  it('hashes an image that is dropped on the page, and finds no release for a stranger', async () => {
    const content = 'no image at all';
    await drop('stranger.img', content);
    await sees(page, 'No release of the catalogue publishes an image of 15 B or with this checksum.');
    const groups = await page.$$eval('.checksum-groups span', (found) => found.map((one) => one.textContent));
    expect(groups.join('')).toBe(sha256(content));
    await click(page, 'Close');
    await page.waitForFunction(() => document.querySelector('.hash-panel') === null);
  });

  it('matches an image with the published checksum, group by group, and puts it on the shelf', async () => {
    const content = 'the very image of a small system';
    // A small release of the house’s own.
    await page.evaluate(
      async (bytes, sum) => {
        const get = async () => (await fetch('/api/v1/house')).json();
        const { catalogue, catalogueVersion } = await get();
        const light = catalogue.releases.find((one: { id: string }) => one.id === 'saltbush-light');
        const entry = { ...light, id: 'tern-small', name: 'Tern Small', imageBytes: bytes, imageSha256: sum };
        const answer = await fetch('/api/v1/catalogue/releases/tern-small', {
          method: 'PUT',
          headers: { 'content-type': 'application/json' },
          body: JSON.stringify({ version: catalogueVersion, entry }),
        });
        if (!answer.ok) throw new Error(await answer.text());
      },
      content.length,
      sha256(content),
    );
    await open('/shelf');
    await drop('tern.img', content.replace('very', 'same'));
    await sees(page, 'Its checksum differs. Fetch it again, do not write it.');
    expect(await page.$$eval('.checksum-groups .differs', (found) => found.length)).toBeGreaterThan(8);
    await click(page, 'Close');
    await page.waitForFunction(() => document.querySelector('.hash-panel') === null);
    await drop('tern.img', content);
    await sees(page, 'It is the published one, bit by bit.');
    expect(await page.$$('.checksum-groups .differs')).toHaveLength(0);
    await fill(page, 'Kept where', 'bench computer 1');
    await fill(page, 'Download took, minutes', '0,5');
    await fill(page, 'Over the line of', 'Stannick');
    await click(page, 'Put it on the shelf');
    await sees(page, 'bench computer 1');
    const card = await page.$$eval('.image-card', (cards) =>
      cards.map((one) => one.textContent).find((text) => text.includes('Tern Small')),
    );
    expect(card).toContain('16 of 16 groups');
    await sees(page, 'Stannick');
  });

  it('learns what a line carries from the downloads, and a lead takes that over', async () => {
    await sees(page, 'measured over 4 downloads');
    await page.evaluate(() => {
      const row = [...document.querySelectorAll('.lines-panel li')].find((one) =>
        one.textContent.startsWith('Lowholm'),
      );
      row?.querySelector('button')?.click();
    });
    await page.waitForFunction(() => /Lowholm: [\d.]+ Mbit\/s/.test(document.body.innerText));
    // Saving other house rules leaves it as it is.
    await open('/house');
    await page.locator('#optionalUpdates-true').click();
    await click(page, 'Save house rules');
    await page.waitForFunction(() => document.querySelector('.before-keeping') === null);
    await open('/shelf');
    await page.waitForFunction(() => /Lowholm: [\d.]+ Mbit\/s/.test(document.body.innerText));
  });

  it('has the same in a table, and prints a label a medium', async () => {
    await click(page, 'Show as a table');
    await sees(page, 'Needed by');
    const rows = await page.$$eval('.shelf table:first-of-type tbody tr th', (found) =>
      found.map((one) => one.textContent.slice(0, 4)),
    );
    expect(rows.slice(0, 2)).toEqual(['D-01', 'S-01']);
    await click(page, 'Show as a shelf');
    await page.emulateMediaType('print');
    const printed = await page.$$eval('.labels li', (found) =>
      found.filter((one) => one.checkVisibility()).map((one) => one.textContent),
    );
    const strip = await page.$eval('.need-strip', (one) => one.checkVisibility());
    await page.emulateMediaType();
    expect([printed.length, strip]).toEqual([8, false]);
    expect(printed.filter((text) => text.includes('never a backup'))).toHaveLength(8);
  });
});

describe('Prepare', () => {
  it('takes a written stick from the shelf, and the runbook writes none', async () => {
    const { needs } = (await fetchJson(page, '/api/v1/shelf')) as Shelf;
    const reference = 'MV-0057';
    expect(needs.find((need) => need.reference === reference)?.releaseId).toBe('corvel-10-business');
    await open(`/moves/${reference}/prepare`);
    await click(page, 'Take S-03');
    await sees(page, 'with Corvel 10 Business on it');
    await makeRunbook(page);
    await unfoldSteps(page);
    await sees(page, 'Take stick S-03 from the shelf: Corvel 10 Business is on it');
    const kinds = await page.$$eval('.step', (steps) => steps.map((one) => one.textContent));
    expect(kinds.some((text) => text.includes('to the installer stick'))).toBe(false);
  });
});
