import type { Page } from 'puppeteer-core';

/** So long may a busy machine take until something is there. */
export const busyMs = 60_000;

/** Clicks what is called so, as a person who reads labels would. */
export async function click(page: Page, name: string, role = 'button'): Promise<void> {
  try {
    await page.locator(`aria/${name}[role="${role}"]`).setTimeout(busyMs).click();
  } catch {
    throw new Error(`there was no ${role} “${name}” to click; the page says: ${await saidNow(page)}`);
  }
}

/** Clicks what a selector finds, as soon as it is there and still. */
export async function press(page: Page, selector: string): Promise<void> {
  await page.locator(selector).setTimeout(busyMs).click();
}

/** Writes into what is labelled so; a long text comes as from the clipboard. */
export async function fill(page: Page, label: string, text: string): Promise<void> {
  const field = page.locator(`aria/${label}`).setTimeout(busyMs);
  if (text.length < 90) {
    await field.fill(text);
    // What arrives meanwhile may draw the field anew, with its old value before what is typed.
    const again = await page.$eval(
      `aria/${label}`,
      (element, wanted) =>
        element instanceof HTMLInputElement && element.value !== wanted && element.value.endsWith(wanted),
      text,
    );
    if (again) await field.fill(text);
    return;
  }
  await field.click();
  await page.keyboard.sendCharacter(text);
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
      { timeout: busyMs },
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
