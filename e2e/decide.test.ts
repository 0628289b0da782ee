import type { Browser, Page } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { newPage, openBrowser, signIn } from './lib/browser';
import { openHouse, type RunningHouse } from './lib/house';
import {
  chooseCandidate,
  click,
  dialogGone,
  fill,
  openFold,
  openRoutes,
  pick,
  press,
  sees,
  textOf,
} from './lib/page';

let house: RunningHouse;
let browser: Browser;
let closeBrowser: () => Promise<void>;
let page: Page;

beforeAll(async () => {
  house = await openHouse('demo');
  ({ browser, close: closeBrowser } = await openBrowser());
  page = await newPage(browser);
  await signIn(page, house.address, 'lead', house.password);
});
afterAll(async () => {
  await closeBrowser();
  await house.close();
});

const open = (path: string) => page.goto(`${house.address}${path}`, { waitUntil: 'networkidle0' });
/** The verdict that stands beside a release on Decide. */
const verdictOf = (release: string) =>
  page.evaluate(
    (title) =>
      [...document.querySelectorAll('section[aria-labelledby="assessment"] tr')]
        .find((row) => row.querySelector('th button')?.textContent === title)
        ?.querySelector('.verdict')?.textContent,
    release,
  );

describe('the catalogue', () => {
  it('is edited, and the verdicts say so', async () => {
    await open('/moves/MV-0010/decide');
    await openFold(page, 'Against every release');
    expect(await verdictOf('Saltbush Desktop 6 Full')).toBe('meets');
    await open('/catalogue?search=saltbush');
    await click(page, 'Saltbush Desktop 6 Full');
    await click(page, 'Edit');
    await click(page, 'memory · 4 GiB');
    await fill(page, 'Memory[role="textbox"]', '32 GiB');
    await click(page, 'Save in the catalogue');
    await sees(page, 'Saltbush Desktop 6 Full changed by lead');
    await open('/moves/MV-0010/decide');
    await openFold(page, 'Against every release');
    expect(await verdictOf('Saltbush Desktop 6 Full')).toBe('fixable');
    await open('/fleet?view=groups');
    await pick(page, 'Group by', 'unlock');
    await sees(page, 'Open moves by');
  });

  it('says what is wrong at the field before it asks the server, and loses nothing', async () => {
    await open('/catalogue?kind=releases&id=corvel-8-campus');
    await click(page, 'Edit');
    await fill(page, 'Extended until', '01012020');
    await fill(page, 'Image', 'plenty');
    await click(page, 'Save in the catalogue');
    await page.waitForSelector('[role="alert"]');
    expect(await textOf(page, '[role="alert"]')).toContain('“Image”');
    expect(await page.$$eval('input', (inputs) => inputs.some((input) => input.value === 'plenty'))).toBe(
      true,
    );
  });

  it('goes out as a file, and shows what taking it in again would change', async () => {
    await open('/catalogue');
    const text = await page.evaluate(async () => {
      const document = (await (await fetch('/api/v1/catalogue/export')).json()) as {
        families: { id: string; about: string }[];
      };
      for (const family of document.families) if (family.id === 'harrow') family.about = 'For workstations.';
      return JSON.stringify(document);
    });
    await click(page, 'Import a catalogue');
    await page.waitForSelector('.modal input[type="file"]');
    await page.evaluate((content) => {
      const transfer = new DataTransfer();
      transfer.items.add(new File([content], 'catalogue.json', { type: 'application/json' }));
      for (const kind of ['dragenter', 'dragover', 'drop'])
        document
          .querySelector('.modal .drop')
          ?.dispatchEvent(new DragEvent(kind, { dataTransfer: transfer, bubbles: true, cancelable: true }));
    }, text);
    await sees(page, '1 entry would change:');
    await sees(page, 'For workstations.');
    await click(page, 'Import');
    await dialogGone(page);
  });
});

describe('house rules', () => {
  it('shows its effect on a sample move before it is kept, and shapes a new plan', async () => {
    await open('/house');
    await press(page, '#optionalUpdates-true');
    await sees(page, 'Optional driver updates and previews: leave them, now take them.');
    await pick(page, 'Its effect on a sample move', 'MV-0014');
    await sees(page, 'New: Take the optional driver updates.');
    await click(page, 'Save house rules');
    await sees(page, 'Who changed it');
    await page.waitForFunction(() =>
      document
        .querySelector<HTMLElement>('[aria-labelledby="house-rules-history"]')
        ?.innerText.includes('lead'),
    );
    await open('/moves/MV-0014/prepare');
    await sees(page, 'It is stale');
    await click(page, 'Make it again');
    await page.waitForFunction(() => location.pathname.endsWith('/cross'));
    await open('/moves/MV-0014/settle');
    await sees(page, 'Take the optional driver updates');
  });

  it('can be departed from by one move, with a reason', async () => {
    await open('/moves/MV-0010/decide');
    await openFold(page, 'Exceptions from house rules');
    await click(page, 'Make an exception');
    await press(page, '#exception-change-order');
    await fill(page, 'Why[role="textbox"]', 'This firmware forgets the menu.');
    await click(page, 'Make the exception');
    await dialogGone(page);
    await sees(page, 'Starting from the stick: change the boot order');
    await sees(page, 'This firmware forgets the menu.');
  });
});

describe('comparing, and what would change the advice', () => {
  /** Presses Tab until something with these words has the focus. */
  async function tabTo(words: string): Promise<void> {
    for (let presses = 0; presses < 80; presses += 1) {
      await page.keyboard.press('Tab');
      const text = await page.evaluate(() => document.activeElement?.textContent ?? '');
      if (text.includes(words)) return;
    }
    throw new Error(`“${words}” cannot be reached with Tab`);
  }

  it('are read and acted on with the keyboard alone', async () => {
    await open('/moves/MV-0028/decide');
    await sees(page, 'Facts that only a mistake in the survey would change');
    await tabTo('Choose this option');
    await tabTo('Side by side, same disk');
    await page.keyboard.press('Enter');
    await page.waitForSelector('.route-options .candidate');
    await tabTo('Facts that only a mistake');
    await page.keyboard.press('Enter');
    await page.waitForFunction(() => document.querySelector('details[open] .turns') !== null);
    expect(await textOf(page, '[aria-labelledby="what-would-change"]')).toContain('Security chip (TPM)');
    await tabTo('Exceptions from house rules');
  });

  it('an excluded route says the smallest change that would allow it', async () => {
    await openRoutes(page);
    await page.waitForSelector('.candidate.excluded .change');
    expect(await textOf(page, '.candidate.excluded .change')).toContain('It would be allowed with this:');
  });

  it('waives checks one by one, and asks for both consents before the Line', async () => {
    // Below the minimum: its chip is of version 1.2 and its board takes no more than 4 GiB.
    await open('/moves/MV-0032/decide');
    await chooseCandidate(page, 'Clean install with waived checks to Corvel 10 Personal');
    await sees(page, 'Checks to be waived, each by itself');
    await fill(page, 'Why, against the advice?', 'The owner needs one application of the family.');
    await click(page, 'Choose');
    await sees(page, 'Waive each check by itself, or choose another route.');
    for (const box of await page.$$('.modal input[type="checkbox"]')) await box.click();
    await click(page, 'Choose');
    await dialogGone(page);
    await open('/moves/MV-0032/decide');
    expect(await textOf(page, '.chosen-line')).toContain('Waived:');
    await open('/moves/MV-0033/prepare');
    await sees(page, 'Owner’s consent in writing');
    await sees(page, 'Organisation’s consent in writing');
  });
});
