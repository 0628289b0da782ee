import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Browser, ElementHandle, Page } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { newPage, openBrowser, signIn } from './lib/browser';
import { openHouse, type RunningHouse } from './lib/house';
import { stepIs, unfoldSteps } from './lib/runbook';
import { chooseCandidate, click, dialogGone, fill, sees, textOf } from './lib/page';

let house: RunningHouse;
let browser: Browser;
let closeBrowser: () => Promise<void>;
let page: Page;
const folder = mkdtempSync(join(tmpdir(), 'ulvane-surveys-'));

beforeAll(async () => {
  house = await openHouse('demo');
  ({ browser, close: closeBrowser } = await openBrowser());
  page = await newPage(browser);
  await signIn(page, house.address, 'lead', house.password);
});
afterAll(async () => {
  await closeBrowser();
  await house.close();
  rmSync(folder, { recursive: true });
});

const open = (path: string) => page.goto(`${house.address}${path}`, { waitUntil: 'networkidle0' });
/** Presses the button that signs a step; what it answers is on the page. */
async function sign(stepId: string): Promise<void> {
  await unfoldSteps(page);
  const button = await page.waitForSelector(`[data-step="${stepId}"] [id^="sign-"]`);
  await button?.click();
}
const stateOf = (stepId: string, state: string) => stepIs(page, stepId, state);
/** Writes the words of a note on Prepare and keeps it. */
async function note(words: Readonly<Record<string, string>>): Promise<void> {
  for (const [label, text] of Object.entries(words)) await fill(page, label, text);
  await page.locator(`form:has([aria-label="${Object.keys(words)[0] ?? ''}"]) button`).click();
}

describe('a hold', () => {
  it('is isolated line by line, has a last day, is signed by the lead, and is on Today', async () => {
    await open('/moves/MV-0010/decide');
    await chooseCandidate(page, 'Hold');
    await fill(page, 'Why, against the advice?', 'Nobody has time before the season ends.');
    await click(page, 'Choose');
    await dialogGone(page);
    await open('/moves/MV-0010/prepare');
    await click(page, 'Make the runbook');
    await page.waitForFunction(() => location.pathname.endsWith('/cross'));
    await sign('isolate');
    await sees(page, 'Not ticked on the isolation list of Prepare');
    await open('/moves/MV-0010/prepare');
    await sees(page, 'Isolation list, 0 of 7');
    for (let line = 0; line < 7; line += 1) {
      await page.evaluate(() =>
        [...document.querySelectorAll<HTMLInputElement>('[id^="isolation-"]')]
          .find((box) => !box.checked)
          ?.click(),
      );
      await sees(page, `Isolation list, ${line + 1} of 7`);
    }
    await page.$eval('input[aria-label="Last day of the hold"]', (input) => {
      const setter = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')?.set;
      setter?.call(input, '2026-06-30');
      input.dispatchEvent(new Event('input', { bubbles: true }));
    });
    await page.locator('form:has([aria-label="Last day of the hold"]) button').click();
    await sees(page, '2026-06-30');
    await open('/moves/MV-0010/cross');
    await sign('isolate');
    await stateOf('isolate', 'signed');
    await sign('end-date');
    await stateOf('end-date', 'signed');
    await open('/');
    expect(await textOf(page, '[aria-labelledby="ahead"]')).toContain('until 2026-06-30');
  });
});

describe('a replacement', () => {
  it('is stopped at the wipe until the new device is named and the data is on it', async () => {
    await open('/moves/MV-0051/cross');
    await sees(page, 'The data is on the new device');
    expect(await textOf(page, '.gate-reasons')).toContain('Nobody has stated yet');
    await open('/moves/MV-0051/prepare');
    await note({ 'How it was compared': 'All checksums are the same.' });
    await sees(page, 'All checksums are the same.');
    await note({ 'By which method': 'Overwritten once and read back' });
    await sees(page, 'Overwritten once and read back');
    await note({ 'Who takes it, and how': 'The borough yard, by its slip' });
    await sees(page, 'The borough yard, by its slip');
    await open('/moves/MV-0051/cross');
    expect(await textOf(page, '.gate-reasons')).not.toContain('Nobody has stated yet');
  });
});

describe('many surveys at once', () => {
  it('say what each would do, are taken, and one that cannot be read keeps no other out', async () => {
    const files = ['A', 'B', 'C'].map((letter) => {
      const path = join(folder, `${letter}.json`);
      writeFileSync(
        path,
        letter === 'C'
          ? '{"format": "ulvane-survey", "version": 1,'
          : JSON.stringify({
              format: 'ulvane-survey',
              version: 1,
              takenAt: '2026-03-02T08:00:00Z',
              device: { maker: 'Kestle', model: 'Sill', serial: `MANY-${letter}` },
            }),
      );
      return path;
    });
    await open('/fleet');
    await click(page, 'Import surveys');
    const input = (await page.waitForSelector(
      '.modal input[type="file"]',
    )) as ElementHandle<HTMLInputElement> | null;
    if (!input) throw new Error('no file input');
    await input.uploadFile(...files);
    await sees(page, 'Import 2 of 3');
    await sees(page, 'The file breaks off in line 1');
    await click(page, 'Import 2 of 3');
    await sees(page, '3 of 3 files imported');
    await click(page, 'Close[role="button"]').catch(() => page.keyboard.press('Escape'));
    await fill(page, 'Search[role="searchbox"]', 'MANY-');
    await page.waitForFunction(() => document.querySelector('.page-head > .soft')?.textContent === '2 moves');
  });
});
