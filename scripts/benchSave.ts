import { createHash } from 'node:crypto';
import { execFileSync } from 'node:child_process';
import {
  createReadStream,
  mkdirSync,
  mkdtempSync,
  openSync,
  readFileSync,
  readdirSync,
  rmSync,
  writeSync,
  closeSync,
} from 'node:fs';
import { request } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { MoveListSchema, MoveViewSchema } from '@ulvane/contract';
import type { Page } from 'puppeteer-core';
import { openBrowser, signIn } from '../e2e/lib/browser';
import { ensureBuild } from './lib/build';
import { freePort } from './lib/port';
import { startCluster } from './lib/postgres';
import { databaseEnvironment, startServer } from './lib/server';

const lineCount = 1_000_000;
const megabyte = 1_000_000;

/** Two gigabytes as an owner has them: a film, some archives, thousands of documents. */
function writeFolder(folder: string): number {
  let bytes = 0;
  const put = (path: string, size: number) => {
    const content = Buffer.alloc(Math.min(size, 4 * megabyte));
    for (let at = 0; at < content.length; at += 64) content.writeUInt32LE((at * 2654435761) >>> 0, at);
    const file = openSync(path, 'w');
    for (let left = size; left > 0; left -= content.length)
      writeSync(file, content, 0, Math.min(left, content.length));
    closeSync(file);
    bytes += size;
  };
  mkdirSync(join(folder, 'archives'), { recursive: true });
  put(join(folder, 'film.bin'), 500 * megabyte);
  for (let index = 0; index < 10; index += 1) put(join(folder, 'archives', `${index}.bin`), 60 * megabyte);
  for (let year = 0; year < 10; year += 1) {
    mkdirSync(join(folder, `documents ${year}`));
    for (let index = 0; index < 450; index += 1)
      put(join(folder, `documents ${year}`, `${index}.doc`), 200_000);
  }
  return bytes;
}

function secondsOf(work: () => void): number {
  const start = performance.now();
  work();
  return (performance.now() - start) / 1000;
}

/** A list of a million lines; `salt` changes every thousandth checksum, `renamed` every five-hundredth name. */
function writeList(path: string, salt: string, renamed: boolean): void {
  const file = openSync(path, 'w');
  let text = '';
  for (let row = 0; row < lineCount; row += 1) {
    const sha = createHash('sha256')
      .update(`${row}${row % 1000 === 7 ? salt : ''}`)
      .digest('hex');
    const name = `home/ada/Documents/project-${row % 977}/part-${row % 31}/report number ${row}${renamed && row % 500 === 3 ? ' renamed' : ''}.txt`;
    text += `${sha}  ${name}\n`;
    if (text.length > 4 * megabyte) {
      writeSync(file, text);
      text = '';
    }
  }
  writeSync(file, text);
  closeSync(file);
}

/** The largest resident memory of the browser's renderers while something runs, in MB. */
function watchMemory(): () => number {
  let max = 0;
  const timer = setInterval(() => {
    for (const pid of readdirSync('/proc').filter((name) => /^\d+$/.test(name)))
      try {
        if (!readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes('--type=renderer')) continue;
        const pages = Number(readFileSync(`/proc/${pid}/statm`, 'utf8').split(' ')[1]);
        max = Math.max(max, (pages * 4096) / megabyte);
      } catch {
        // It ended in between.
      }
  }, 50);
  return () => {
    clearInterval(timer);
    return max;
  };
}

async function hashing(page: Page, address: string, reference: string, folder: string): Promise<void> {
  const bytes = writeFolder(folder);
  const tool = () =>
    secondsOf(() =>
      execFileSync('sh', ['-c', 'find . -type f -print0 | xargs -0 sha256sum > /dev/null'], { cwd: folder }),
    );
  tool();
  await page.goto(`${address}/moves/${reference}/save`);
  await page.locator('button[aria-label^="Read every file of"]').click();
  const input = await page.waitForSelector('input[webkitdirectory]');
  const before = tool();
  // The walk through the folder is the browser's own, and comes first.
  await input?.uploadFile(folder);
  const start = performance.now();
  await page.waitForFunction(
    () => document.querySelector('[role=status]')?.textContent?.startsWith('Read:') === true,
    { timeout: 300_000 },
  );
  const here = (performance.now() - start) / 1000;
  const usual = Math.min(before, tool());
  const workers = await page.evaluate(() => Math.max(2, Math.min(8, navigator.hardwareConcurrency)));
  console.log(
    `hashing ${(bytes / 1e9).toFixed(2)} GB in Chromium, ${workers} workers: ${here.toFixed(1)} s; sha256sum on the same: ${usual.toFixed(1)} s; ${(usual / here).toFixed(2)} times as fast (aim 1.5)`,
  );
}

async function comparing(page: Page, address: string, before: string, after: string): Promise<void> {
  await page.goto(`${address}/drives`);
  await page.waitForSelector('input[type=file]');
  const [first, second] = await page.$$('input[type=file]');
  await (first as Awaited<ReturnType<typeof page.$<'input'>>>)?.uploadFile(before);
  await (second as Awaited<ReturnType<typeof page.$<'input'>>>)?.uploadFile(after);
  // As text: the page has none of the names that the compiler gives functions.
  await page.evaluate(`
    window.seen = { longest: 0, last: performance.now() };
    requestAnimationFrame(function frame(now) {
      seen.longest = Math.max(seen.longest, now - seen.last);
      seen.last = now;
      requestAnimationFrame(frame);
    });
  `);
  const memory = watchMemory();
  const start = performance.now();
  await page.locator('aria/Compare[role="button"]').click();
  await page.waitForFunction(() => document.body.innerText.includes('the same'), {
    timeout: 120_000,
    polling: 50,
  });
  const seconds = (performance.now() - start) / 1000;
  const longest = Number(await page.evaluate('seen.longest'));
  const counts = await page.$eval('section [role=status] strong', (element) => element.textContent);
  console.log(
    `comparing two lists of ${lineCount.toLocaleString('en')} lines, read and compared in workers: ${seconds.toFixed(1)} s (aim 3), at most ${memory().toFixed(0)} MB in the renderer (aim 600), longest frame ${longest.toFixed(0)} ms; ${counts ?? ''}`,
  );
}

async function importing(page: Page, address: string, reference: string, list: string): Promise<void> {
  const json = `${list}.jsonl`;
  const file = openSync(json, 'w');
  let text = '';
  for (const line of readFileSync(list, 'utf8').split('\n')) {
    if (line === '') continue;
    text += `${JSON.stringify({ path: line.slice(66), sizeBytes: 12, sha256: line.slice(0, 64), modifiedMs: null, trouble: null })}\n`;
    if (text.length > 4 * megabyte) {
      writeSync(file, text);
      text = '';
    }
  }
  writeSync(file, text);
  closeSync(file);
  const cookie = (await page.cookies()).map(({ name, value }) => `${name}=${value}`).join('; ');
  const view = MoveViewSchema.parse(
    await page.evaluate(
      async (path) => (await fetch(path)).json() as Promise<unknown>,
      `/api/v1/moves/${reference}`,
    ),
  );
  const query = new URLSearchParams({
    version: String(view.version),
    dataSetId: view.move.dataSets[0]?.id ?? '',
    role: 'before',
    source: 'hashed',
  });
  const start = performance.now();
  const answer = await new Promise<string>((resolve, reject) => {
    const sent = request(
      `${address}/api/v1/moves/${reference}/file-lists?${query.toString()}`,
      { method: 'POST', headers: { cookie, 'content-type': 'application/x-ndjson' } },
      (response) => {
        let body = '';
        response.on('data', (chunk: Buffer) => (body += chunk.toString()));
        response.on('end', () => resolve(body));
      },
    );
    sent.on('error', reject);
    createReadStream(json).pipe(sent);
  });
  const seconds = (performance.now() - start) / 1000;
  const { move } = MoveViewSchema.parse(JSON.parse(answer));
  const head = move.fileLists.find(({ role }) => role === 'before');
  console.log(
    `import of ${head?.fileCount.toLocaleString('en') ?? '0'} files into the database: ${seconds.toFixed(1)} s (aim 60)`,
  );
  const times: number[] = [];
  for (let turn = 0; turn < 300; turn += 1) {
    const at = performance.now();
    const response = await fetch(
      `${address}/api/v1/moves/${reference}/file-lists/${head?.id ?? ''}/files?after=${(turn * 7919 * 131) % lineCount}`,
      { headers: { cookie } },
    );
    await response.text();
    times.push(performance.now() - at);
  }
  times.sort((a, b) => a - b);
  console.log(
    `paging through it, 200 files a page at 300 places: p50 ${times[150]?.toFixed(0) ?? ''} ms, p99 ${times[296]?.toFixed(0) ?? ''} ms (aim 100)`,
  );
}

/** Real files: hashed in the browser, compared by the million, stored and paged through. */
export async function benchSave(): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), 'ulvane-bench-save-'));
  const cluster = await startCluster(join(folder, 'cluster'), { forTests: true });
  ensureBuild();
  const server = await startServer(
    {
      ...databaseEnvironment(cluster, 'postgres'),
      ULVANE_PORT: String(await freePort()),
      ULVANE_SEED: 'demo',
      ULVANE_LOG: 'error',
      ULVANE_VAULT_KEY_FILE: join(folder, 'vault.key'),
    },
    'inherit',
  );
  const { browser, close } = await openBrowser();
  try {
    const address = server.ready.ready;
    const page = await browser.newPage();
    await signIn(page, address, 'technician', server.ready.demo?.password ?? '');
    const { rows } = MoveListSchema.parse(
      await page.evaluate(
        async () => (await fetch('/api/v1/moves?stage=prepare')).json() as Promise<unknown>,
      ),
    );
    const reference = rows[0]?.reference ?? 'MV-0009';
    await hashing(page, address, reference, join(folder, 'files'));
    rmSync(join(folder, 'files'), { recursive: true });
    writeList(join(folder, 'before.sums'), '', false);
    writeList(join(folder, 'after.sums'), 'salt', true);
    await comparing(page, address, join(folder, 'before.sums'), join(folder, 'after.sums'));
    await importing(page, address, reference, join(folder, 'before.sums'));
  } finally {
    await close();
    await server.stop();
    await cluster.stop();
    rmSync(folder, { recursive: true, force: true });
  }
}
