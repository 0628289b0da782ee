import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { ProblemDetailsSchema } from '@ulvane/contract';
import type { Browser, Page } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { z } from 'zod';
import { newPage, openBrowser, signIn } from './lib/browser';
import { openHouse, type RunningHouse } from './lib/house';
import { click, openFold, openRoutes, sees } from './lib/page';

const axe = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');
const Findings = z.array(
  z.object({ id: z.string(), impact: z.string().nullable(), nodes: z.array(z.object({ html: z.string() })) }),
);

let house: RunningHouse;
let browser: Browser;
let closeBrowser: () => Promise<void>;
let page: Page;
const complaints: string[] = [];
/** Why the server could not answer, each time that it could not. */
const refusals: Promise<string>[] = [];

beforeAll(async () => {
  house = await openHouse('demo');
  ({ browser, close: closeBrowser } = await openBrowser());
  page = await newPage(browser);
  page.on('pageerror', (error) => complaints.push(String(error)));
  page.on('console', (message) => {
    if (message.type() === 'error') complaints.push(message.text());
  });
  page.on('response', (response) => {
    if (response.status() === 503)
      refusals.push(
        response.json().then(
          (body: unknown) => ProblemDetailsSchema.parse(body).problems[0]?.code ?? 'none',
          // The page has gone on meanwhile, and the text with it.
          () => 'busy',
        ),
      );
  });
  await signIn(page, house.address, 'lead', house.password);
});
afterAll(async () => {
  await closeBrowser();
  await house.close();
});

const views = [
  ['/', 'Next up'],
  ['/fleet', 'Import a move'],
  ['/fleet?view=fit', 'Each at its cheapest'],
  ['/fleet?view=groups', 'Shopping list'],
  ['/fleet?search=nothing-like-it', 'No move fits'],
  ['/catalogue?kind=releases&id=corvel-10-business', 'Changes of this entry'],
  ['/catalogue?kind=models&id=pellworth-studio-27', 'Known limits'],
  ['/catalogue?kind=applications&search=ledger', 'Last changes of the catalogue'],
  ['/drives', 'for installers, never a backup'],
  ['/shelf', 'moves ahead'],
  ['/house', 'Who changed it'],
  ['/disks', 'Shrink dialog'],
  ['/moves/MV-0039/disk', 'possible:'],
  ['/moves/MV-0048/disk', 'do not touch'],
  ['/moves/MV-0022/survey', 'Facts'],
  ['/moves/MV-0022/decide', 'Facts that only a mistake'],
  ['/moves/MV-0009/decide', 'missing facts'],
  ['/moves/MV-0051/prepare', 'New device'],
  ['/moves/MV-0050/prepare', 'Isolation list'],
  ['/moves/MV-0022/save', 'Destinations'],
  ['/moves/MV-0022/prepare', 'Ready check'],
  ['/moves/MV-0022/cross', 'The Line'],
  ['/moves/MV-0022/hand-over', 'Counted after the restore'],
  ['/moves/MV-0022/log', 'lines fit'],
  ['/moves/MV-0041/trouble/stick-out/loader-prompt', 'Detour: Write the loader again'],
  ['/moves/MV-0039/trouble/charger/battery-swollen', 'call a qualified person'],
  ['/moves/MV-0025/answers', 'Never format these 4'],
  ['/moves/MV-0042/answers', 'partitions by hand'],
  ['/moves/MV-0050/answers', 'no pages to answer'],
  ['/account', 'Make a token'],
  ['/new-password?token=x', 'This link works once'],
  ['/moves/MV-0012/survey', '0 known'],
  ['/moves/MV-0012/cross', 'There is no runbook yet'],
  ['/moves/MV-0001/hand-over', 'The record is closed'],
  ['/nowhere', 'Nothing is here'],
  ['/moves/MV-9999', 'There is no move MV-9999'],
] as const;

/** What a page has beside what axe calls serious: one first heading, landmarks, targets that a finger meets. */
const ofPages = ['page-has-heading-one', 'landmark-one-main', 'landmark-unique', 'region', 'target-size'];

async function axeFindings(also: readonly string[] = []): Promise<string[]> {
  await page.evaluate(axe);
  const raw: unknown = await page.evaluate(async () => {
    const { axe: run } = globalThis as unknown as {
      axe: { run: (options: object) => Promise<{ violations: unknown }> };
    };
    const rules = { 'target-size': { enabled: true } };
    return (await run.run({ resultTypes: ['violations'], rules })).violations;
  });
  return Findings.parse(raw)
    .filter(({ id, impact }) => impact === 'serious' || impact === 'critical' || also.includes(id))
    .map(({ id, nodes }) => `${id}: ${nodes[0]?.html.slice(0, 160) ?? ''}`);
}

describe.each(views)('%s', (path, text) => {
  it('opens, and axe finds nothing serious', async () => {
    await page.goto(`${house.address}${path}`, { waitUntil: 'networkidle0' });
    await sees(page, text);
    expect(await axeFindings(ofPages)).toEqual([]);
  });

  it('does not scroll sideways, neither at 1280 nor at 900 wide', async () => {
    for (const width of [1280, 900]) {
      await page.setViewport({ width, height: 800 });
      const over = await page.evaluate(
        () => document.documentElement.scrollWidth - document.documentElement.clientWidth,
      );
      expect([width, over]).toEqual([width, 0]);
    }
    await page.setViewport({ width: 1280, height: 800 });
  });
});

/** A dialog fades in: its colours are judged once it is there. */
const opaque = () =>
  page.waitForFunction(() => {
    const dialog = document.querySelector('.modal');
    return (
      dialog !== null &&
      getComputedStyle(dialog).opacity === '1' &&
      !document.querySelector('.modal-backdrop:not(.show)')
    );
  });

describe('the form of a catalogue entry', () => {
  it('has nothing serious for axe, nor have the dialogs of Fleet and Decide', async () => {
    await page.goto(`${house.address}/catalogue?kind=models&id=pellworth-studio-27`, {
      waitUntil: 'networkidle0',
    });
    await click(page, 'Edit');
    await sees(page, 'Save in the catalogue');
    expect(await axeFindings()).toEqual([]);
    await page.goto(`${house.address}/fleet`, { waitUntil: 'networkidle0' });
    await click(page, 'Import a list');
    await sees(page, 'Drop a CSV file here');
    await opaque();
    expect(await axeFindings()).toEqual([]);
    await page.goto(`${house.address}/moves/MV-0010/decide`, { waitUntil: 'networkidle0' });
    await openRoutes(page);
    expect(await axeFindings()).toEqual([]);
    await openFold(page, 'Exceptions from house rules');
    await click(page, 'Make an exception');
    await sees(page, 'What this move does');
    await opaque();
    expect(await axeFindings()).toEqual([]);
  });
});

describe('the dialogs of Save, Prepare, Hand over and Drives', () => {
  it.each([
    ['/moves/MV-0022/save', 'Pack', 'Free afterwards'],
    ['/moves/MV-0009/save', 'Add a data set', 'Only placeholders'],
    ['/moves/MV-0022/prepare', 'Add a secret', 'only with the owner’s consent'],
    ['/moves/MV-0022/hand-over', 'Note the backup on B-07', 'Where it is kept'],
    ['/drives', 'Add a drive', 'Capacity as formatted'],
  ] as const)('%s: %s has nothing serious for axe', async (path, button, text) => {
    await page.goto(`${house.address}${path}`, { waitUntil: 'networkidle0' });
    await click(page, button);
    await sees(page, text);
    await opaque();
    expect(await axeFindings()).toEqual([]);
  });

  it('reading a folder neither, and it is reached with the keyboard', async () => {
    await page.goto(`${house.address}/moves/MV-0022/save`, { waitUntil: 'networkidle0' });
    const button = await page.waitForSelector('aria/Read every file of Documents (Crew room)[role="button"]');
    await button?.focus();
    await page.keyboard.press('Enter');
    await sees(page, 'Names, sizes and checksums go to Ulvane’s server; the files do not.');
    await opaque();
    expect(await axeFindings()).toEqual([]);
  });
});

describe('with the keyboard alone', () => {
  const press = async (key: Parameters<Page['keyboard']['press']>[0]) => page.keyboard.press(key);

  it('? lists the keys, Escape closes the list', async () => {
    await page.goto(`${house.address}/`, { waitUntil: 'networkidle0' });
    await press('?');
    await sees(page, 'go to the device that is next up');
    await press('Escape');
    await page.waitForFunction(() => document.querySelector('.modal') === null);
  });

  it('goes to the views, to the next hands, through the stages and to the log', async () => {
    const at = (path: string) => page.waitForFunction((wanted) => location.pathname === wanted, {}, path);
    await press('f');
    await at('/fleet');
    await press('c');
    await at('/catalogue');
    await press('t');
    await at('/');
    await press('n');
    await page.waitForFunction(() => /^\/moves\/MV-\d+\/\w/.test(location.pathname));
    await page.waitForSelector('.stages');
    const move = await page.evaluate(() => location.pathname.split('/').slice(0, 3).join('/'));
    await press('2');
    await at(`${move}/decide`);
    await press('5');
    await at(`${move}/cross`);
    await press('l');
    await at(`${move}/log`);
  });

  it('lets single keys be switched off, and on again', async () => {
    await page.goto(`${house.address}/account`, { waitUntil: 'networkidle0' });
    await page.click('#single-keys');
    await page.evaluate(() => (document.activeElement as HTMLElement).blur());
    await press('f');
    await press('?');
    await press('Tab');
    expect(await page.evaluate(() => location.pathname)).toBe('/account');
    expect(await page.$('.modal')).toBeNull();
    await page.click('#single-keys');
    await page.evaluate(() => (document.activeElement as HTMLElement).blur());
    await press('f');
    await page.waitForFunction(() => location.pathname === '/fleet');
  });

  it('does not take letters from somebody who types', async () => {
    await page.goto(`${house.address}/fleet`, { waitUntil: 'networkidle0' });
    await page.focus('input[type="search"]');
    await page.keyboard.type('catnap');
    expect(await page.evaluate(() => location.pathname + location.search)).toBe('/fleet?search=catnap');
  });

  it('shows where the focus is', async () => {
    await page.goto(`${house.address}/`, { waitUntil: 'networkidle0' });
    for (let count = 0; count < 12; count += 1) {
      await press('Tab');
      const outline = await page
        .evaluate(() => (document.activeElement ? getComputedStyle(document.activeElement) : undefined))
        .then(() =>
          page.evaluate(() => getComputedStyle(document.activeElement ?? document.body).outlineStyle),
        );
      const shadow = await page.evaluate(
        () => getComputedStyle(document.activeElement ?? document.body).boxShadow,
      );
      expect(outline !== 'none' || shadow !== 'none').toBe(true);
    }
  });

  it('moves through the fleet: sorted by the keyboard, with the order in the address', async () => {
    await page.goto(`${house.address}/fleet`, { waitUntil: 'networkidle0' });
    await page.$$eval('.sort-button', (buttons) =>
      (buttons.find((button) => button.textContent?.includes('Serial')) as HTMLElement | undefined)?.focus(),
    );
    await press('Enter');
    await page.waitForFunction(() => location.search.includes('sort=serial'));
    await page.waitForFunction(() => {
      const serials = [...document.querySelectorAll('tbody tr:not([aria-hidden]) td:nth-child(4)')].map(
        (cell) => cell.textContent ?? '',
      );
      return (
        serials.length > 10 &&
        serials.every((serial, index) => index === 0 || (serials[index - 1] ?? '') <= serial)
      );
    });
    await page.reload({ waitUntil: 'networkidle0' });
    expect(await page.$eval('th[aria-sort="ascending"]', (header) => header.textContent)).toContain('Serial');
  });
});

describe('when the server is gone', () => {
  it('says so where it happened, and nothing is lost', async () => {
    await page.goto(`${house.address}/house`, { waitUntil: 'networkidle0' });
    await page.setOfflineMode(true);
    await page.locator('#encryption-off').click();
    await click(page, 'Save house rules');
    await sees(page, 'Ulvane’s server did not answer. What you sent may have been saved or not');
    expect(await page.$eval('#encryption-off', (radio) => (radio as HTMLInputElement).checked)).toBe(true);
    await page.setOfflineMode(false);
  });
});

describe('all along', () => {
  it('the page broke no rule of its own: no script error, nothing refused by its security policy', async () => {
    // A server that is too busy for a moment says so, and the page comes again; for another reason it may not.
    expect((await Promise.all(refusals)).filter((code) => code !== 'busy')).toEqual([]);
    const unexpected = complaints.filter(
      (line) => !/status of (404|503)|ERR_INTERNET_DISCONNECTED/.test(line),
    );
    expect(unexpected).toEqual([]);
  });
});
