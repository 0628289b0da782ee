import { Client } from 'pg';
import type { Browser, Page } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { newPage, openBrowser, signIn } from './lib/browser';
import { openHouse, type RunningHouse } from './lib/house';
import { click, fill, pick, sees, textOf } from './lib/page';

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

/** Behind the application's back, as somebody who owns the tables. */
async function sql(text: string, values: unknown[] = []): Promise<void> {
  const client = new Client({ connectionString: house.databaseUrl });
  await client.connect();
  try {
    await client.query(text, values);
  } finally {
    await client.end();
  }
}

const open = (path: string) => page.goto(`${house.address}${path}`, { waitUntil: 'networkidle0' });
const title = () => textOf(page, '#record-title');
const focused = () =>
  page.evaluate(() => document.activeElement?.querySelector('.number')?.textContent ?? '');

describe('the record of a move', () => {
  it('fits line by line, and is read with the keyboard alone', async () => {
    await open('/moves/MV-0021/log');
    await sees(page, 'lines fit');
    expect(await title()).toMatch(/^Record: all \d+ lines fit$/);
    await page.focus('.record-rows button');
    expect(await focused()).toBe('1');
    await page.keyboard.press('ArrowDown');
    expect(await focused()).toBe('2');
    await page.keyboard.press('Enter');
    await sees(page, 'line before');
    // The code that the line says it was made after is that of the line above.
    const [first = '', second = ''] = await page.$$eval('.record-rows .rod-piece .mono', (codes) =>
      codes.slice(0, 2).map((code) => code.textContent ?? ''),
    );
    const codes = await textOf(page, '.record-rows .codes');
    expect(codes).toContain(`line before ${first.replace(' ', '')}`);
    expect(codes).toContain(`this line ${second.replace(' ', '')}`);
    const folds = await page.$$eval('.record-rows li.fold', (rows) => rows.length);
    expect(folds).toBeGreaterThan(1);
    await page.focus('.record-rows li.fold button');
    await page.keyboard.press('Enter');
    expect(await page.$$eval('.record-rows li.fold', (rows) => rows.length)).toBe(folds - 1);
    expect(await page.$('.record-line')).not.toBeNull();
  });

  it('names the line that was altered, and says what is proved and what is not', async () => {
    await sql('ALTER TABLE event DISABLE TRIGGER event_append_only');
    await sql(
      `UPDATE event SET sentence = 'All went well.' WHERE number = 9 AND move_id = (SELECT id FROM move WHERE reference = 'MV-0021')`,
    );
    await open('/moves/MV-0021/log');
    await sees(page, 'Record: line 9 does not fit');
    await sees(page, 'Line 9 was changed after it was written');
    await sees(page, 'Lines 1 to 8 are proved.');
    expect(await page.$$eval('.record-rows li.misfit', (rows) => rows.length)).toBe(1);
    expect(await page.$$eval('.record-rows li.unproved', (rows) => rows.length)).toBeGreaterThan(2);
  });

  it('shows lines that came with an import as such, never as the house’s own', async () => {
    await open('/moves/MV-0023/log');
    const exported = await page.evaluate(async () => {
      const document = (await (await fetch('/api/v1/moves/MV-0023/export')).json()) as {
        move: { id: string };
      };
      document.move.id = crypto.randomUUID();
      const answer = await fetch('/api/v1/moves/import', {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify(document),
      });
      return ((await answer.json()) as { move: { reference: string } }).move.reference;
    });
    await open(`/moves/${exported}/log`);
    await sees(page, 'lines fit');
    await sees(page, 'Imported by lead, not written here.');
    await sees(page, 'Imported from a file, with');
    await sees(page, '1 written here');
  });
});

describe('one’s own account', () => {
  it('makes a token that lets a program in, shows it once, and revokes it', async () => {
    await open('/account');
    await sees(page, 'No token yet.');
    await fill(page, 'What it is for', 'Nightly list');
    await pick(page, 'Scope', 'read');
    await click(page, 'Make');
    await sees(page, 'This token is shown once');
    const token = await textOf(page, '.token-text');
    const ask = () =>
      fetch(`${house.address}/api/v1/moves`, { headers: { authorization: `Bearer ${token}` } });
    expect((await ask()).status).toBe(200);
    await page.reload({ waitUntil: 'networkidle0' });
    await sees(page, 'Nightly list');
    expect(await textOf(page, 'body')).not.toContain(token);
    await click(page, 'Revoke: Nightly list');
    await sees(page, 'revoked');
    expect((await ask()).status).toBe(401);
  });

  it('changes a password; a lead makes a one-time link for somebody who has lost theirs', async () => {
    await open('/house');
    await fill(page, 'Name[role="textbox"]', 'Tamsin Reef');
    await fill(page, 'First password', 'password12');
    await click(page, 'Add');
    await sees(page, 'among the first that are tried');
    await fill(page, 'First password', 'four words of no kin');
    await click(page, 'Add');
    await sees(page, 'Tamsin Reef');
    await click(page, 'One-time link for a new password: Tamsin Reef');
    await sees(page, 'Give this link to Tamsin Reef');
    const link = await textOf(page, '.token-text');
    const elsewhere = await newPage(await browser.createBrowserContext());
    await elsewhere.goto(link, { waitUntil: 'networkidle0' });
    await fill(elsewhere, 'New password[role="textbox"]', 'six other words that rhyme');
    await fill(elsewhere, 'New password again', 'six other words that rhyme');
    await click(elsewhere, 'Set the password');
    await sees(elsewhere, 'The new password is set.');
    await signIn(elsewhere, house.address, 'tamsin reef', 'six other words that rhyme');
    await elsewhere.goto(`${house.address}/account`, { waitUntil: 'networkidle0' });
    await fill(elsewhere, 'Present password', 'not that one');
    await fill(elsewhere, 'New password[role="textbox"]', 'yet another set of words');
    await fill(elsewhere, 'New password again', 'yet another set of words');
    await click(elsewhere, 'Change password');
    await sees(elsewhere, 'The present password is another one.');
    await fill(elsewhere, 'Present password', 'six other words that rhyme');
    await click(elsewhere, 'Change password');
    await sees(elsewhere, 'The password is changed.');
  });
});

describe('a record that cannot be read', () => {
  it('is named on House with its reason, and rolled back there; the fleet goes on meanwhile', async () => {
    await sql(
      `UPDATE move SET record = record || '{"owner": 7}', assessed_for = '' WHERE reference = 'MV-0005'`,
    );
    await open('/moves/MV-0005/survey');
    await sees(page, 'The record of MV-0005 cannot be read');
    await open('/fleet');
    await sees(page, 'MV-0005');
    await page.waitForFunction(
      async () => {
        await fetch('/api/v1/fleet/reassessment');
        const answer = await fetch('/api/v1/records/unreadable');
        return ((await answer.json()) as { moves: unknown[] }).moves.length === 1;
      },
      { polling: 300 },
    );
    await open('/house');
    await sees(page, 'Records that cannot be read');
    await sees(page, '“owner”');
    const roll = await page.$$eval('#unreadable ~ ul button', (buttons) =>
      buttons.map((button) => button.textContent),
    );
    expect(roll).toHaveLength(1);
    await page.$eval('#unreadable ~ ul button', (button) => (button as HTMLElement).click());
    await page.waitForFunction(() => document.querySelector('#unreadable') === null);
    await open('/moves/MV-0005/log');
    await sees(page, 'The record could not be read and was rolled back');
    await sees(page, 'lines fit');
  });
});
