import type { Browser, Page } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { newPage, openBrowser, signIn } from './lib/browser';
import { openHouse, type RunningHouse } from './lib/house';
import { click, dialogGone, fetchJson, fill, pick, press, sees, textOf } from './lib/page';

let house: RunningHouse;
let browser: Browser;
let closeBrowser: () => Promise<void>;
let page: Page;

beforeAll(async () => {
  house = await openHouse('demo');
  ({ browser, close: closeBrowser } = await openBrowser());
  page = await newPage(browser);
  await page.setViewport({ width: 1280, height: 900 });
  await signIn(page, house.address, 'technician', house.password);
});
afterAll(async () => {
  await closeBrowser();
  await house.close();
});

const open = (path: string) => page.goto(`${house.address}${path}`, { waitUntil: 'networkidle0' });
const box = (line: string) => `.tick-box[data-line="${line}"]`;
const ticked = (line: string, is: boolean) =>
  page.waitForFunction(
    (selector, wanted) => document.querySelector<HTMLInputElement>(selector)?.checked === wanted,
    {},
    box(line),
    is,
  );

describe('the answer sheet of an installer', () => {
  it('is opened from Prepare, and has every page with its answer and where that comes from', async () => {
    await open('/moves/MV-0025/prepare');
    await click(page, 'Open the answer sheet', 'link');
    await sees(page, '0 of 13 answered');
    const rows = await page.$$eval('.answer-pages tr[data-page]', (found) =>
      found.map((row) => [...row.querySelectorAll('th, td')].map((cell) => cell.textContent.trim())),
    );
    expect(rows).toHaveLength(13);
    expect(rows.map(([, number]) => number)).toEqual(rows.map((_row, index) => String(index + 1)));
    for (const [, , name, hand, answer, from] of rows)
      expect([
        name !== '',
        ['choose', 'type', 'leave'].includes(hand ?? ''),
        answer !== '',
        from !== '',
      ]).toEqual([true, true, true, true]);
    const custom = await textOf(page, 'tr[data-page="upgrade-or-custom"]');
    expect(custom).toContain('“Upgrade” is selected when this page opens.');
    // The Line hangs before the page at which the installer deletes.
    const after = await page.$eval('.answer-line', (line) =>
      line.closest('tr')?.nextElementSibling?.getAttribute('data-page'),
    );
    expect(after).toBe('partitions');
  });

  it('says what to make and what never to format, in numbers that add up to the disk', async () => {
    const numbers = (selector: string) =>
      page.$$eval(`${selector} tbody tr`, (rows) =>
        rows.map((row) => [...row.querySelectorAll('.number')].map((cell) => Number(cell.textContent))),
      );
    const kept = await numbers('.never-frame');
    const [deleted, made] = await numbers('.make-frame');
    expect(kept).toHaveLength(4);
    expect(made).toEqual(deleted);
    // Every partition begins where the one before it ends: nothing is over another.
    const all = [...kept, made ?? []].toSorted((a, b) => (a[0] ?? 0) - (b[0] ?? 0));
    for (const [index, [start = 0, size = 0]] of all.entries())
      expect(start + size).toBeLessThanOrEqual(all[index + 1]?.[0] ?? Infinity);
    expect(await textOf(page, '.hand-checks')).toMatch(/Last end \d+; the disk has 244198 MiB\./);
  });

  it('is ticked from the keyboard at the bench, page by page, and keeps that', async () => {
    await page.focus(box('language'));
    await page.keyboard.press('Space');
    await ticked('language', true);
    await page.keyboard.press('ArrowDown');
    expect(await page.evaluate(() => document.activeElement?.getAttribute('data-line'))).toBe('key');
    await page.keyboard.press('Space');
    await ticked('key', true);
    await sees(page, '2 of 13 answered');
    await page.keyboard.press('Space');
    await ticked('key', false);
    await press(page, box('leave:4'));
    await ticked('leave:4', true);
    await page.reload({ waitUntil: 'networkidle0' });
    await ticked('language', true);
    await ticked('leave:4', true);
    const { lines } = (await fetchJson(page, '/api/v1/moves/MV-0025/events')) as {
      lines: { kind: string; sentence: string }[];
    };
    expect(lines.filter(({ kind }) => kind.startsWith('answer-')).map(({ sentence }) => sentence)).toEqual([
      expect.stringMatching(/^Page 1, Language and keyboard: entered\. English/),
      expect.stringMatching(/^Page 2, Licence key: entered\./),
      'Page 2, Licence key: not entered after all.',
      expect.stringMatching(/^Partition 4, leave: entered\. DATA, /),
    ]);
  });

  it('forgets a tick with the answer that it was given for', async () => {
    await press(page, box('network'));
    await ticked('network', true);
    expect(await textOf(page, 'tr[data-page="network"]')).toContain('No network.');
    const { version } = (await fetchJson(page, '/api/v1/moves/MV-0025')) as { version: number };
    const changed = await page.evaluate(async (seen) => {
      const response = await fetch('/api/v1/moves/MV-0025/rules', {
        method: 'PUT',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({
          version: seen,
          setting: 'networkDuringSetup',
          value: 'online',
          reason: 'Its owner is far away.',
        }),
      });
      return response.status;
    }, version);
    expect(changed).toBe(200);
    await page.reload({ waitUntil: 'networkidle0' });
    await ticked('language', true);
    await ticked('network', false);
    expect(await textOf(page, 'tr[data-page="network"]')).not.toContain('No network.');
  });

  it('shows a secret from the vault only when it is asked for, and never on paper', async () => {
    const passphrase = 'heron-slate-tidal-47';
    await open('/moves/MV-0042/prepare');
    await click(page, 'Add a secret');
    await pick(page, 'What it is', 'password');
    await fill(page, 'Name', 'Disk passphrase');
    await fill(page, 'The secret', passphrase);
    await page.locator('.modal button[type="submit"]').click();
    await dialogGone(page);
    await open('/moves/MV-0042/answers');
    await sees(page, 'The passphrase from the vault');
    expect(await textOf(page, 'main')).not.toContain(passphrase);
    await page.focus(box('encryption'));
    await page.keyboard.press('s');
    await sees(page, passphrase);
    await page.emulateMediaType('print');
    expect(await textOf(page, 'main')).not.toContain(passphrase);
    expect(await textOf(page, 'main')).toContain('on screen only');
    await page.emulateMediaType();
    const { lines } = (await fetchJson(page, '/api/v1/moves/MV-0042/events')) as {
      lines: { kind: string }[];
    };
    expect(lines.filter(({ kind }) => kind === 'secret-shown')).toHaveLength(1);
  });

  it('has a line for each waived check, with how this installer is told to skip it', async () => {
    await open('/moves/MV-0033/answers');
    await sees(page, 'Checks to skip, before the first page');
    const lines = await page.$$eval('.skipped-checks li', (items) => items.map((item) => item.textContent));
    expect(lines.length).toBeGreaterThan(0);
    for (const line of lines) expect(line).toMatch(/^([a-z ]+): Write the line skip=/);
    const first = await page.$eval('.skipped-checks .tick-box', (one) => one.getAttribute('data-line') ?? '');
    await press(page, box(first));
    await ticked(first, true);
  });

  it('fits a page of A4 with its partitions', async () => {
    await open('/moves/MV-0025/answers');
    const paper = await page.pdf({ format: 'A4' });
    // Each page of a PDF is an object of the type Page (ISO 32000-1, 7.7.3.3).
    expect(
      Buffer.from(paper)
        .toString('latin1')
        .match(/\/Type\s*\/Page\b/g),
    ).toHaveLength(1);
  });
});
