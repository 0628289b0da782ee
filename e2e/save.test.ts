import { createHash } from 'node:crypto';
import { execFileSync } from 'node:child_process';
import {
  cpSync,
  mkdirSync,
  mkdtempSync,
  readFileSync,
  renameSync,
  rmSync,
  truncateSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { MoveListSchema, MoveViewSchema } from '@ulvane/contract';
import type { Browser, Page } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { newPage, openBrowser, signIn } from './lib/browser';
import { journeySecrets, openHouse, type RunningHouse } from './lib/house';
import { pickFolder, readFolder } from './lib/readFolder';
import { click, dialogGone, fetchJson, fill, pick, sees, textOf } from './lib/page';

let house: RunningHouse;
let browser: Browser;
let closeBrowser: () => Promise<void>;
let page: Page;
let folder: string;
/** A move of the demo that has a runbook and has not crossed the Line. */
let reference: string;
let dataSet: string;

const deep = Array.from({ length: 12 }, (_none, level) => `level ${level}`).join('/');
/** Deep paths, odd names, empty files, two equal files, and one over 64 MB. */
const files: Readonly<Record<string, string | Buffer>> = {
  'letter.txt': 'Dear Odd',
  'letters/2019/invoice #4 (paid).txt': 'paid',
  'letters/2019/line\nfeed.txt': 'odd name',
  'letters/naïve café — ümlaut.txt': 'umlaut',
  [`${deep}/bottom.txt`]: 'deep down',
  'empty.txt': '',
  'also empty.txt': '',
  'pictures/pier.bin': 'equal content',
  'pictures/pier again.bin': 'equal content',
  'film.bin': Buffer.alloc(66 * 1024 * 1024, 'harbour'),
};
const fileCount = Object.keys(files).length;

beforeAll(async () => {
  house = await openHouse('demo');
  ({ browser, close: closeBrowser } = await openBrowser());
  page = await newPage(browser);
  await signIn(page, house.address, 'technician', house.password);
  folder = mkdtempSync(join(tmpdir(), 'ulvane-files-'));
  for (const [path, content] of Object.entries(files)) {
    mkdirSync(dirname(join(folder, 'before', path)), { recursive: true });
    writeFileSync(join(folder, 'before', path), content);
  }
  const { rows } = MoveListSchema.parse(await fetchJson(page, '/api/v1/moves?pageSize=200'));
  for (const { reference: one } of rows) {
    const { move } = MoveViewSchema.parse(await fetchJson(page, `/api/v1/moves/${one}`));
    const line = move.plan?.runbook.lineIndex ?? null;
    const crossed =
      line === null || move.signatures.some(({ stepId }) => stepId === move.plan?.runbook.steps[line]?.id);
    // One is read in the browser, another is imported as a list.
    const [first, second] = move.dataSets.filter(({ id }) =>
      move.fileLists.every(({ dataSetId }) => dataSetId !== id),
    );
    if (crossed || !first || !second || move.destinations.length === 0) continue;
    reference = one;
    dataSet = first.name;
    return;
  }
  throw new Error('the demo has no move before its Line');
});
afterAll(async () => {
  await closeBrowser();
  await house.close();
  rmSync(folder, { recursive: true });
});

describe('a data set', () => {
  it('is read file by file in the browser, and its list agrees with the usual tool', async () => {
    await page.goto(`${house.address}/moves/${reference}/save`);
    await click(page, `Read every file of ${dataSet}`);
    await pickFolder(page, join(folder, 'before'));
    await sees(page, `Read: ${fileCount} of ${fileCount} files`);
    await click(page, 'Record the list');
    await dialogGone(page);
    await sees(page, `${fileCount} checksums`);

    await click(page, `${fileCount} checksums: list of files of ${dataSet}`);
    await sees(page, 'bottom.txt');
    const address = await page.$eval(
      '.modal a[href*="checksum-list"]',
      (link) => (link as HTMLAnchorElement).href,
    );
    const text = await page.evaluate(async (from) => (await fetch(from)).text(), address);
    writeFileSync(join(folder, 'before.sums'), text);
    expect(text.trim().split('\n')).toHaveLength(fileCount);
    // Silent when every line agrees; any other outcome throws.
    execFileSync('sha256sum', ['--check', '--strict', '--quiet', join(folder, 'before.sums')], {
      cwd: join(folder, 'before'),
    });
    await click(page, 'Close');
    await dialogGone(page);
  });

  it('says what a drive’s file system refuses of it, and keeps the other names', async () => {
    await sees(page, '1 name has a character that it does not take');
    await click(page, 'Save the list of 1 name');
    await sees(page, '1 name is another there');
  });

  it('has a copy that counts once compared; one bad file closes the gate until it is copied again', async () => {
    cpSync(join(folder, 'before'), join(folder, 'copy'), { recursive: true });
    const odd = join(folder, 'copy/letters/2019');
    renameSync(join(odd, 'line\nfeed.txt'), join(odd, 'line_feed.txt'));
    writeFileSync(join(folder, 'copy/letter.txt'), 'Dear 0dd');
    await click(page, `Compare file by file: ${dataSet} on B-07`);
    await readFolder(page, join(folder, 'copy'), 'Record and compare');
    await sees(page, '1 differ: copy them again, then compare');
    await page.goto(`${house.address}/moves/${reference}/cross`);
    await sees(page, '1 file differs, first letter.txt');

    await page.goto(`${house.address}/moves/${reference}/save`);
    cpSync(join(folder, 'before/letter.txt'), join(folder, 'copy/letter.txt'));
    await click(page, `Compare again: ${dataSet} on B-07`);
    await readFolder(page, join(folder, 'copy'), 'Record and compare');
    await sees(page, `compared, ${fileCount} files`);
    await page.goto(`${house.address}/moves/${reference}/cross`);
    await sees(page, 'The Line');
    expect(await textOf(page, 'body')).not.toContain('first letter.txt');
  });

  it('is compared with what came back, to the file; the hand-over waits until each difference is explained', async () => {
    cpSync(join(folder, 'before'), join(folder, 'after'), { recursive: true });
    rmSync(join(folder, 'after/letters/2019/invoice #4 (paid).txt'));
    writeFileSync(join(folder, 'after/letter.txt'), 'Dear Odd, edited');
    renameSync(join(folder, `after/${deep}/bottom.txt`), join(folder, `after/${deep}/ground.txt`));
    writeFileSync(join(folder, 'after/extra.txt'), 'made later');
    await page.goto(`${house.address}/moves/${reference}/hand-over`);
    await sees(page, `${dataSet}: its list of files from before has not been compared with what came back.`);
    await click(page, `Read what came back of ${dataSet}`);
    await readFolder(page, join(folder, 'after'), 'Record and compare');
    // Ten before: one gone, one changed, one renamed, seven the same; and one that was not there.
    await sees(page, '7 the same, 1 changed, 1 renamed, 1 missing, 1 added; 4 open');
    await sees(page, `${dataSet}: 4 files differ and nobody has said why`);
    const explain = async (kind: string, folderName: string, reason: string) => {
      await click(page, `Explain ${kind} in ${folderName}`);
      await fill(page, 'The reason, and who says so', reason);
      await click(page, 'Save the reason');
      await dialogGone(page);
    };
    await explain('missing', 'letters/2019', 'The owner has it on paper');
    await sees(page, '3 open');
    await explain('changed', 'the top folder', 'Edited by the owner today');
    await explain('renamed', deep, 'Renamed by the owner');
    await sees(page, `${dataSet}: 1 file differs and nobody has said why`);
    // The usual reason by its key, from the row in focus, once no other row waits.
    await page.waitForFunction(
      () => document.querySelectorAll('.difference-row[data-open="true"]').length === 1,
    );
    await page.focus('.difference-row[data-open="true"] .usual-reasons button');
    await page.keyboard.press('1');
    await sees(page, 'every difference explained');
    expect(await textOf(page, 'body')).not.toContain(`${dataSet}: 1 file differs`);
    const csv = await page.evaluate(
      async (from) => (await fetch(from)).text(),
      await page.$eval('a[href*="differences.csv"]', (link) => (link as HTMLAnchorElement).href),
    );
    expect(csv).toContain(
      'missing,letters/2019/invoice #4 (paid).txt,,4,,,,The owner has it on paper,technician',
    );
  });
});

describe('a list that was made elsewhere', () => {
  it('is refused by line, and taken once it is relative to its folder', async () => {
    const { move } = MoveViewSchema.parse(await fetchJson(page, `/api/v1/moves/${reference}`));
    const other =
      move.dataSets.find(({ id }) => !move.fileLists.some(({ dataSetId }) => dataSetId === id))?.name ?? '';
    const sum = readFileSync(join(folder, 'before.sums'), 'utf8').slice(0, 64);
    const bad = join(folder, 'bad.sums');
    writeFileSync(bad, `${sum}  ../climbs.txt\n${sum.slice(1)}  short.txt\n`);
    const good = join(folder, 'absolute.sums');
    writeFileSync(good, `${sum}  /srv/a/one.txt\r\n${sum}  /srv/a/two/three.txt\r\n`);
    await page.goto(`${house.address}/moves/${reference}/save`);
    await click(page, `Read every file of ${other}`);
    await click(page, 'Import a list', 'tab');
    const input = await page.waitForSelector('input[aria-label="List of files"]');
    if (!input) throw new Error('no place for a list');
    await input.uploadFile(bad);
    await sees(page, 'Line 1: the path climbs out of its folder');
    await sees(page, 'Line 2: a SHA-256 has 64 hexadecimal digits; this line begins with 63.');
    // A bag's papers come together, and tell on one another.
    const papers = { 'manifest-sha256.txt': `${sum}  data/one.txt\n`, 'bag-info.txt': 'Payload-Oxum: 5.1\n' };
    const tags = Object.entries(papers).map(
      ([name, text]) => `${createHash('sha256').update(text).digest('hex')}  ${name}\n`,
    );
    const bagWith = (info: string, name: string) => {
      const bag = join(folder, name);
      mkdirSync(bag);
      const all = { ...papers, 'bag-info.txt': info, 'tagmanifest-sha256.txt': tags.join('') };
      return Object.entries(all).map(([paper, text]) => {
        writeFileSync(join(bag, paper), text);
        return join(bag, paper);
      });
    };
    await input.uploadFile(...bagWith('Payload-Oxum: 5.1\n', 'bag'));
    await sees(page, 'The bag’s papers agree with one another');
    await input.uploadFile(...bagWith('Payload-Oxum: 5.9\n', 'changed bag'));
    await sees(page, 'bag-info.txt is not as tagmanifest-sha256.txt says');
    await sees(page, 'bag-info.txt says 9 files, the manifest has 1');
    await input.uploadFile(good);
    await sees(page, 'Every absolute path is below /srv/a');
    await click(page, 'Read it as relative to /srv/a');
    await sees(page, 'is a checksum list: 2 files, without sizes');
    await sees(page, '2 lines end in CR LF');
    await click(page, 'Record the list');
    await dialogGone(page);
    await sees(page, '2 checksums');
  });
});

describe('reading a folder', () => {
  it('can be paused, gone on with and stopped, and an empty folder is said to be empty', async () => {
    const recorded = async () =>
      MoveViewSchema.parse(await fetchJson(page, `/api/v1/moves/${reference}`)).move.fileLists;
    const before = await recorded();
    mkdirSync(join(folder, 'many'));
    // Long enough that a pause comes before the end, on a quick machine too; nothing but their beginning takes room.
    for (let index = 0; index < 3000; index += 1) {
      const file = join(folder, `many/${index}.txt`);
      writeFileSync(file, `file ${index}`);
      truncateSync(file, 300_000);
    }
    mkdirSync(join(folder, 'nothing'));
    await page.goto(`${house.address}/moves/${reference}/save`);
    await click(page, `Read again every file of ${dataSet}`);
    await pickFolder(page, join(folder, 'many'));
    await sees(page, 'of 3,000 files');
    await page.waitForFunction(() => {
      const button = [...document.querySelectorAll('button')].find((one) => one.textContent === 'Pause');
      button?.click();
      return button !== undefined;
    });
    await sees(page, 'Paused: ');
    // The drive goes away; once it is back, what was missed is read again.
    renameSync(join(folder, 'many'), join(folder, 'many, away'));
    await click(page, 'Go on');
    await sees(page, 'The drive seems to be gone');
    renameSync(join(folder, 'many, away'), join(folder, 'many'));
    // A file that changes after it was found is listed, not passed over.
    writeFileSync(join(folder, 'many/999.txt'), 'another text than before');
    await click(page, 'Go on');
    await sees(page, 'Read: 3,000 of 3,000 files');
    await sees(page, '1 without a checksum');
    await sees(page, '999.txt (');
    await click(page, 'Cancel');
    await dialogGone(page);
    await click(page, `Read again every file of ${dataSet}`);
    await pickFolder(page, join(folder, 'nothing'));
    await sees(page, 'There is no file in that folder: nothing was recorded.');
    await click(page, 'Cancel');
    await dialogGone(page);
    expect(await recorded()).toEqual(before);
  });
});

describe('the vault', () => {
  it('shows a secret on request and hides it again; the log says to whom', async () => {
    await page.goto(`${house.address}/moves/${reference}/prepare`);
    await click(page, 'Add a secret');
    await pick(page, 'What it is', 'licence-key');
    await fill(page, 'Name', 'Licence of the office suite');
    await fill(page, 'The secret', journeySecrets[0]);
    await click(page, 'Add');
    await dialogGone(page);
    await sees(page, 'never shown');
    expect(await textOf(page, 'body')).not.toContain(journeySecrets[0]);
    await click(page, 'Show Licence of the office suite');
    await sees(page, journeySecrets[0]);
    await sees(page, 'hidden again in');
    await click(page, 'Hide');
    await sees(page, 'shown once, last to technician');
    expect(await textOf(page, 'body')).not.toContain(journeySecrets[0]);
    await page.goto(`${house.address}/moves/${reference}/log`);
    await sees(page, 'Licence of the office suite: shown to technician.');
  });
});

describe('the inventory of drives', () => {
  it('takes a new drive, offers it on Save, and an installer stick never', async () => {
    await page.goto(`${house.address}/drives`);
    await sees(page, 'for installers, never a backup');
    await click(page, 'Add a drive');
    await fill(page, 'Name on its label', 'B-21');
    await fill(page, 'Serial[role="textbox"]', 'OSB-4T-21');
    await fill(page, 'Capacity as formatted', '3.9 TB');
    await click(page, 'Save');
    await dialogGone(page);
    await sees(page, 'OSB-4T-21');
    await page.goto(`${house.address}/moves/${reference}/save`);
    await click(page, 'From the inventory');
    await page.waitForSelector('.dropdown-menu.show');
    const offered = await textOf(page, '.dropdown-menu.show');
    expect(offered).toContain('B-21');
    expect(offered).not.toMatch(/S-0\d/);
    await page.evaluate(() =>
      [...document.querySelectorAll<HTMLElement>('.dropdown-menu.show button')]
        .find((one) => one.textContent?.includes('B-21'))
        ?.click(),
    );
    await sees(page, 'OSB-4T-21');
    await page.goto(`${house.address}/drives`);
    await page.waitForFunction(
      (wanted) =>
        [...document.querySelectorAll('tr')].some(
          (row) => row.textContent?.includes('B-21') && row.textContent.includes(wanted),
        ),
      {},
      reference,
    );
  });
});

describe('packing', () => {
  it('shows what goes where before it is done', async () => {
    await page.goto(`${house.address}/moves/${reference}/save`);
    await click(page, 'Pack');
    await sees(page, 'Free afterwards:');
    await click(page, 'Apply the packing');
    await dialogGone(page);
    const { move } = MoveViewSchema.parse(await fetchJson(page, `/api/v1/moves/${reference}`));
    for (const { id } of move.dataSets)
      expect(move.destinations.filter(({ takes }) => takes.includes(id)).length).toBeGreaterThan(0);
  });
});

describe('what is often forgotten', () => {
  it('is answered in one form by keys, survives a reload, and is saved in one go', async () => {
    await page.goto(`${house.address}/moves/${reference}/save`);
    const open = async () => (await page.$$('.answer-grid [data-state="open"]')).length;
    await page.waitForSelector('.answer-grid');
    const before = await open();
    expect(before).toBeGreaterThan(3);
    const first = await page.$eval('.answer-grid [data-state="open"]', (line) =>
      line.getAttribute('data-line'),
    );
    await page.focus(`[data-line="${first ?? ''}"] button`);
    // With Ctrl the key is the browser's, and no answer.
    await page.keyboard.down('Control');
    await page.keyboard.press('0');
    await page.keyboard.up('Control');
    expect(await open()).toBe(before);
    // No to this line and to the next, then ask the owner about the third: each key goes on.
    await page.keyboard.press('n');
    await page.keyboard.press('n');
    await page.keyboard.press('0');
    expect(await open()).toBe(before - 3);
    await sees(page, 'Save answers (3)');
    await page.reload();
    await sees(page, 'Save answers (3)');
    expect(await open()).toBe(before - 3);
    await page.focus(`[data-line="${first ?? ''}"] button`);
    const name = await page.$eval(`[data-line="${first ?? ''}"] > span`, (label) => label.textContent);
    await fill(page, `Who says so, or why: ${name}`, 'No games on a ticket desk');
    await click(page, 'Save answers (3)');
    await page.waitForFunction(() => document.body.innerText.includes('1 to ask the owner'));
    await page.reload();
    await page.waitForSelector('.answer-grid');
    expect(await open()).toBe(before - 3);
    await page.focus(`[data-line="${first ?? ''}"] button`);
    await sees(page, 'No games on a ticket desk');
  });
});
