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

/** Opens every line of the runbook that has several steps, and every step on it. */
export async function unfoldSteps(page: Page): Promise<void> {
  await page.waitForSelector('.runbook');
  const openAll = (selector: string) =>
    page.$$eval(selector, (buttons) => {
      for (const button of buttons) (button as HTMLElement).click();
      return buttons.length;
    });
  // A fold that is opened may show what is folded again once something was signed.
  await openAll('.fold-row > button[aria-expanded="false"]');
  await page.waitForFunction(() => !document.querySelector('.fold-row > button[aria-expanded="false"]'));
  const lines = '.step-line .step-title button[aria-expanded="false"]';
  await openAll(lines);
  await page.waitForFunction((selector) => !document.querySelector(selector), {}, lines);
}

/** Waits until a step is in a state; a line that it is folded into is opened. */
export async function stepIs(page: Page, stepId: string, state: string): Promise<void> {
  await page.waitForFunction(
    (id, wanted) => {
      const row = document.querySelector(`[data-step="${id}"]`);
      if (!row)
        for (const fold of document.querySelectorAll<HTMLElement>(
          '.fold-row > button[aria-expanded="false"]',
        ))
          fold.click();
      return row?.getAttribute('data-state') === wanted;
    },
    {},
    stepId,
    state,
  );
}

/**
 * Signs the next step that can be signed, as somebody at the bench would: one that comes before its shortest time with
 * a reason. Gives its id; undefined when there is none, or when the next one is the Line.
 */
export async function signNext(page: Page): Promise<string | undefined> {
  await unfoldSteps(page);
  const id = await page.evaluate(() => {
    const row = [...document.querySelectorAll<HTMLElement>('.step')].find(
      (step) => ['open', 'waiting'].includes(step.dataset.state ?? '') && step.querySelector('[id^="sign-"]'),
    );
    row?.querySelector<HTMLElement>('[id^="sign-"]')?.click();
    return row?.dataset.step;
  });
  if (id === undefined) return undefined;
  const step = `[data-step="${id}"]`;
  await page.waitForFunction(
    (signed) => {
      const row = document.querySelector(`[data-step="${signed}"]`);
      return (
        row === null || row.getAttribute('data-state') === 'signed' || row.querySelector('form') !== null
      );
    },
    {},
    id,
  );
  if (await page.$(`${step} form`)) {
    await page.locator(`${step} form [aria-label^="Note on"]`).fill('Done before, on the bench.');
    await page.locator(`${step} form button[type="submit"]`).click();
  }
  // What is signed goes onto the line of its stage.
  await page.waitForFunction(
    (signed) => {
      const row = document.querySelector(`[data-step="${signed}"]`);
      return row === null || row.getAttribute('data-state') === 'signed';
    },
    {},
    id,
  );
  return id;
}

/** On Prepare: makes the runbook, or makes it again, and waits until it is there. */
export async function makeRunbook(page: Page): Promise<void> {
  await page.waitForFunction(() => {
    const button = [...document.querySelectorAll('button')].find((one) =>
      ['Make the runbook', 'Make it again'].includes(one.textContent),
    );
    button?.click();
    return button !== undefined;
  });
  await page.waitForFunction(() => location.pathname.endsWith('/cross'));
}
