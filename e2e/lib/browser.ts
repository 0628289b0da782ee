import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import puppeteer, { type Browser, type BrowserContext, type Page } from 'puppeteer-core';
import { busyMs, click, fill } from './page';

/** Debian's Chromium, headless, with a profile of its own that goes with it. */
export async function openBrowser(): Promise<{
  readonly browser: Browser;
  readonly close: () => Promise<void>;
}> {
  const profile = mkdtempSync(join(tmpdir(), 'ulvane-browser-'));
  const browser = await puppeteer.launch({
    executablePath: process.env.ULVANE_CHROMIUM ?? '/usr/bin/chromium',
    headless: true,
    // As long as the longest wait of a test.
    protocolTimeout: 400_000,
    userDataDir: profile,
    defaultViewport: { width: 1280, height: 800 },
    args: [
      '--no-sandbox',
      '--disable-gpu',
      '--disable-quic',
      '--no-first-run',
      '--disable-background-networking',
      '--disable-component-update',
      '--disable-sync',
    ],
  });
  return {
    browser,
    close: async () => {
      await browser.close();
      rmSync(profile, { recursive: true, force: true, maxRetries: 5 });
    },
  };
}

/** A page whose waits leave a busy machine its time. */
export async function newPage(where: Browser | BrowserContext): Promise<Page> {
  const page = await where.newPage();
  page.setDefaultTimeout(busyMs);
  page.setDefaultNavigationTimeout(busyMs);
  // Dialogs are there at once: what fades is not what is tested.
  await page.emulateMediaFeatures([{ name: 'prefers-reduced-motion', value: 'reduce' }]);
  return page;
}

/** Signs in through the page. */
export async function signIn(page: Page, address: string, name: string, password: string): Promise<void> {
  await page.goto(address, { waitUntil: 'networkidle0' });
  await fill(page, 'Name', name);
  await fill(page, 'Password', password);
  await click(page, 'Sign in');
  await page.waitForSelector('.next-hands');
}
