import type { Browser, Page } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { newPage, openBrowser, signIn } from './lib/browser';
import { openHouse, type RunningHouse } from './lib/house';
import { click, dialogGone, dropFile, fill, sees } from './lib/page';

let house: RunningHouse;
let browser: Browser;
let closeBrowser: () => Promise<void>;
let page: Page;

beforeAll(async () => {
  house = await openHouse('demo');
  ({ browser, close: closeBrowser } = await openBrowser());
  page = await newPage(browser);
  await signIn(page, house.address, 'technician', house.password);
});
afterAll(async () => {
  await closeBrowser();
  await house.close();
});

const survey = {
  format: 'ulvane-survey',
  version: 1,
  takenAt: '2026-03-02T09:30:00Z',
  device: { maker: 'Kestle', model: 'Sill', serial: 'KS-PAPER-1' },
  memoryBytes: 8589934592,
  firmware: { mode: 'uefi' },
};
const text = JSON.stringify(survey, null, 1);

async function moveCount(): Promise<number> {
  return page.evaluate(
    async () => ((await (await fetch('/api/v1/moves')).json()) as { total: number }).total,
  );
}

describe('a bad survey file', () => {
  it.each([
    ['truncated', text.slice(0, 120), 'The file breaks off in line'],
    ['malformed', text.replace('"version": 1', '"version" 1'), 'not well-formed JSON at line 3, column 12'],
    ['something else', '{"shopping":["bread"]}', 'This is JSON, but not a survey'],
    ['newer', text.replace('"version": 1', '"version": 7'), 'reads up to version 1'],
    ['with a wrong value', text.replace('8589934592', '"plenty"'), '“memoryBytes”'],
    ['oversized', `${text}${' '.repeat(1024 * 1024)}`, 'a survey has at most 1 MiB'],
    ['contradictory', text.replace('"uefi"', '"legacy", "secureBoot": "on"'), 'both cannot be'],
    ['empty', '', 'The file is empty'],
  ])(
    'that is %s is refused with the reason and the place, and nothing is started',
    async (_what, content, sentence) => {
      await page.goto(`${house.address}/`, { waitUntil: 'networkidle0' });
      const before = await moveCount();
      await dropFile(page, 'survey.json', content);
      await sees(page, sentence);
      expect(await page.$('.modal')).toBeNull();
      expect(await moveCount()).toBe(before);
    },
  );
});

describe('a good one', () => {
  it('can be pasted, shows every fact before it is taken, and can be left', async () => {
    await page.goto(`${house.address}/`, { waitUntil: 'networkidle0' });
    const before = await moveCount();
    await click(page, 'Paste it');
    await fill(page, 'The survey’s text', text);
    await click(page, 'Read it');
    await sees(page, 'New device: Kestle Sill');
    await sees(page, '8.6 GB (8.0 GiB)');
    await click(page, 'Cancel');
    await dialogGone(page);
    expect(await moveCount()).toBe(before);
    await click(page, 'Read it');
    await click(page, 'Start a move with it');
    await page.waitForFunction(() => location.pathname.endsWith('/survey'));
    await sees(page, 'KS-PAPER-1');
    expect(await moveCount()).toBe(before + 1);
  });

  it('taken again shows what changed, fact by fact', async () => {
    await dropFile(
      page,
      'again.json',
      text.replace('8589934592', '17179869184').replace('"mode": "uefi"', '"mode": "uefi", "tpm": "2.0"'),
    );
    await sees(page, 'What this survey changes: 2 facts');
    const rows = await page.$$eval('.modal tbody tr', (all) =>
      all.map((row) => (row as HTMLElement).innerText.replace(/\s+/g, ' ').trim()),
    );
    expect(rows).toEqual(['Memory 8.6 GB (8.0 GiB) 17.2 GB (16.0 GiB)', 'Security chip (TPM) unknown 2.0']);
    await click(page, 'Apply survey');
    await dialogGone(page);
    await sees(page, '17.2 GB (16.0 GiB)');
    await dropFile(page, 'again.json', text.replace('8589934592', '17179869184'));
    await sees(page, 'Nothing new');
    await click(page, 'Cancel');
    await dialogGone(page);
  });

  it('of a device that is here already leads to its move', async () => {
    await page.goto(`${house.address}/`, { waitUntil: 'networkidle0' });
    await dropFile(page, 'survey.json', text);
    await sees(page, 'A device with the same serial is here already');
    await click(page, 'Cancel');
    await dialogGone(page);
  });

  it('can be typed instead, an unknown one at a time, and a typed fact can be set back', async () => {
    await click(page, 'Start a move and enter the facts');
    await page.waitForFunction(() => location.pathname.endsWith('/survey'));
    await sees(page, '0 known, 30 unknown');
    await page.locator('aria/Enter: Memory[role="button"]').click();
    await fill(page, 'Memory[role="textbox"]', 'lots');
    await click(page, 'Save');
    await sees(page, '“lots” is not a size');
    await fill(page, 'Memory[role="textbox"]', '3.8 GiB');
    await click(page, 'Save');
    await dialogGone(page);
    await sees(page, '1 known, 29 unknown');
    await sees(page, 'typed by technician');
    await click(page, 'Change: Memory');
    await click(page, 'Set back to unknown');
    await dialogGone(page);
    await sees(page, '0 known, 30 unknown');
  });
});
