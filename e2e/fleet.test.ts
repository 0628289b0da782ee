import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Browser, ElementHandle, Page } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { newPage, openBrowser, signIn } from './lib/browser';
import { openHouse, type RunningHouse } from './lib/house';
import { click, dialogGone, fill, openFold, pick, press, sees, textOf } from './lib/page';

const deviceCount = 10_000;
const badCount = 37;

let house: RunningHouse;
let browser: Browser;
let closeBrowser: () => Promise<void>;
let page: Page;
const folder = mkdtempSync(join(tmpdir(), 'ulvane-list-'));
const listFile = join(folder, 'devices.csv');

beforeAll(async () => {
  writeFileSync(listFile, list());
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

/** Ten thousand rows; every 270th is wrong in one of four ways, and that makes 37. */
function list(): string {
  const lines = ['Serial number,Make,Model,Year,RAM,OS,Location,Firmware mode,Remark'];
  let bad = 0;
  for (let row = 0; row < deviceCount; row += 1) {
    const wrong = row % 270 === 1 && bad < badCount;
    if (wrong) bad += 1;
    const kind = wrong ? bad % 4 : -1;
    lines.push(
      [
        kind === 0 ? '' : `LIST-${row}`,
        'Kestle',
        'Sill',
        kind === 1 ? 'long ago' : '2018',
        row % 3 === 0 ? '4' : '8',
        kind === 2 ? 'Corvel 99' : 'Corvel 9 Business',
        `Pier ${row % 5}`,
        kind === 3 ? 'both' : 'uefi',
        'from the stock list',
      ].join(','),
    );
  }
  if (bad !== badCount) throw new Error(`${bad} bad rows, not ${badCount}`);
  return `${lines.join('\r\n')}\r\n`;
}

async function pickFile(path: string): Promise<void> {
  await click(page, 'Import a list');
  const input = (await page.waitForSelector(
    '.modal input[type="file"]',
  )) as ElementHandle<HTMLInputElement> | null;
  if (!input) throw new Error('no file input');
  await input.uploadFile(path);
}

async function pickList(): Promise<void> {
  await pickFile(listFile);
  await sees(page, `Check ${deviceCount} rows`);
}

const dialogText = () => textOf(page, '.modal-body');
const finished = (words: string) =>
  page.waitForFunction(
    (wanted) => document.querySelector<HTMLElement>('.modal-body')?.innerText.includes(wanted),
    { timeout: 240_000 },
    words,
  );

describe('a list that does not say how it is written', () => {
  it('is asked how its letters read, and how its numbers, before anything is imported', async () => {
    const path = join(folder, 'old export.csv');
    const lines = [
      'Serial;Owner;RAM (MB);Remark',
      'OLD-1;B\u00e4rbel \u00c5ngstr\u00f6m;8,192;a',
      `OLD-2;Jos\u00e9;16,384;${'x'.repeat(30_000)}`,
      'OLD-1;again;4,096;c',
    ];
    // One byte a letter, as older spreadsheets save.
    writeFileSync(path, Buffer.from(lines.join('\r\n'), 'latin1'));
    await page.goto(`${house.address}/fleet`, { waitUntil: 'networkidle0' });
    await pickFile(path);
    await sees(page, 'Which of these is spelt right?');
    expect(await dialogText()).toContain('Bärbel Ångström');
    await click(page, 'Spelt right as Western European');
    await sees(page, 'Check 3 rows');
    // Nothing in the column says whether 8,192 is eight thousand or eight: it is asked about.
    await sees(page, '8,192 (is asked about)');
    await click(page, 'Check 3 rows');
    await finished('3 refused');
    expect(await dialogText()).toContain('may mean 8192 MiB or 8.1920 MiB');
    await click(page, 'Cancel');
    await dialogGone(page);
    // One cell that means one thing only tells the whole column; the long remark is not even sent.
    writeFileSync(path, Buffer.from(lines.join('\r\n').replace('4,096', '1,048,576'), 'latin1'));
    await pickFile(path);
    await click(page, 'Spelt right as Western European');
    await sees(page, '8,192 = 8.0 GiB');
    await click(page, 'Check 3 rows');
    await finished('1 refused');
    expect(await dialogText()).toContain('2 would be new');
    expect(await dialogText()).toContain('Serial OLD-1 is in row 2 already');
    await click(page, 'Cancel');
    await dialogGone(page);
  });
});

describe('a list of ten thousand devices', () => {
  it('is matched, checked without storing anything, and names its 37 bad rows by row and column', async () => {
    await page.goto(`${house.address}/fleet`, { waitUntil: 'networkidle0' });
    const before = await textOf(page, '.page-head > .soft');
    await pickList();
    expect(
      await page.$$eval('.modal select', (selects) =>
        selects.map((select) => (select as HTMLSelectElement).value),
      ),
    ).toEqual([
      'serial',
      'maker',
      'model',
      'year',
      'memoryBytes',
      'presentRelease',
      'site',
      'firmwareMode',
      '',
    ]);
    await click(page, `Check ${deviceCount} rows`);
    await finished('refused');
    expect(await dialogText()).toContain(
      `${deviceCount - badCount} would be new, 0 would be updated, 0 unchanged, ${badCount} refused.`,
    );
    expect(await page.$$eval('.refusals tbody tr', (rows) => rows.length)).toBe(badCount);
    // The first bad row is the second device: row 3 of the sheet, and its year is words.
    expect(await textOf(page, '.refusals tbody tr')).toContain('“long ago” is not a whole number.');
    expect(await textOf(page, '.refusals tbody tr')).toMatch(/^3\s+Year/);
    await click(page, 'Cancel');
    expect(await textOf(page, '.page-head > .soft')).toBe(before);
  });

  it('is imported with progress, can be stopped, and imported again for the rest', async () => {
    await pickList();
    await click(page, `Check ${deviceCount} rows`);
    await finished('refused');
    await click(page, `Import ${deviceCount - badCount} devices`);
    await page.waitForFunction(
      () => Number(document.querySelector('.modal progress')?.getAttribute('value')) >= 1000,
      { timeout: 240_000 },
    );
    await click(page, 'Stop');
    await finished('The import was stopped');
    expect(await dialogText()).toMatch(/\d+ new, 0 updated, 0 unchanged/);
    await click(page, 'Close[role="button"]');
    await pickList();
    await click(page, `Check ${deviceCount} rows`);
    await finished('refused');
    const again = await dialogText();
    const missing = Number(/(\d+) would be new/.exec(again)?.[1]);
    const there = Number(/(\d+) unchanged/.exec(again)?.[1]);
    expect(missing).toBeGreaterThan(0);
    expect(missing + there).toBe(deviceCount - badCount);
    await click(page, `Import ${missing} devices`);
    await finished(`${missing} new, 0 updated, ${there} unchanged`);
    await click(page, 'Close[role="button"]');
    await page.waitForFunction(
      (count) =>
        document.querySelector('.page-head > .soft')?.textContent?.replace(/,/g, '').includes(String(count)),
      {},
      deviceCount - badCount + 61,
    );
  });

  it('scrolls with only the rows in sight drawn, to its very end', async () => {
    // By the number of its row: a batch that was stopped half-way took references with it that nobody has.
    await page.waitForFunction(
      (last) => {
        const list = document.querySelector('.window');
        // Rows that arrive meanwhile make the list longer: a person goes on to its end.
        list?.scrollTo(0, list.scrollHeight);
        return list?.querySelector(`[aria-rowindex="${last}"]`)?.textContent.includes('MV-') === true;
      },
      { polling: 300 },
      deviceCount - badCount + 62,
    );
    expect(await page.$$eval('.window tbody tr', (rows) => rows.length)).toBeLessThan(80);
    expect(await page.$eval('.window table', (table) => table.getAttribute('aria-rowcount'))).toBe(
      String(deviceCount - badCount + 62),
    );
  });

  it('is sorted and searched on the server, with it all in the address', async () => {
    await click(page, 'Serial');
    await page.waitForFunction(() => location.search.includes('sort=serial'));
    await fill(page, 'Search[role="searchbox"]', `LIST-${deviceCount - 1}`);
    await page.waitForFunction(() => document.querySelector('.page-head > .soft')?.textContent === '1 move');
    await click(page, 'Show all');
  });

  it('is grouped, and goes out as a shopping list', async () => {
    await click(page, 'Groups and shopping list', 'link');
    await pick(page, 'Group by', 'site');
    await sees(page, 'Pier 4');
    const csv = await page.evaluate(async () => (await fetch('/api/v1/fleet/shopping-list.csv')).text());
    expect(csv.split('\r\n')[0]).toBe('part,count,devices');
  });
});

describe('the prices of releases', () => {
  const focused = () => page.evaluate(() => document.activeElement?.getAttribute('data-cell') ?? '');
  const press = async (key: 'ArrowDown' | 'ArrowRight' | 'Home' | 'c' | 'q' | 'Enter') => {
    const before = await focused();
    await page.keyboard.press(key);
    if (key !== 'Enter')
      await page.waitForFunction(
        (was) => (document.activeElement?.getAttribute('data-cell') ?? was) !== was,
        {},
        before,
      );
  };

  it('are walked with the keyboard alone: to the cheapest, to the next question, to the devices', async () => {
    await page.goto(`${house.address}/fleet?view=fit&by=device-count`, { waitUntil: 'networkidle0' });
    await page.waitForSelector('[data-cell="0 0"]');
    expect(await page.$$('.fit-grid [tabindex="0"]')).toHaveLength(1);
    await page.focus('[data-cell="0 0"]');
    await press('ArrowDown');
    expect(await focused()).toBe('1 0');
    await press('ArrowRight');
    expect((await focused()).startsWith('1 ')).toBe(true);
    // C: the cell with the heavy edge.
    await press('c');
    expect(await page.evaluate(() => document.activeElement?.closest('.fit-cell.cheapest') !== null)).toBe(
      true,
    );
    await press('q');
    const asked = await page.evaluate(
      () => document.activeElement?.querySelector('.visually-hidden')?.textContent ?? '',
    );
    expect(asked).toContain('Unknown: ');
    expect(await textOf(page, '.fit-foot')).toContain(asked.slice(0, 40));
    await page.goto(`${house.address}/fleet?view=fit&by=device-count`, { waitUntil: 'networkidle0' });
    await page.waitForSelector('[data-cell="0 0"]');
    const count = (await textOf(page, '.fit-row:has([data-cell="0 0"]) .fit-count')).replaceAll(/\D/g, '');
    await page.focus('[data-cell="0 0"]');
    await press('Enter');
    await page.waitForFunction(() => new URLSearchParams(location.search).get('rows') === 'device');
    // The devices of that kind, and no others.
    await page.waitForFunction(
      // Only the rows in sight are drawn: the grid says how many there are, and its head is one.
      (wanted) => document.querySelector('.fit-grid')?.getAttribute('aria-rowcount') === `${wanted + 1}`,
      {},
      Number(count),
    );
  });

  it('show a sum that is the length of its bar, and the same in a table', async () => {
    await page.goto(`${house.address}/fleet?view=fit`, { waitUntil: 'networkidle0' });
    await page.waitForSelector('.fit-sum');
    const bars = await page.$$eval('.fit-cell:has(.fit-sum)', (cells) =>
      cells.map((cell) => {
        const [, hours = '0', minutes = '0'] =
          /(\d+) h (\d+)/.exec(cell.querySelector('.fit-sum strong')?.textContent ?? '') ?? [];
        const ticks = [...cell.querySelectorAll('.fit-bar path[d^="M"]')].map((path) =>
          parseFloat((path.getAttribute('d') ?? 'M0').slice(1)),
        );
        const width = [...cell.querySelectorAll('.fit-bar rect')].reduce(
          (sum, rect) => sum + Number(rect.getAttribute('width')),
          0,
        );
        const hour = ticks.find((tick) => tick > 0) ?? 1;
        return { minutes: Number(hours) * 60 + Number(minutes), drawn: (width / hour) * 60 };
      }),
    );
    expect(bars.length).toBeGreaterThan(10);
    // A part under two pixels is drawn with two: a few minutes.
    for (const { minutes, drawn } of bars) expect(Math.abs(minutes - drawn)).toBeLessThan(7);
    await openFold(page, 'Show as a table');
    await page.waitForSelector('details.fold table tbody tr');
    await click(page, 'Rates', 'link');
    await sees(page, 'Money for an hour of a technician');
  });
});

describe('selecting', () => {
  it('has every move of the list, also those that no page has fetched', async () => {
    await page.goto(`${house.address}/fleet?search=Lowholm`, { waitUntil: 'networkidle0' });
    const total = Number(
      await page.$eval('.page-head .soft', (line) => line.textContent?.replace(/\D/g, '') ?? ''),
    );
    expect(total).toBeGreaterThan(3);
    await click(page, `Select all ${total}`);
    await sees(page, `${total} moves selected`);
    await click(page, 'Select none');
    await page.waitForFunction(() => !document.body.textContent?.includes('moves selected'));
  });
});

describe('choosing for many', () => {
  it('shows the exceptions before it is done', async () => {
    await page.goto(`${house.address}/fleet?search=Draymoor`, { waitUntil: 'networkidle0' });
    await page.waitForSelector('input[aria-label="Select MV-0001"]');
    for (const reference of ['MV-0001', 'MV-0008', 'MV-0010'])
      await press(page, `input[aria-label="Select ${reference}"]`);
    await click(page, 'Choose a route for them');
    await pick(page, 'Target', 'corvel-10-business');
    await fill(page, 'Why, where it is not the advice', 'The same for the whole desk.');
    await click(page, 'Show the exceptions');
    await sees(page, '2 can use it, 1 cannot.');
    await sees(page, 'MV-0001 was handed over');
    await sees(page, 'Worth a look: another route was chosen before (1)');
    await click(page, 'Choose for 2 devices');
    await sees(page, 'Chosen for 2 devices.');
  });
});
