import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Client } from 'pg';
import { openBrowser, signIn } from '../e2e/lib/browser';
import { ensureBuild } from './lib/build';
import { freePort } from './lib/port';
import { startCluster } from './lib/postgres';
import { databaseEnvironment, startServer } from './lib/server';

const deviceCount = 10_000;
const rowsAtOnce = 500;
const secondsOfLoad = 20;
const requestsASecond = 20;

/** What people look at in a list: pages, words, filters, other orders, what releases take. */
const looks = [
  '/api/v1/moves?page=1&pageSize=100',
  '/api/v1/moves?page=57&pageSize=100',
  '/api/v1/moves?search=LIST-77&pageSize=100',
  '/api/v1/moves?search=kestle+pier&pageSize=100&sort=serial',
  '/api/v1/moves?site=Pier+3&sort=device&order=desc&pageSize=100',
  '/api/v1/moves?verdict=fixable&page=9&pageSize=100',
  '/api/v1/moves?sort=dueOn&pageSize=100',
  '/api/v1/moves?fit=yes&page=30&pageSize=100',
];

const statements = [
  ['first page', `SELECT id, reference, device FROM move ORDER BY length(reference), reference LIMIT 100`],
  [
    'search',
    `SELECT id, reference, device FROM move WHERE search ILIKE '%LIST-77%' ORDER BY length(reference), reference LIMIT 100`,
  ],
  [
    'by site',
    `SELECT id, reference, device FROM move WHERE site = 'Pier 3' ORDER BY device DESC NULLS LAST, reference LIMIT 100`,
  ],
  [
    'by verdict',
    `SELECT id, reference, device FROM move WHERE verdict = 'fixable' ORDER BY length(reference), reference LIMIT 100`,
  ],
  ['serial known', `SELECT id FROM move WHERE lower(serial) = ANY('{list-77,list-9001}')`],
  ['to be reassessed', `SELECT id FROM move WHERE assessed_for <> 'x' LIMIT 100`],
] as const;

/** Ten thousand devices in a database of their own: taking them in, reassessing, listing under load, and the page. */
export async function benchFleet(): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), 'ulvane-bench-'));
  const cluster = await startCluster(folder, { forTests: true });
  ensureBuild();
  const server = await startServer(
    {
      ...databaseEnvironment(cluster, 'postgres'),
      ULVANE_PORT: String(await freePort()),
      ULVANE_SEED: 'demo',
      ULVANE_LOG: 'error',
    },
    'inherit',
  );
  try {
    const address = server.ready.ready;
    const cookie = await cookieOf(address, server.ready.demo?.password ?? '');
    const post = async (path: string, body: unknown) => {
      const response = await fetch(`${address}/api/v1${path}`, {
        method: 'POST',
        headers: { 'content-type': 'application/json', cookie },
        body: JSON.stringify(body),
      });
      if (!response.ok) throw new Error(`${path}: ${response.status} ${await response.text()}`);
    };
    await importFleet(post);
    await explain(cluster.url('postgres'));
    await load(address, cookie);
    await scroll(address, server.ready.demo?.password ?? '');
  } finally {
    await server.stop();
    await cluster.stop();
    rmSync(folder, { recursive: true, force: true });
  }
}

async function cookieOf(address: string, password: string): Promise<string> {
  const response = await fetch(`${address}/api/v1/session`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ name: 'lead', password }),
  });
  // The session’s cookie, and that of a known browser beside it.
  return response.headers
    .getSetCookie()
    .map((cookie) => cookie.split(';')[0] ?? '')
    .join('; ');
}

async function importFleet(post: (path: string, body: unknown) => Promise<void>): Promise<void> {
  const mapping = {
    Serial: 'serial',
    Make: 'maker',
    Model: 'model',
    Year: 'year',
    RAM: 'memoryBytes',
    OS: 'presentRelease',
    Site: 'site',
  };
  const started = performance.now();
  for (let from = 0; from < deviceCount; from += rowsAtOnce) {
    const rows = Array.from({ length: rowsAtOnce }, (_unused, index) => {
      const row = from + index;
      const [Make, Model] =
        [
          ['Kestle', 'Sill'],
          ['Draymoor', '410'],
          ['Ostley', 'Brack 15'],
        ][row % 3] ?? [];
      return {
        row: row + 2,
        cells: {
          Serial: `LIST-${row}`,
          Make,
          Model,
          Year: '2018',
          RAM: row % 4 === 0 ? '4' : '8',
          OS: 'Corvel 9 Business',
          Site: `Pier ${row % 5}`,
        },
      };
    });
    await post('/fleet/rows', { dryRun: false, mapping, rows });
  }
  const seconds = (performance.now() - started) / 1000;
  console.log(
    `list taken in: ${deviceCount} rows in ${seconds.toFixed(1)} s, ${Math.round(deviceCount / seconds)} a second`,
  );
}

async function explain(url: string): Promise<void> {
  const client = new Client({ connectionString: url });
  await client.connect();
  await client.query('ANALYZE move');
  for (const [name, statement] of statements) {
    const { rows } = await client.query<{ 'QUERY PLAN': string }>(
      `EXPLAIN (ANALYZE, TIMING OFF, COSTS OFF, SUMMARY ON) ${statement}`,
    );
    console.log(`-- ${name}\n${rows.map((row) => `   ${row['QUERY PLAN']}`).join('\n')}`);
  }
  await client.end();
}

/** Requests at an even pace, sent whether the one before has been answered or not. */
async function load(address: string, cookie: string): Promise<void> {
  const headers = { cookie };
  for (const path of looks) await (await fetch(`${address}${path}`, { headers })).arrayBuffer();
  const latencies: number[] = [];
  let failed = 0;
  const one = async (path: string) => {
    const started = performance.now();
    const response = await fetch(`${address}${path}`, { headers });
    await response.arrayBuffer();
    latencies.push(performance.now() - started);
    if (!response.ok) failed += 1;
  };
  const started = performance.now();
  const requests: Promise<void>[] = [];
  for (let sent = 0; sent < secondsOfLoad * requestsASecond; sent += 1) {
    const due = started + (sent * 1000) / requestsASecond;
    await new Promise((next) => setTimeout(next, Math.max(0, due - performance.now())));
    requests.push(one(looks[sent % looks.length] ?? ''));
  }
  await Promise.all(requests);
  latencies.sort((a, b) => a - b);
  const at = (share: number) => (latencies[Math.ceil(latencies.length * share) - 1] ?? 0).toFixed(0);
  console.log(
    `list API with ${deviceCount} devices at ${requestsASecond} requests a second: ${latencies.length} requests, ${failed} failed, p50 ${at(0.5)} ms, p99 ${at(0.99)} ms (aim under 100), longest ${at(1)} ms`,
  );
}

/** How soon the list is there, and how long the longest frame is while it is scrolled from end to end. */
async function scroll(address: string, password: string): Promise<void> {
  const { browser, close } = await openBrowser();
  try {
    const page = await browser.newPage();
    await signIn(page, address, 'lead', password);
    await page.goto(`${address}/house`, { waitUntil: 'networkidle0' });
    const shown = await page.evaluate(async () => {
      const link = [...document.querySelectorAll('a')].find((one) => one.textContent === 'Fleet');
      const started = performance.now();
      link?.click();
      while (!document.querySelector('.window tbody tr')) await new Promise((next) => setTimeout(next, 5));
      return performance.now() - started;
    });
    const frames = await page.evaluate(async () => {
      const view = document.querySelector('.window');
      if (!view) return [];
      const lengths: number[] = [];
      let last = performance.now();
      for (let step = 0; step < 240; step += 1) {
        view.scrollTop = (view.scrollHeight * step) / 240;
        await new Promise((next) => requestAnimationFrame(next));
        const now = performance.now();
        lengths.push(now - last);
        last = now;
      }
      return lengths.sort((a, b) => a - b);
    });
    const at = (share: number) => (frames[Math.floor(frames.length * share)] ?? 0).toFixed(0);
    console.log(
      `Fleet with ${deviceCount} devices in Chromium: first rows ${shown.toFixed(0)} ms after the click (aim 1000), frames while scrolling over all of it p50 ${at(0.5)} ms, p95 ${at(0.95)} ms, longest ${(frames.at(-1) ?? 0).toFixed(0)} ms`,
    );
  } finally {
    await close();
  }
}
