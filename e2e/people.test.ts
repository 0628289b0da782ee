import type { Browser, Page } from 'puppeteer-core';
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';
import { newPage, openBrowser, signIn } from './lib/browser';
import { signNext, stepIs, unfoldSteps } from './lib/runbook';
import { openHouse, type RunningHouse } from './lib/house';
import { click, dialogGone, fill, pick, sees, textOf } from './lib/page';

let house: RunningHouse;
let browser: Browser;
let closeBrowser: () => Promise<void>;

beforeAll(async () => {
  house = await openHouse('demo');
  ({ browser, close: closeBrowser } = await openBrowser());
});
afterAll(async () => {
  await closeBrowser();
  await house.close();
});

/** Whoever is not needed any more goes home: an open page follows everything that the others do. */
afterEach(async () => {
  const own = browser.browserContexts().filter((one) => one !== browser.defaultBrowserContext());
  await Promise.all(own.map((one) => one.close()));
});

/** Somebody at a computer of their own. */
async function somebody(name: 'technician' | 'lead' | 'observer'): Promise<Page> {
  const page = await browser.createBrowserContext().then(newPage);
  await signIn(page, house.address, name, house.password);
  return page;
}

async function open(page: Page, path: string): Promise<void> {
  await page.goto(`${house.address}${path}`, { waitUntil: 'networkidle0' });
}

/** A move of the demo with a runbook, above the Line, with a gate closed. */
async function plannedMove(page: Page): Promise<string> {
  const rows = await page.evaluate(
    async () =>
      (
        (await (await fetch('/api/v1/moves?stage=save&pageSize=200')).json()) as {
          rows: { reference: string }[];
        }
      ).rows,
  );
  for (const { reference } of rows) {
    const planned = await page.evaluate(
      async (address) =>
        (
          (await (await fetch(address)).json()) as {
            move: { plan: { runbook: { lineIndex: number | null } } | null };
          }
        ).move.plan?.runbook.lineIndex != null,
      `/api/v1/moves/${reference}`,
    );
    if (planned) return reference;
  }
  throw new Error('the demo has no planned move');
}

describe('roles', () => {
  it('an observer sees everything and finds nothing to change', async () => {
    const page = await somebody('observer');
    const reference = await plannedMove(page);
    await sees(page, 'Next up');
    for (const [stage, text] of [
      ['survey', 'known'],
      ['decide', 'Advice'],
      ['save', 'Destinations'],
      ['prepare', 'Ready check'],
      ['cross', 'The Line'],
      ['hand-over', 'The owner signs'],
    ] as const) {
      await open(page, `/moves/${reference}/${stage}`);
      await sees(page, text);
      const names = await page.$$eval('main button, main input, main select', (elements) =>
        elements
          .filter((element) => !('disabled' in element && element.disabled))
          // What only opens a line of the runbook changes nothing.
          .filter((element) => !element.closest('.step-title, .fold-row, .troubles'))
          .map((element) => element.getAttribute('aria-label') ?? element.textContent ?? ''),
      );
      expect([
        stage,
        names.filter((name) =>
          /sign:|start:|note|add|change|remove|choose|overrule|keep|make|take back|drop|pick/i.test(name),
        ),
      ]).toEqual([stage, []]);
    }
    await open(page, '/house');
    await sees(page, 'Only leads change house rules');
    expect(await page.$('main button[type="submit"]')).toBeNull();
  });

  it('a technician cannot overrule a gate; a lead can, with a reason that everyone sees', async () => {
    const technician = await somebody('technician');
    const reference = await plannedMove(technician);
    await open(technician, `/moves/${reference}/cross`);
    await sees(technician, 'Steps above are signed:');
    expect(await technician.$$('aria/Overrule: Steps above are signed')).toHaveLength(0);
    const lead = await somebody('lead');
    await open(lead, `/moves/${reference}/cross`);
    await click(lead, 'Overrule: Steps above are signed');
    await fill(lead, 'Reason, in a sentence', 'short');
    await click(lead, 'Overrule the gate');
    await sees(lead, 'Write the reason in a sentence');
    await fill(
      lead,
      'Reason, in a sentence',
      'The owner keeps a copy of everything at home and has shown it.',
    );
    await click(lead, 'Overrule the gate');
    await dialogGone(lead);
    expect(
      await lead.$eval('[data-gate="steps-above-signed"]', (tag) => tag.getAttribute('data-state')),
    ).toBe('overruled');
    await open(technician, `/moves/${reference}/hand-over`);
    await sees(technician, 'overruled by lead');
  });

  it('a lead changes house rules, and a plan made before is stale', async () => {
    const lead = await somebody('lead');
    const reference = await plannedMove(lead);
    await open(lead, '/house');
    await lead.locator('#account-local').click();
    await click(lead, 'Save house rules');
    // The form has nothing to save any more.
    await lead.waitForFunction(() => document.querySelector('.before-keeping') === null);
    await open(lead, `/moves/${reference}/cross`);
    await sees(lead, 'The plan is stale.');
    await sees(lead, 'First account: local account');
  });
});

describe('two people at one move', () => {
  it('sign the same step: one succeeds, the other is told by whom and loses nothing', async () => {
    const [one, two] = [await somebody('technician'), await somebody('lead')];
    const reference = await plannedMove(one);
    await open(one, `/moves/${reference}/cross`);
    await open(two, `/moves/${reference}/cross`);
    await unfoldSteps(two);
    const stepId = await one.$eval('.step[data-state="open"]', (row) => row.getAttribute('data-step') ?? '');
    // The other has written a note by then, as at a step that is signed before its time.
    const step = `[data-step="${stepId}"]`;
    await two.$eval(`${step} [aria-label^="with minutes"]`, (button) => (button as HTMLElement).click());
    await two.locator(`${step} [aria-label^="Note on"]`).fill('Seen to the end.');
    expect(await signNext(one)).toBe(stepId);
    // The other page still shows the step as open.
    await two.locator(`${step} form button[type="submit"]`).click();
    await sees(two, 'was signed by technician at 10:00');
    await sees(two, 'Your change was not saved');
    await stepIs(two, stepId, 'signed');
    await unfoldSteps(two);
    expect(await textOf(two, `[data-step="${stepId}"] .by`)).toContain('technician');
  });
});

describe('a stale plan', () => {
  it('shows what differs, keeps what is signed, and is made again', async () => {
    const page = await somebody('technician');
    const reference = await plannedMove(page);
    await open(page, `/moves/${reference}/cross`);
    if (await page.$('aria/The plan is stale')) {
      await click(page, 'Make the plan again');
      await page.waitForFunction(() => !document.body.innerText.includes('The plan is stale'));
    }
    await unfoldSteps(page);
    const signedBefore = await page.$$eval('.step[data-state="signed"]', (rows) =>
      rows.map((row) => row.getAttribute('data-step')),
    );
    expect(signedBefore.length).toBeGreaterThan(0);
    await open(page, `/moves/${reference}/survey`);
    await click(page, 'Change: Disk encryption');
    const now = await page.$eval('.modal select', (select) => (select as HTMLSelectElement).value);
    await pick(page, 'Disk encryption', now === 'on' ? 'off' : 'on');
    await click(page, 'Save');
    await dialogGone(page);
    await open(page, `/moves/${reference}/cross`);
    await sees(page, 'The plan is stale.');
    await sees(page, now === 'on' ? 'No longer: Suspend disk encryption.' : 'New: Suspend disk encryption.');
    expect(await page.$eval('[data-gate="plan-current"]', (tag) => tag.getAttribute('data-state'))).toBe(
      'closed',
    );
    await click(page, 'Make the plan again');
    await page.waitForSelector('[data-gate="plan-current"][data-state="green"]');
    await unfoldSteps(page);
    const signedAfter = await page.$$eval('.step[data-state="signed"]', (rows) =>
      rows.map((row) => row.getAttribute('data-step')),
    );
    for (const id of signedBefore)
      if (await page.$(`[data-step="${id ?? ''}"]`)) expect(signedAfter).toContain(id);
  });

  it('lets a signature be taken back with a reason, and keeps the history', async () => {
    const page = await somebody('technician');
    const reference = await plannedMove(page);
    await open(page, `/moves/${reference}/cross`);
    await unfoldSteps(page);
    const row = '.step[data-state="signed"]';
    const id = await page.$eval(row, (step) => step.getAttribute('data-step') ?? '');
    await page.$eval(`[data-step="${id}"] .side .btn-plain`, (button) => (button as HTMLElement).click());
    await fill(page, 'Why?', 'Signed the wrong line.');
    await page.locator('.modal button[type="submit"]').click();
    await dialogGone(page);
    await stepIs(page, id, 'open');
    await open(page, `/moves/${reference}/log`);
    await sees(page, 'signature withdrawn: Signed the wrong line.');
  });

  it('keep what they are typing through what the other does, and through a reload', async () => {
    const [one, two] = [await somebody('technician'), await somebody('lead')];
    const reference = await plannedMove(one);
    await open(one, `/moves/${reference}/hand-over`);
    const points = 'aria/Open points, one a line';
    await one.locator(points).fill('The second screen is still to come.');
    const typed = () => one.$eval(points, (field) => (field as HTMLTextAreaElement).value);
    // Another part of the move is changed, and this page hears of it.
    await two.evaluate(async (address) => {
      const { version, move } = (await (await fetch(address)).json()) as {
        version: number;
        move: { site: string; dueOn: string };
      };
      await fetch(`${address}/identity`, {
        method: 'PUT',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ version, owner: 'Renamed meanwhile', site: move.site, dueOn: move.dueOn }),
      });
    }, `/api/v1/moves/${reference}`);
    // Coming back to a window that was looked at a moment ago asks nothing yet: it is come back to until it does.
    await one.waitForFunction(
      () => {
        window.dispatchEvent(new Event('focus'));
        return document.body.innerText.includes('Renamed meanwhile');
      },
      { polling: 500 },
    );
    expect(await typed()).toBe('The second screen is still to come.');
    for (let reload = 0; reload < 2; reload += 1) {
      await one.reload({ waitUntil: 'networkidle0' });
      await one.waitForFunction(() =>
        [...document.querySelectorAll('textarea')].some(({ value }) => value.startsWith('The second screen')),
      );
    }
    // Saved, it is no draft any more.
    await one.evaluate(() =>
      [...document.querySelectorAll('form')]
        .find((form) => form.querySelector('textarea') !== null)
        ?.requestSubmit(),
    );
    await one.waitForFunction(
      async (address) =>
        ((await (await fetch(address)).json()) as { move: { handover: { openPoints: string[] } } }).move
          .handover.openPoints.length === 1,
      {},
      `/api/v1/moves/${reference}`,
    );
    await one.waitForFunction(() => Object.keys(sessionStorage).every((key) => !key.includes('hand-over')));
  });
});
