import type { Page } from 'puppeteer-core';
import { click, dialogGone, sees } from './page';

/** Picks a folder in the open dialog, as the browser's own window would. */
export async function pickFolder(page: Page, path: string): Promise<void> {
  const input = await page.waitForSelector('input[webkitdirectory]');
  await input?.uploadFile(path);
}

/** Picks a folder, waits until every file is read, and records it by the button of that name. */
export async function readFolder(page: Page, path: string, action: string): Promise<void> {
  await pickFolder(page, path);
  await sees(page, 'Read: ');
  await click(page, action);
  await dialogGone(page);
}
