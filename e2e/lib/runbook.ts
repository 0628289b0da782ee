import type { Page } from 'puppeteer-core';

/** Holds the button at the Line until the crossing is recorded. */
export async function holdToCross(page: Page): Promise<void> {
  const button = await page.waitForSelector('.hold-button:not(:disabled)');
  await button?.scrollIntoView();
  const box = await button?.boundingBox();
  if (!box) throw new Error('there is no button to hold');
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.waitForFunction(() => document.querySelector('.crossing-card') === null);
  await page.mouse.up();
}

/**
 * Signs the next step that can be signed, as somebody at the bench would: one that comes before its shortest time with
 * a reason. Gives its id; undefined when there is none, or when the next one is the Line.
 */
export async function signNext(page: Page): Promise<string | undefined> {
  const id = await page.evaluate(() => {
    const row = [...document.querySelectorAll<HTMLElement>('.step')].find(
      (step) => ['open', 'waiting'].includes(step.dataset.state ?? '') && step.querySelector('[id^="sign-"]'),
    );
    row?.querySelector<HTMLElement>('[id^="sign-"]')?.click();
    return row?.dataset.step;
  });
  if (id === undefined) return undefined;
  const step = `[data-step="${id}"]`;
  await page.waitForSelector(`${step}[data-state="signed"], ${step} form`);
  if (await page.$(`${step} form`)) {
    await page.locator(`${step} form [aria-label^="Note on"]`).fill('Done before, on the bench.');
    await page.locator(`${step} form button[type="submit"]`).click();
  }
  await page.waitForSelector(`${step}[data-state="signed"]`);
  return id;
}
