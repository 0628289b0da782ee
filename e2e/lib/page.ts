import { setTimeout as pause } from 'node:timers/promises';
import type { ElementHandle, Page } from 'puppeteer-core';

/** So long may a busy machine take until something is there. */
export const busyMs = 60_000;

/** So often a page is read for words: at each frame it would cost the page its time. */
const lookMs = 100;

/** Clicks what is called so, as a person who reads labels would. */
export async function click(page: Page, name: string, role = 'button'): Promise<void> {
  try {
    await hit(() => named(page, name, role));
  } catch {
    throw new Error(`there was no ${role} “${name}” to click; the page says: ${await saidNow(page)}`);
  }
}

/** Clicks what a selector finds, as soon as it is there and still. */
export async function press(page: Page, selector: string): Promise<void> {
  await hit(() => page.locator(selector).setTimeout(busyMs).waitHandle());
}

/**
 * What has this role and this accessible name, as soon as it is there. A button or a link is looked for by its text
 * first: the browser’s own tree of names, which is asked otherwise, is built anew for the whole page each time.
 */
async function named(page: Page, name: string, role: string): Promise<ElementHandle> {
  const until = performance.now() + busyMs;
  // Some say the role with the name: that tells a field from a dialog of the same name.
  const [, bare = name] = /^(.*)\[role="[^"]*"\]$/.exec(name) ?? [];
  for (let tries = 1; performance.now() < until; tries += 1) {
    const found = await page.evaluateHandle(byText, bare, role).catch(() => undefined);
    const element = found?.asElement();
    if (element) return element as ElementHandle;
    if (tries % 3 === 0) {
      const wanted = role === 'field' || name.includes('[role=') ? '' : `[role="${role}"]`;
      const slow = await page.$(`aria/${name}${wanted}`).catch(() => null);
      if (slow) return slow;
    }
    await pause(lookMs);
  }
  throw new Error(`there is no ${role} “${name}”`);
}

/** Runs in the page. */
function byText(name: string, role: string): Element | null {
  const kinds: Record<string, string> = { button: 'button', link: 'a[href]' };
  const plain = (text: string | null) => (text ?? '').replace(/\s+/g, ' ').trim();
  if (role === 'field') {
    const label = [...document.querySelectorAll('label')].find(
      (one) =>
        plain(one.textContent) === name &&
        one.control?.checkVisibility() &&
        one.closest('[aria-hidden="true"], [inert]') === null,
    );
    return label?.control?.matches('[aria-label], [aria-labelledby]') ? null : (label?.control ?? null);
  }
  const selector = kinds[role];
  if (selector === undefined) return null;
  return (
    [...document.querySelectorAll(selector)].find(
      (one) =>
        plain(one.getAttribute('aria-label') ?? one.textContent) === name &&
        !one.hasAttribute('aria-labelledby') &&
        !one.hasAttribute('role') &&
        one.checkVisibility() &&
        one.closest('[aria-hidden="true"], [inert]') === null &&
        one.querySelector('[aria-hidden="true"], [aria-label]') === null,
    ) ?? null
  );
}

/**
 * Clicks, and once more where the click missed: what arrives on a busy machine may push the page down, or draw the
 * target anew, between aiming and clicking, and a person would then click again.
 */
async function hit(find: () => Promise<ElementHandle>): Promise<void> {
  for (let tries = 0; tries < 5; tries += 1) {
    const target = await find();
    const struck = await target.evaluateHandle((element) => {
      const seen = { clicks: 0 };
      element.addEventListener('click', () => (seen.clicks += 1), { capture: true, once: true });
      return seen;
    });
    const clicked = await target
      .asLocator()
      .setTimeout(busyMs / 4)
      .click()
      .then(
        () => true,
        () => false,
      );
    // Where the page went elsewhere with the click, or drew the target anew under it, nobody is left to say that it missed.
    const missed = await target
      .evaluate((element, { clicks }) => clicks === 0 && element.isConnected, struck)
      .catch(() => false);
    if (clicked && !missed) return;
    if (!clicked && (await struck.evaluate(({ clicks }) => clicks > 0).catch(() => true))) return;
  }
  throw new Error('five clicks missed');
}

/**
 * Writes into what is labelled so, and again where the page drew the field anew meanwhile; a long text comes as from
 * the clipboard.
 */
export async function fill(page: Page, label: string, text: string): Promise<void> {
  const find = () => named(page, label, 'field');
  if (text.length >= 90) {
    await (await find()).asLocator().setTimeout(busyMs).click();
    await page.keyboard.sendCharacter(text);
    return;
  }
  const written = async () =>
    (await find()).evaluate((element) =>
      element instanceof HTMLInputElement || element instanceof HTMLTextAreaElement ? element.value : null,
    );
  for (let tries = 0; tries < 5; tries += 1) {
    const before = await written();
    const done = await (
      await find()
    )
      .asLocator()
      .setTimeout(busyMs / 4)
      .fill(text)
      .then(
        () => true,
        () => false,
      );
    const after = await written();
    // A field may write it in its own way; one that has the old value, or the old one in front, was drawn anew.
    if (done && (after === null || after === text || (after !== before && !after.endsWith(text)))) return;
    // A window behind others draws nothing, and a field that is not drawn is waited for in vain.
    if (!done) await page.bringToFront();
  }
  throw new Error(`“${label}” does not keep “${text}”; the page says: ${await saidNow(page)}`);
}

/** Picks an option of a select by its value. */
export async function pick(page: Page, label: string, value: string): Promise<void> {
  const select = await page.waitForSelector(`aria/${label}[role="combobox"]`);
  await select?.select(value);
}

/** What stands before the page says it first: an open dialog, else the page. */
async function saidNow(page: Page): Promise<string> {
  const dialogs = await page.$$eval('.modal', (found) =>
    found.map((one) => (one instanceof HTMLElement ? one.innerText : '')),
  );
  return [...dialogs, await textOf(page, 'body')].join('\n').slice(0, 4000);
}

/** Waits until the page says this somewhere; a busy machine may take its time. */
export async function sees(page: Page, text: string): Promise<void> {
  try {
    await page.waitForFunction(
      (wanted) => document.body.innerText.replace(/\s+/g, ' ').includes(wanted),
      { timeout: busyMs, polling: lookMs },
      text,
    );
  } catch {
    throw new Error(`the page never said “${text}”; it says: ${await saidNow(page)}`);
  }
}

export async function textOf(page: Page, selector: string): Promise<string> {
  return page.$eval(selector, (element) =>
    element instanceof HTMLElement ? element.innerText : (element.textContent ?? ''),
  );
}

/** Waits until no dialog is open. */
export async function dialogGone(page: Page): Promise<void> {
  await page.waitForFunction(() => document.querySelector('.modal') === null);
}

/** Drops a file on the page's drop place, as a hand with a mouse would. */
export async function dropFile(page: Page, name: string, text: string): Promise<void> {
  await page.waitForSelector('.drop');
  await page.evaluate(
    (fileName, content) => {
      const transfer = new DataTransfer();
      transfer.items.add(new File([content], fileName, { type: 'application/json' }));
      const place = document.querySelector('.drop');
      for (const kind of ['dragenter', 'dragover', 'drop'])
        place?.dispatchEvent(
          new DragEvent(kind, { dataTransfer: transfer, bubbles: true, cancelable: true }),
        );
    },
    name,
    text,
  );
}

/** Fetches from the page's own origin, with its cookie. */
export async function fetchJson(page: Page, path: string): Promise<unknown> {
  return page.evaluate(async (address) => (await fetch(address)).json(), path);
}

/** Opens every route on Decide, so that all options are there. */
export async function openRoutes(page: Page): Promise<void> {
  await page.waitForSelector('.route-fold');
  await page.$$eval('details.route-fold:not([open]) > summary', (summaries) =>
    summaries.forEach((summary) => summary.click()),
  );
  await page.waitForFunction(
    () =>
      document.querySelectorAll('.route-fold').length ===
      document.querySelectorAll('.route-fold .route-options').length,
  );
}

/** Opens a fold of the page by the words that it begins with. */
export async function openFold(page: Page, words: string): Promise<void> {
  await page.waitForFunction(
    (wanted) => {
      const fold = [...document.querySelectorAll<HTMLDetailsElement>('details.fold')].find((one) =>
        one.querySelector('summary')?.textContent?.startsWith(wanted),
      );
      if (fold && !fold.open) fold.querySelector('summary')?.click();
      return fold?.open === true;
    },
    {},
    words,
  );
}

/** Opens an option on Decide by its title and presses its button. */
export async function chooseCandidate(page: Page, title: string): Promise<void> {
  await openRoutes(page);
  await page.waitForFunction(
    (wanted) => {
      const card = [...document.querySelectorAll<HTMLDetailsElement>('details.candidate')].find(
        (one) => one.querySelector('.candidate-title')?.textContent === wanted,
      );
      if (card && !card.open) card.querySelector('summary')?.click();
      const choose = card?.querySelector<HTMLElement>('.inside button');
      choose?.click();
      return choose !== undefined && choose !== null;
    },
    {},
    title,
  );
}
