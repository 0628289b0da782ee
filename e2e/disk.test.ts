import {
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  truncateSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { MoveListSchema, MoveViewSchema, type MoveView } from '@ulvane/contract';
import { encodeTable, tableFromSurvey, WritesFileSchema, type SectorSource } from '@ulvane/core/disk';
import type { Disk } from '@ulvane/core/survey';
import type { Browser, ElementHandle, Page } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import {
  imageSource,
  complaintsOf,
  makeSystem,
  makeTable,
  partitionsByPartx,
  patchBytes,
  put,
  readOut,
  sliceOut,
  writeFiles,
  writeInto,
} from '../packages/core/test/fixtures/diskTools';
import { newPage, openBrowser, signIn } from './lib/browser';
import { openHouse, type RunningHouse } from './lib/house';
import { click, fetchJson, fill, pick, sees, textOf } from './lib/page';

let house: RunningHouse;
let browser: Browser;
let closeBrowser: () => Promise<void>;
let page: Page;
let folder: string;
const at = (name: string) => join(folder, name);

beforeAll(async () => {
  house = await openHouse('demo');
  ({ browser, close: closeBrowser } = await openBrowser());
  page = await newPage(browser);
  await signIn(page, house.address, 'lead', house.password);
  folder = mkdtempSync(join(tmpdir(), 'ulvane-disk-'));
  writeFiles(at('files'), Buffer.alloc(40_000, 'harbour'));
});
afterAll(async () => {
  await closeBrowser();
  await house.close();
  rmSync(folder, { recursive: true });
});

const mib = 2048;

/** 12 MiB: an ext4 of a type that GPT does not know, and a logical one that runs to the last sector. */
function writeImage(path: string): void {
  makeTable(path, 12 * 1024 ** 2, 'msdos', [
    ['primary', 'ext4', mib, 6 * mib - 1],
    ['extended', '', 6 * mib, 12 * mib - 1],
    ['logical', 'ext4', 7 * mib, 12 * mib - 1],
  ]);
  // The type of the first entry: one that GPT has no counterpart for.
  patchBytes(path, 446 + 4, [0x99]);
  for (const [start, label, keeps] of [
    [1, 'FIRST', 5],
    [7, 'SECOND', 4],
  ] as const) {
    makeSystem('ext4', at('part.img'), label, at('files'), 5 * 1024 ** 2, keeps * 1024 ** 2);
    put(path, at('part.img'), start * mib, 512);
  }
}

async function upload(label: string, ...paths: readonly string[]): Promise<void> {
  const input = (await page.waitForSelector(
    `input[aria-label="${label}"]`,
  )) as ElementHandle<HTMLInputElement> | null;
  await input?.uploadFile(...paths);
}

/** What a link saves, as a file that the browser has put down. */
async function saved(name: string, within = 'body'): Promise<Buffer> {
  const downloads = at('downloads');
  rmSync(downloads, { recursive: true, force: true });
  mkdirSync(downloads);
  const session = await page.createCDPSession();
  await session.send('Browser.setDownloadBehavior', { behavior: 'allow', downloadPath: downloads });
  await page.locator(`${within} ::-p-aria(${name}[role="link"])`).setTimeout(60_000).click();
  for (let tries = 0; tries < 200; tries += 1) {
    const [file] = readdirSync(downloads).filter((one) => !one.endsWith('.crdownload'));
    if (file !== undefined) return readFileSync(join(downloads, file));
    await new Promise((done) => setTimeout(done, 50));
  }
  throw new Error(`nothing was saved by “${name}”`);
}

describe('the bench, without a move', () => {
  it('reads an image, shows its tape, and names everything that is in the way at once', async () => {
    writeImage(at('disk.img'));
    await page.goto(`${house.address}/disks`);
    await upload('Image of a disk', at('disk.img'));
    await sees(page, 'MBR, 24,576 sectors of 512 bytes');
    await sees(page, 'ext4 “FIRST”');
    await sees(page, 'ext4 “SECOND” (logical)');
    await sees(page, '4 obstacles:');
    expect(await textOf(page, '.tape title')).toContain('2 partitions');
  });

  it('resolves them one by one, and the result is what the system reads', async () => {
    await click(
      page,
      'Make them ordinary entries; the extended partition goes, the contents stay where they are.',
    );
    await sees(page, '3 obstacles:');
    await click(page, 'Give it the type system files.');
    await click(
      page,
      'Let partition 5 (SECOND) end 33 sectors (16.5 KiB) earlier: its file system does not reach there.',
    );
    await click(page, 'Do without: no system is started from this disk.');
    await sees(page, '67 sectors are written in 5 places');
    // What brings the old table back is saved first; until then nothing else is offered.
    await sees(page, 'What is written is offered once the capsule is saved');
    expect(await page.evaluate(() => document.body.innerText)).not.toContain('Save the converted image');
    writeFileSync(at('capsule.json'), await saved('Save the undo capsule'));
    writeFileSync(at('converted.img'), await saved('Save the converted image'));
    expect(complaintsOf(at('converted.img'))).toEqual([]);
    expect(partitionsByPartx(at('converted.img'), 512)).toEqual([
      [1, mib, 5 * mib],
      [5, 7 * mib, 5 * mib - 33],
    ]);
    const slice = sliceOut(imageSource(at('converted.img'), 512), 7 * mib, 5 * mib - 33, at('slice.img'));
    expect(readOut('ext4', slice, 'note.txt').toString()).toBe('Tide tables, pier five\n');
    // The table beside the flow has the same places.
    await page.evaluate(() => document.querySelectorAll('details').forEach((one) => (one.open = true)));
    await sees(page, `${7 * mib} – ${12 * mib - 34}`);
  });

  it('saves the list of sectors, and a remedy can be taken back', async () => {
    const list = WritesFileSchema.parse(JSON.parse((await saved('Save the list of sectors')).toString()));
    writeFileSync(at('by-list.img'), readFileSync(at('disk.img')));
    writeInto(
      at('by-list.img'),
      list.writes.map(({ startLba, data, about }) => ({
        startLba,
        about,
        bytes: Buffer.from(data, 'base64'),
      })),
      512,
    );
    expect(Buffer.compare(readFileSync(at('by-list.img')), readFileSync(at('converted.img')))).toBe(0);
    await click(page, 'Withdraw: Give it the type system files.');
    await sees(page, 'which has no counterpart in GPT');
  });

  it('undoes to the very bytes, and refuses a capsule that does not fit', async () => {
    // The image that was never converted has nothing to be undone; another disk is refused.
    await upload('Undo capsule', at('capsule.json'));
    await sees(page, 'nothing is left to do');
    const other = readFileSync(at('converted.img'));
    other[0] = (other[0] ?? 0) ^ 0xff;
    writeFileSync(at('other.img'), other);
    await upload('Image of a disk', at('other.img'));
    await sees(page, 'GPT, 24,576 sectors');
    await upload('Undo capsule', at('capsule.json'));
    await sees(page, 'holds neither what the file expects nor what it writes');
    await upload('Image of a disk', at('disk.img'));
    await sees(page, 'MBR, 24,576 sectors');
    await upload('Image of a disk', at('converted.img'));
    await sees(page, 'GPT, 24,576 sectors');
    await upload('Undo capsule', at('capsule.json'));
    await sees(page, 'Undone: 5 places hold their old sectors again.');
    expect(Buffer.compare(await saved('Save the restored image'), readFileSync(at('disk.img')))).toBe(0);
    writeFileSync(at('no.json'), 'no capsule');
    await upload('Undo capsule', at('no.json'));
    await sees(page, 'no.json is not well-formed JSON at line 1, column 1.');
  });

  it('writes a missing copy of the table anew, and the system has nothing against it', async () => {
    makeTable(at('gpt.img'), 8 * 1024 ** 2, 'gpt', [['HARBOUR', 'ext4', mib, 3 * mib - 1]]);
    const broken = readFileSync(at('gpt.img'));
    broken.fill(0, broken.length - 512);
    writeFileSync(at('broken.img'), broken);
    expect(complaintsOf(at('broken.img'))).not.toEqual([]);
    await upload('Image of a disk', at('broken.img'));
    await sees(page, 'The backup GPT is missing or damaged');
    await click(page, 'The backup counts: write the primary anew');
    await sees(page, 'The backup GPT is not whole, so nothing is written from it');
    await click(page, 'The primary counts: write the backup anew');
    await sees(page, 'no partition touched');
    // The conversion beside it offers a capsule of its own.
    const fix = '[aria-labelledby="fix-table-title"]';
    await saved('Save the undo capsule', fix);
    writeFileSync(at('fixed.img'), await saved('Save the fixed image', fix));
    expect(complaintsOf(at('fixed.img'))).toEqual([]);
    expect(Buffer.compare(readFileSync(at('fixed.img')), readFileSync(at('gpt.img')))).toBe(0);
  });

  it('takes the other sector size when the image says so, and a disk without a table as the volume that it is', async () => {
    // A backup header of 4,096-byte sectors in the last one, and its entries before it: all that is needed.
    const source: SectorSource = {
      sectorSizeBytes: 4096,
      sectorCount: 2048,
      read: (_lba, count) => new Uint8Array(count * 4096),
    };
    const writes = encodeTable(
      {
        scheme: 'gpt',
        sectorSizeBytes: 4096,
        sectorCount: 2048,
        diskId: '00000000-0000-4000-8000-0000000000FF',
        partitions: [
          {
            number: 1,
            kind: 'entry',
            startLba: 256,
            sectorCount: 512,
            typeCode: 'EBD0A0A2-B9E5-4433-87C0-68B6B72699C7',
            guid: '00000000-0000-4000-8000-000000000001',
            name: 'PIER',
          },
        ],
        firstUsableLba: 6,
        lastUsableLba: 2042,
        findings: [],
      },
      source,
    );
    if (!writes.ok) throw new Error(writes.problems[0]?.sentence);
    writeFileSync(at('large.img'), Buffer.alloc(2048 * 4096));
    writeInto(at('large.img'), writes.value, 4096);
    await upload('Image of a disk', at('large.img'));
    await sees(page, 'The image says that its sectors have 4,096 bytes: it was read so.');
    await sees(page, 'GPT, 2,048 sectors of 4,096 bytes');
    makeSystem('ext4', at('volume.img'), 'WHOLE', at('files'), 5 * 1024 ** 2);
    await upload('Image of a disk', at('volume.img'));
    await sees(page, 'The whole disk is one volume: ext4 “WHOLE”');
    // The way on: the whole disk can be laid out.
    await page.waitForSelector('.flow');
  });

  it('says what is wrong with what is no disk, and reads on', async () => {
    writeFileSync(at('noise.img'), Buffer.alloc(100_000, 'tide'));
    await upload('Image of a disk', at('noise.img'));
    await sees(page, 'no 0x55AA at its end');
    writeFileSync(at('short.img'), 'tide');
    await upload('Image of a disk', at('short.img'));
    await sees(page, 'The disk has no whole sector');
  });

  it('calculates size boxes: 90 GiB and the release’s own partitions, and what a shrink dialog asks for', async () => {
    await pick(page, 'Release', 'corvel-10-business');
    // 92,160 + 260 + 16 + 780 MiB, as the release makes them.
    await sees(page, 'Type 93216');
    await fill(page, 'The partition has', '238 GiB');
    await fill(page, 'New size', '120 GiB');
    // 118 × 1,024.
    await sees(page, 'Type 120832 to remove');
    await fill(page, 'The system shall get', 'much');
    await sees(page, '“much” is not a size');
  });
});

async function moveWhere(test: (view: MoveView) => boolean): Promise<MoveView> {
  const { rows } = MoveListSchema.parse(await fetchJson(page, '/api/v1/moves?pageSize=200'));
  for (const { reference } of rows) {
    const view = MoveViewSchema.parse(await fetchJson(page, `/api/v1/moves/${reference}`));
    if (test(view)) return view;
  }
  throw new Error('the demo has no such move');
}

const valueOf = (label: string) =>
  page.$eval(`input[aria-label="${label}"]`, (input) => (input as HTMLInputElement).value);

describe('the layout of a move’s disk', () => {
  let reference: string;

  it('is asked for in GB or GiB, and figure, table and runbook say the same', async () => {
    const { move } = await moveWhere(
      (view) => view.move.diskPlan?.work.kind === 'layout' && view.move.handover.signedOff === null,
    );
    reference = move.reference;
    await page.goto(`${house.address}/moves/${reference}/disk`);
    await sees(page, 'take away: 61440 MiB');
    expect(await valueOf('Room wanted, GiB')).toBe('60');
    await fill(page, 'Room wanted, GB', '70');
    // 70 × 1000³ bytes are 66,757.2 MiB; whole MiB are taken away.
    await sees(page, 'take away: 66758 MiB');
    // 70 × 1000³ ÷ 1024³.
    expect(await valueOf('Room wanted, GiB')).toBe('65.19');
    const room = await page.evaluate(() => {
      for (const details of document.querySelectorAll('details')) details.open = true;
      return (
        [...document.querySelectorAll('tr')].find((row) => row.textContent?.startsWith('afterroom'))
          ?.innerText ?? ''
      );
    });
    const [, first = '0', last = '0'] = /(\d+) – (\d+)/.exec(room) ?? [];
    expect((Number(last) - Number(first) + 1) / mib).toBe(66_758);
    await sees(page, 'type 66758 (MiB to remove)');
    await click(page, 'Add to the runbook');
    await sees(page, 'In the plan.');
    await page.goto(`${house.address}/moves/${reference}/prepare`);
    await click(page, 'Make it again');
    await sees(page, 'type 66758 (MiB to remove)');
  });

  it('is read with the arrow keys: operations sideways, partitions up and down', async () => {
    await page.goto(`${house.address}/moves/${reference}/disk`);
    await sees(page, 'take away:');
    await page.focus('.flow-window');
    await sees(page, 'Before the first operation: EFI from');
    await page.keyboard.press('ArrowRight');
    await sees(page, 'After 1, Shrink SYSTEM: EFI from');
    await page.keyboard.press('ArrowDown');
    await page.keyboard.press('ArrowDown');
    await sees(page, 'After 1, Shrink SYSTEM: SYSTEM from');
    await page.keyboard.press('ArrowLeft');
    await sees(page, 'Before the first operation: SYSTEM from');
  });

  it('says why a size is not possible, and takes the nearest that is', async () => {
    // Nearly the whole disk, though most of it is in use.
    const { move } = MoveViewSchema.parse(await fetchJson(page, `/api/v1/moves/${reference}`));
    const [disk] = move.facts.disks?.value ?? [];
    const bytes = disk ? disk.sectorCount * disk.sectorBytes : 0;
    await fill(page, 'Room wanted, GiB', String(Math.floor((bytes / 1024 ** 3) * 0.96)));
    await sees(page, 'in one run cannot be had; the most is');
    const [, max = ''] = /the most is ([\d.]+ GB \([\d.]+ GiB\))/.exec(await textOf(page, '.notice')) ?? [];
    await click(page, `Take ${max}`);
    await sees(page, 'take away:');
    await page.waitForFunction(() => document.querySelector('.notice') === null);
  });

  it('shows another disk as one that is not to be touched, and gives the reason when a guard is closed', async () => {
    const { move } = await moveWhere(
      ({ move: one }) =>
        (one.facts.disks?.value.length ?? 0) > 1 &&
        one.preparation.diskMarks === null &&
        one.decision !== null,
    );
    await page.goto(`${house.address}/moves/${move.reference}/disk`);
    await sees(page, 'do not touch');
    await click(page, 'Layout', 'radio');
    await sees(page, 'possible: ');
    await fill(page, 'Room wanted, GiB', '1');
    await sees(page, 'Read the serial number and the size from the disk’s label, and enter both on Prepare.');
  });
});

/** A boot record that says how far its NTFS reaches: all that a reader asks before it looks inside. */
function bootRecord(sectors: number): Uint8Array {
  const bytes = new Uint8Array(512);
  bytes.set([0xeb, 0x52, 0x90, ...Buffer.from('NTFS    ')]);
  const view = new DataView(bytes.buffer);
  view.setUint16(11, 512, true);
  view.setUint8(13, 8);
  view.setBigUint64(40, BigInt(sectors - 1), true);
  view.setUint16(510, 0xaa55, true);
  return bytes;
}

describe('the conversion of a move’s disk', () => {
  it('reads an image of the whole disk by slices, keeps the capsule, and opens its gate', async () => {
    const { move } = await moveWhere(
      ({ move: one }) => one.diskPlan?.work.kind === 'convert' && one.plan !== null,
    );
    const disk = move.facts.disks?.value.find(({ name }) => name === move.diskPlan?.disk) as Disk;
    const blank: SectorSource = {
      sectorSizeBytes: 512,
      sectorCount: disk.sectorCount,
      read: (_lba, count) => new Uint8Array(count * 512),
    };
    const writes = encodeTable(tableFromSurvey(disk), blank);
    if (!writes.ok) throw new Error(writes.problems[0]?.sentence);
    writeFileSync(at('whole.img'), '');
    truncateSync(at('whole.img'), disk.sectorCount * 512);
    // File systems that end 200 MiB before their partitions do.
    const records = disk.partitions.map(({ startLba, sectorCount }) => ({
      startLba,
      about: 'boot record',
      bytes: bootRecord(sectorCount - 200 * mib),
    }));
    writeInto(at('whole.img'), [...writes.value, ...records], 512);

    await page.goto(`${house.address}/moves/${move.reference}/cross`);
    await sees(page, 'Convert disk');
    await page.waitForSelector('[data-gate="capsule-kept"][data-state="closed"]');
    await page.goto(`${house.address}/moves/${move.reference}/disk`);
    await sees(page, 'In the plan');
    await upload('Image of a disk', at('whole.img'));
    await sees(page, 'sectors are written in 5 places');
    await click(page, 'Save the capsule with the move');
    await sees(page, 'Undo capsules saved');
    const after = MoveViewSchema.parse(await fetchJson(page, `/api/v1/moves/${move.reference}`)).move;
    expect(after.capsules).toHaveLength(1);
    expect(after.capsules[0]?.undo.writes.map(({ startLba }) => startLba)).toContain(0);
    await page.goto(`${house.address}/moves/${move.reference}/cross`);
    await page.waitForSelector('[data-gate="capsule-kept"][data-state="green"]');
    // The three that cannot be forgotten stand in their order.
    const steps = after.plan?.runbook.steps.map(({ kind }) => kind) ?? [];
    expect(steps.slice(steps.indexOf('convert-scheme'), steps.indexOf('convert-scheme') + 3)).toEqual([
      'convert-scheme',
      'boot-files',
      'switch-firmware',
    ]);
  });

  it('is made from the first and the last MiB alone, where nothing has to be shrunk', async () => {
    const { move } = await moveWhere(({ move: one }) => one.capsules.length > 0);
    const whole = imageSource(at('whole.img'), 512);
    writeFileSync(at('head.bin'), whole.read(0, mib));
    writeFileSync(at('tail.bin'), whole.read(whole.sectorCount - mib, mib));
    await page.goto(`${house.address}/moves/${move.reference}/disk`);
    await upload('Image of a disk', at('head.bin'), at('tail.bin'));
    await sees(page, 'head.bin and tail.bin');
    // What the partition holds lies between the two, so nobody can say whether its end is free.
    await sees(page, 'is not recognised');
    for (;;) {
      const button = await page.$('.chosen button');
      if (!button) break;
      await button.click();
    }
    await click(page, 'Do without: no system is started from this disk.');
    await sees(page, 'Save the head');
    const tail = await saved('Save the tail');
    // 32 sectors of entries and the header, which says that it belongs there.
    expect(tail.length).toBe(33 * 512);
    expect(tail.subarray(32 * 512, 32 * 512 + 8).toString()).toBe('EFI PART');
    expect(tail.readBigUInt64LE(32 * 512 + 24)).toBe(BigInt(whole.sectorCount - 1));
    expect((await saved('Save the head')).length).toBe(34 * 512);
  });
});
