import { execFileSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Browser, Page } from 'puppeteer-core';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { z } from 'zod';
import { newPage, openBrowser, signIn } from './lib/browser';
import { openHouse, type RunningHouse } from './lib/house';
import { readFolder } from './lib/readFolder';
import { holdToCross, signNext, stepIs, unfoldSteps } from './lib/runbook';
import {
  chooseCandidate,
  click,
  dialogGone,
  dropFile,
  fetchJson,
  fill,
  pick,
  press,
  sees,
  textOf,
} from './lib/page';

let house: RunningHouse;
let other: RunningHouse;
let browser: Browser;
let closeBrowser: () => Promise<void>;
let page: Page;
const ExportSchema = z.looseObject({
  move: z.looseObject({}),
  events: z.array(z.looseObject({ by: z.string(), kind: z.string() })),
});

const scratch = mkdtempSync(join(tmpdir(), 'ulvane-journey-'));

beforeAll(async () => {
  [house, other] = await Promise.all([openHouse('demo'), openHouse('empty')]);
  ({ browser, close: closeBrowser } = await openBrowser());
  page = await newPage(browser);
  page.on('dialog', (dialog) => void dialog.accept());
});
afterAll(async () => {
  await closeBrowser();
  await Promise.all([house.close(), other.close()]);
  rmSync(scratch, { recursive: true, force: true });
});

/** Types one fact on Survey; a select is picked from, anything else is written. */
async function typeFact(label: string, value: string, kind: 'text' | 'select'): Promise<void> {
  await click(
    page,
    (await page.$(`aria/Change: ${label}[role="button"]`)) ? `Change: ${label}` : `Enter: ${label}`,
  );
  await page.waitForSelector('.modal.show');
  // The sheet below may ask for the same fact: the dialog is meant.
  if (kind === 'select') await page.select('.modal select', value);
  else await page.locator('.modal .form-control').fill(value);
  await click(page, 'Save');
  await dialogGone(page);
}

async function openStage(stage: string): Promise<void> {
  await page.locator(`nav.stages a[href$="/${stage}"]`).click();
  await page.waitForFunction((path) => location.pathname.endsWith(`/${path}`), {}, stage);
}

async function addDestination(name: string, serial: string): Promise<void> {
  await click(page, 'Add a destination');
  await fill(page, 'Name on its label', name);
  await fill(page, 'Serial[role="textbox"]', serial);
  await fill(page, 'Capacity as formatted', '2 TB');
  await fill(page, 'Free now', '1.2 TB');
  await click(page, 'Save');
  await dialogGone(page);
}

it('takes this very machine from survey to hand-over, out of one house and into another', async () => {
  // A technician signs in and drops what the collector printed.
  await signIn(page, house.address, 'technician', house.password);
  await sees(page, 'This is the demo');
  const survey = execFileSync('sh', ['collector/ulvane-survey.sh'], { encoding: 'utf8' });
  await dropFile(page, 'survey.json', survey);
  await sees(page, 'New device');
  await click(page, 'Start a move with it');
  await page.waitForFunction(() => location.pathname.endsWith('/survey'));
  await sees(page, 'Facts that decide');
  const reference = (await page.evaluate(() => location.pathname.split('/')[2])) ?? '';

  // Verdicts with unknowns: nothing is decided by what is not known.
  await openStage('decide');
  await sees(page, 'nothing else is allowed yet');
  await sees(page, 'missing fact');
  expect(
    await page.$$eval('.rate-sheet .option-title', (titles) => titles.map((title) => title.textContent)),
  ).toEqual(['Hold']);

  // What the machine could not tell is typed.
  await openStage('survey');
  await typeFact('Maker', 'Draymoor', 'text');
  await typeFact('Model', '410', 'text');
  await typeFact('Serial', 'DR410-TEST-1', 'text');
  await typeFact('Year', '2017', 'text');
  await typeFact('Laptop or desktop', 'desktop', 'select');
  await typeFact('Processor word size', '64', 'select');
  await typeFact('Cores', '4', 'text');
  await typeFact('Clock', '3200', 'text');
  await typeFact('Memory', '8 GiB', 'text');
  await typeFact('Firmware mode', 'uefi', 'select');
  await typeFact('Secure Boot', 'on', 'select');
  await typeFact('Security chip (TPM)', 'none', 'select');
  await typeFact('Graphics tier', '2', 'text');
  await typeFact('Screen width', '1920', 'text');
  await typeFact('Screen height', '1080', 'text');
  await typeFact('Present system', 'corvel-9-business', 'select');
  await typeFact('Activation', 'volume', 'select');
  await typeFact('Disk encryption', 'off', 'select');
  await typeFact('Fast start', 'off', 'select');
  await typeFact('Applications', 'Pierbook Ticketing, Skerry Browser', 'text');
  await click(page, 'Change: Disks');
  await page.waitForSelector('.modal.show');
  // Whatever disks this machine has, the bench's one is described.
  for (;;) {
    const removed = await page.evaluate(() => {
      const button = [...document.querySelectorAll<HTMLElement>('.modal button')].find((candidate) =>
        candidate.textContent?.startsWith('Remove '),
      );
      button?.click();
      return button !== undefined;
    });
    if (!removed) break;
  }
  await fill(page, 'Add a disk of the size', '256 GB');
  await click(page, 'Add');
  await fill(page, 'Serial of disk1', 'HX7714A9C2E');
  await pick(page, 'Health of disk1', 'good');
  await click(page, 'Save');
  await dialogGone(page);
  await sees(page, '…9C2E');

  // A route is chosen against the advice, with a reason.
  await openStage('decide');
  await chooseCandidate(page, 'Alternative system, whole disk to Saltbush Desktop 6 Classic');
  await sees(page, 'Why, against the advice?');
  await fill(page, 'Why, against the advice?', 'The desk only sells tickets in the browser.');
  await click(page, 'Choose');
  await page.waitForFunction(() => location.pathname.endsWith('/save'));

  // The backup: one data set, two destinations that hold it.
  await click(page, 'Add a data set');
  await fill(page, 'Name[role="textbox"]', 'Till reports');
  await fill(page, 'Size', '2.1 GB');
  await fill(page, 'Files', '3400');
  await click(page, 'Save');
  await dialogGone(page);
  await addDestination('B-07', 'OSB-7731C');
  await addDestination('B-09', 'OSB-9911A');
  await sees(page, 'Fits: 2.1 GB (2.0 GiB) in files, ');
  await sees(page, 'of 1.2 TB (1.1 TiB) free');
  await sees(page, '0 of 2');
  await sees(page, 'Next: read every file of Till reports');
  for (const name of ['device', 'copy', 'back']) {
    mkdirSync(join(scratch, name));
    for (const day of ['monday', 'tuesday']) writeFileSync(join(scratch, name, `${day}.txt`), `till ${day}`);
  }
  await click(page, 'Read every file of Till reports');
  await readFolder(page, join(scratch, 'device'), 'Record the list');
  await sees(page, 'Next: compare Till reports on B-07');

  // The runbook is made, and can be printed on A4.
  await openStage('prepare');
  await click(page, 'Make the runbook');
  await page.waitForFunction(() => location.pathname.endsWith('/cross'));
  await sees(page, 'The Line. After the next step nothing on this disk can be brought back.');
  const printed = await page.pdf({ format: 'A4' });
  expect(Buffer.from(printed.slice(0, 5)).toString()).toBe('%PDF-');

  // The Line stops whoever tries, with the reason.
  const erase = '[data-step="erase-disk"]';
  await unfoldSteps(page);
  expect(await page.$eval(erase, (row) => row.getAttribute('data-state'))).toBe('locked');
  expect(await page.$(`${erase} [id^="sign-"]`)).toBeNull();
  expect(await textOf(page, '.gate-reasons')).toContain('Till reports (0 of 2)');
  const refused = await page.evaluate(async (address) => {
    const { version } = (await (await fetch(address)).json()) as { version: number };
    const response = await fetch(`${address}/steps/erase-disk/sign`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ version, actualMinutes: null, note: '' }),
    });
    return { status: response.status, detail: ((await response.json()) as { detail: string }).detail };
  }, `/api/v1/moves/${reference}`);
  expect(refused.status).toBe(422);
  expect(refused.detail).toContain('gates are closed');

  // The gates are satisfied: notes on Prepare, the disk by serial number and size, first the wrong one.
  await openStage('prepare');
  await fill(page, 'Name of the stick', 'S-03');
  await fill(page, 'Serial of the stick', 'KST-16-C7');
  await page.locator('form:has([aria-label="Name of the stick"]) button').click();
  await sees(page, 'S-03 KST-16-C7');
  const marks = async (serial: string, size: string) => {
    await fill(page, 'End of the serial number, four characters or more', serial);
    await fill(page, 'Size on the label, in GB', size);
    await page.locator('form:has([aria-label="Size on the label, in GB"]) button').click();
    await page.waitForSelector('aria/Withdraw: Disk, by serial number and size: …9C2E');
  };
  await marks('77A0', '1000');
  await openStage('cross');
  await sees(page, 'Is it the right disk?');
  await openStage('prepare');
  await click(page, 'Withdraw: Disk, by serial number and size: …9C2E');
  await page.waitForSelector('aria/End of the serial number, four characters or more');
  await marks('9C2E', '256');
  await fill(
    page,
    'How the network will come up, if the driver does not come with the release',
    'Driver on stick S-04',
  );
  await page.locator('form:has([aria-label^="How the network"]) button').click();
  await sees(page, 'Driver on stick S-04');

  // The steps above are signed, one with a wait that counts down.
  await openStage('cross');
  await unfoldSteps(page);
  await click(page, 'Start: Copy to B-07');
  await sees(page, 'ready in');
  const done: string[] = [];
  let toldOfHabits = 0;
  const signAll = async () => {
    for (let step = await signNext(page); step !== undefined; step = await signNext(page)) {
      done.push(step);
      if (await page.$('.step-current[data-step="habits"]')) {
        await sees(page, 'What is noted when this step is signed is shown with');
        toldOfHabits += 1;
      }
    }
  };
  await signAll();
  expect(done).toContain('verify:b-07');
  expect(done).toContain('verify:b-09');
  expect(done).not.toContain('erase-disk');

  // Signing that a copy was verified only states it: what is erased has to be compared.
  await sees(page, 'Short of copies: Till reports (0 of 2)');
  await openStage('save');
  await sees(page, 'stated only: not enough');
  for (const drive of ['B-07', 'B-09']) {
    await click(page, `Compare again: Till reports on ${drive}`);
    await readFolder(page, join(scratch, 'copy'), 'Record and compare');
  }
  await sees(page, 'Every data set has the copies it needs.');
  await openStage('cross');

  // Set-up of this release encrypts: not before its passphrase is kept.
  await sees(page, 'Whoever loses the passphrase loses every file');
  expect(await page.$('.crossing-card')).toBeNull();
  await openStage('prepare');
  const kept = 'Where the passphrase is kept (not the passphrase itself)';
  await fill(page, kept, 'The vault of this move');
  await page.locator(`form:has([aria-label="${kept}"]) button`).click();
  await page.waitForSelector('aria/Withdraw: Passphrase of the new encryption');
  await openStage('cross');
  // The Line is a card of its own. No key signs it, the other disk is told, and a press is not enough.
  await page.waitForSelector('.crossing-card');
  await page.keyboard.press('s');
  await page.keyboard.press('Enter');
  await fill(page, '1 Type the end of the serial from the installer’s page', '77A0');
  await sees(page, 'Character 1 differs: you typed 7, the survey says 9. Is it the other disk?');
  expect(await page.$('.hold-button:disabled')).not.toBeNull();
  await fill(page, '1 Type the end of the serial from the installer’s page', '9c2e');
  await sees(page, '4 of 4 characters agree');
  await fill(page, '2 Type the size from the same page', '931.5');
  await sees(page, 'Is it the other disk?');
  await fill(page, '2 Type the size from the same page', '238.4');
  await sees(page, 'The page means GiB, whatever unit it writes: the sizes agree.');
  await click(page, 'Hold to cross the Line');
  expect(await page.$('.crossing-card')).not.toBeNull();
  await holdToCross(page);
  await stepIs(page, 'erase-disk', 'signed');
  await unfoldSteps(page);
  await sees(page, 'the installer showed …9c2e, 238.4');
  await click(page, 'Correct: Erase every partition on disk …9C2E, 256.0 GB');
  await fill(page, 'What was wrong?', 'It was the second try.');
  await click(page, 'Add the correction');
  await dialogGone(page);
  expect(await page.$('[data-step="erase-disk"][data-state="signed"]')).not.toBeNull();
  await signAll();
  expect(toldOfHabits).toBe(1);
  // Accounting for every file signs itself, on Hand over.
  expect(done).not.toContain('reconcile');
  await stepIs(page, 'reconcile', 'open');

  // Handing over waits until every file is accounted for.
  await openStage('hand-over');
  await sees(page, 'Not compared yet: Till reports.');
  await click(page, 'Read what came back of Till reports');
  await readFolder(page, join(scratch, 'back'), 'Record and compare');
  await sees(page, '2 files: all back, with the same content');
  for (const drive of ['B-07', 'B-09']) {
    await sees(page, `The backup on ${drive}: say what is written on it`);
    await click(page, `Note the backup on ${drive}`);
    await fill(page, 'Where it is kept', 'office safe');
    await click(page, 'Note it');
    await dialogGone(page);
  }
  // The owner is told what is not as before, thing by thing; then the place to sign is there.
  await sees(page, 'that the owner has to be told are not ticked');
  const things = (await page.$$('.tell-row')).length;
  expect(things).toBeGreaterThan(1);
  for (let told = 0; told < things; told += 1) {
    await page.waitForSelector('.tell-row input:not(:checked):not(:disabled)');
    await press(page, '.tell-row input:not(:checked)');
    await sees(page, `${told + 1} of ${things} told`);
  }
  await sees(page, 'Everything is accounted for');
  await fill(page, 'Name of the owner who signs', 'Ticket office');
  await click(page, 'The owner has signed');
  await sees(page, 'The record is closed');
  const sheet = await page.evaluate(
    async (address) => (await fetch(address)).headers.get('content-type'),
    `/api/v1/moves/${reference}/handover.pdf`,
  );
  expect(sheet).toBe('application/pdf');
  expect(
    await page.evaluate(
      async (address) => (await fetch(address)).headers.get('content-type'),
      `/api/v1/moves/${reference}/owner.pdf`,
    ),
  ).toBe('application/pdf');

  // Out as JSON, and into a fresh house that its first lead has just set up.
  const exported = await fetchJson(page, `/api/v1/moves/${reference}/export`);
  const file = join(scratch, `${reference}.json`);
  writeFileSync(file, JSON.stringify(exported));
  const second = await browser.createBrowserContext().then(newPage);
  await second.goto(other.setUpLink, { waitUntil: 'networkidle0' });
  await fill(second, 'Organisation', 'Ebbing Help Desk');
  await fill(second, 'Your name', 'Maud');
  await fill(second, 'Password[role="textbox"]', 'a long password');
  await fill(second, 'Password again', 'a long password');
  await click(second, 'Set up');
  await sees(second, 'Nothing waits');
  await second.goto(`${other.address}/fleet`, { waitUntil: 'networkidle0' });
  await click(second, 'Import a move');
  const input = await second.waitForSelector('.modal input[type="file"]');
  if (!input) throw new Error('no file input');
  await (input as Awaited<ReturnType<typeof second.waitForSelector<'input'>>>)?.uploadFile(file);
  await sees(second, 'The record is closed');
  // The same move; its log came along, marked, and this house's own first line says so.
  const here = ExportSchema.parse(exported);
  const there = ExportSchema.parse(await fetchJson(second, `/api/v1/moves/${reference}/export`));
  expect(there.move).toEqual(here.move);
  expect(there.events.slice(0, -1)).toEqual(here.events.map((event) => ({ ...event, importedBy: 'Maud' })));
  expect(there.events.at(-1)).toMatchObject({ by: 'Maud', kind: 'move-imported' });
  expect(await textOf(second, '.plate')).toBe(await textOf(page, '.plate'));
});
