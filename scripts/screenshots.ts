import { mkdirSync } from 'node:fs';
import { resolve } from 'node:path';
import type { Page } from 'puppeteer-core';
import { openBrowser, signIn } from '../e2e/lib/browser';
import { ensureBuild } from './lib/build';
import { ensureChromium } from './lib/debian';
import { runCommand } from './lib/fail';
import { freePort } from './lib/port';
import { ensureDatabase, startCluster } from './lib/postgres';
import { databaseEnvironment, startServer } from './lib/server';

/** One picture of each main view, from the demo on a pinned day, for docs/screenshots. */
const views: readonly {
  readonly name: string;
  readonly path: string;
  readonly scrollTo?: string;
}[] = [
  { name: 'today', path: '/' },
  { name: 'fleet', path: '/fleet' },
  { name: 'fit', path: '/fleet?view=fit&by=device-count' },
  { name: 'survey', path: '/moves/MV-0027/survey', scrollTo: '.sheet .page-head' },
  { name: 'decide', path: '/moves/MV-0028/decide' },
  { name: 'facts', path: '/moves/MV-0009/survey' },
  { name: 'save', path: '/moves/MV-0023/save' },
  { name: 'prepare', path: '/moves/MV-0023/prepare' },
  { name: 'runbook', path: '/moves/MV-0023/cross' },
  { name: 'answers', path: '/moves/MV-0044/answers' },
  { name: 'hand-over', path: '/moves/MV-0021/hand-over' },
  { name: 'disk', path: '/moves/MV-0039/disk', scrollTo: '.flow' },
  { name: 'trouble', path: '/moves/MV-0041/trouble/stick-out/loader-prompt', scrollTo: '.sign-band' },
  { name: 'disk-bench', path: '/disks' },
  { name: 'drives', path: '/drives' },
  { name: 'media-shelf', path: '/shelf' },
  { name: 'catalogue', path: '/catalogue?kind=releases&id=corvel-10-business' },
  { name: 'house', path: '/house' },
  { name: 'record', path: '/moves/MV-0021/log' },
];

async function shoot(
  page: Page,
  address: string,
  { name, path, scrollTo }: (typeof views)[number],
): Promise<void> {
  await page.goto(`${address}${path}`, { waitUntil: 'networkidle0' });
  if (scrollTo !== undefined)
    await page.$eval(scrollTo, (element) => element.scrollIntoView({ block: 'center' }));
  await new Promise((done) => setTimeout(done, 400));
  await page.screenshot({ path: `docs/screenshots/${name}.png` });
  console.log(`docs/screenshots/${name}.png`);
}

await runCommand(async () => {
  process.env.ULVANE_CHROMIUM = ensureChromium();
  const cluster = await startCluster(resolve('.ulvane-test'), { forTests: true });
  try {
    ensureBuild();
    await ensureDatabase(cluster, 'screenshots', { fresh: true });
    const server = await startServer(
      {
        ...databaseEnvironment(cluster, 'screenshots'),
        ULVANE_PORT: String(await freePort()),
        ULVANE_NOW: '2026-03-02T10:00:00Z',
        ULVANE_SEED: 'demo',
        ULVANE_LOG: 'error',
      },
      'inherit',
    );
    const { browser, close } = await openBrowser();
    try {
      mkdirSync('docs/screenshots', { recursive: true });
      const page = await browser.newPage();
      await signIn(page, server.ready.ready, 'lead', server.ready.demo?.password ?? '');
      for (const view of views) await shoot(page, server.ready.ready, view);
    } finally {
      await close();
      await server.stop();
    }
    return 0;
  } finally {
    cluster.stop();
  }
});
