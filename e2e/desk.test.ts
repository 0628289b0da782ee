import type { Browser, Page } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { newPage, openBrowser, signIn } from './lib/browser';
import { openHouse, type RunningHouse } from './lib/house';
import { makeRunbook, unfoldSteps } from './lib/runbook';
import { click, dialogGone, fill, openFold, openRoutes, pick, sees, textOf } from './lib/page';

let house: RunningHouse;
let browser: Browser;
let closeBrowser: () => Promise<void>;
let page: Page;

beforeAll(async () => {
  house = await openHouse('demo');
  ({ browser, close: closeBrowser } = await openBrowser());
  page = await newPage(browser);
  page.on('dialog', (dialog) => void dialog.accept());
  await signIn(page, house.address, 'lead', house.password);
});
afterAll(async () => {
  await closeBrowser();
  await house.close();
});

async function open(path: string): Promise<void> {
  await page.goto(`${house.address}${path}`, { waitUntil: 'networkidle0' });
}

/** A move of the demo that has a route and nothing saved yet. */
async function decidedMove(): Promise<string> {
  const rows = await page.evaluate(
    async () =>
      (
        (await (await fetch('/api/v1/moves?stage=save&pageSize=200')).json()) as {
          rows: { reference: string }[];
        }
      ).rows,
  );
  for (const { reference } of rows) {
    const empty = await page.evaluate(
      async (address) =>
        ((await (await fetch(address)).json()) as { move: { dataSets: unknown[] } }).move.dataSets.length ===
        0,
      `/api/v1/moves/${reference}`,
    );
    if (empty) return reference;
  }
  throw new Error('the demo has no move that waits for its data sets');
}

describe('Save', () => {
  it('takes folders from the survey, lets one be changed, and refuses what is no size', async () => {
    const reference = await decidedMove();
    await open(`/moves/${reference}/save`);
    await sees(page, 'No data set yet');
    await page.locator('::-p-xpath(//button[contains(., "from the survey")])').click();
    await sees(page, 'Is on');
    const [first = ''] = await page.$$eval('tbody th[scope="row"]', (cells) =>
      cells.map((cell) => (cell as HTMLElement).innerText.split('\n')[0] ?? ''),
    );
    await click(page, `Change ${first}`);
    await fill(page, 'Size[role="textbox"]', 'very much');
    await click(page, 'Save');
    await sees(page, '“very much” is not a size');
    await fill(page, 'Size[role="textbox"]', '12.5 GB');
    await fill(page, 'Files[role="textbox"]', 'some');
    await click(page, 'Save');
    await sees(page, 'Enter how many files there are');
    await fill(page, 'Files[role="textbox"]', '12500');
    await click(page, 'Save');
    await dialogGone(page);
    await sees(page, '12.5 GB (11.6 GiB)');
    await sees(page, '12,500');
  });

  it('keeps what is typed into a dialog through a reload, and forgets it when it is cancelled', async () => {
    const there = page.url();
    const size = () => page.$eval('aria/Size[role="textbox"]', (field) => (field as HTMLInputElement).value);
    await click(page, 'Add a data set');
    await fill(page, 'Size[role="textbox"]', '77 GB');
    await page.goto(there);
    await sees(page, 'Is on');
    await click(page, 'Add a data set');
    await page.waitForSelector('aria/Size[role="textbox"]');
    expect(await size()).toBe('77 GB');
    await click(page, 'Cancel');
    await dialogGone(page);
    await click(page, 'Add a data set');
    await page.waitForSelector('aria/Size[role="textbox"]');
    expect(await size()).toBe('');
    await click(page, 'Cancel');
    await dialogGone(page);
  });

  it('adds what is often forgotten, with the way to get it out', async () => {
    await page.waitForSelector('[data-line="bookmarks"] button');
    await page.focus('[data-line="bookmarks"] button');
    await sees(page, 'Export them to one file from the browser’s own page.');
    await click(page, 'Browser bookmarks: Yes');
    await fill(page, 'Size[role="textbox"]', '180 kB');
    await fill(page, 'Files[role="textbox"]', '1');
    await click(page, 'Save');
    await dialogGone(page);
    await page.waitForSelector('[data-line="bookmarks"][data-state="listed"]');
    expect(await page.$('[data-line="bookmarks"] button:not(:disabled)')).toBeNull();
  });

  it('says by how much a drive is too small, in both units, and which file its system refuses', async () => {
    await click(page, 'Add a destination');
    await fill(page, 'Name on its label', 'B-01');
    await fill(page, 'Capacity as formatted', '4 GB');
    await fill(page, 'Free now', '5 GB');
    await pick(page, 'File system', 'fat32');
    await click(page, 'Save');
    await sees(page, 'B-01 has more bytes free than it has.');
    await fill(page, 'Free now', '3.9 GB');
    await click(page, 'Save');
    await dialogGone(page);
    await sees(page, 'Does not fit:');
    expect(await textOf(page, 'main')).toMatch(/\d+\.\d GB \(\d+\.\d GiB\) too much/);
  });

  it('says what failed where nobody waited for it', async () => {
    await page.evaluate(() => {
      const reason = new Error('a fault of the page');
      window.dispatchEvent(
        new PromiseRejectionEvent('unhandledrejection', { promise: Promise.resolve(), reason }),
      );
    });
    await sees(page, 'This page has a fault and could not do that.');
    await click(page, 'Close');
    await page.waitForFunction(() => !document.body.innerText.includes('This page has a fault'));
  });

  it('states a copy by hand with who and when, and asks before a destination with copies goes', async () => {
    await page.$eval('input[id^="stated-b-01-"]', (box) => (box as HTMLElement).click());
    await sees(page, 'lead, 2 Mar 2026, 10:00 UTC');
    await click(page, 'Remove B-01');
    await sees(page, 'No destination yet');
    expect(await textOf(page, 'main')).not.toContain('lead, 2 Mar 2026, 10:00 UTC');
  });

  it('saves what was typed although somebody else changed another part meanwhile', async () => {
    const reference = await decidedMove();
    await open(`/moves/${reference}/save`);
    await click(page, 'Add a destination');
    await fill(page, 'Name on its label', 'B-02');
    await fill(page, 'Capacity as formatted', '1 TB');
    await fill(page, 'Free now', '900 GB');
    // A colleague names the owner meanwhile: that hinders nobody. Then the same list is changed.
    await page.evaluate(async (address) => {
      const { version, move } = (await (await fetch(address)).json()) as {
        version: number;
        move: { site: string; dueOn: string };
      };
      await fetch(`${address}/identity`, {
        method: 'PUT',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ version, owner: 'Somebody else', site: move.site, dueOn: move.dueOn }),
      });
    }, `/api/v1/moves/${reference}`);
    await click(page, 'Save');
    await dialogGone(page);
    await sees(page, 'Somebody else');
    await sees(page, '1.0 TB (931.3 GiB) as formatted');
  });
});

describe('Decide', () => {
  it('opens a release requirement by requirement, and an excluded route with what stands against it', async () => {
    await open('/moves/MV-0022/decide');
    await openFold(page, 'Against every release');
    await click(page, 'Corvel 10 Business');
    await sees(page, 'cores; 2 are needed.');
    await openRoutes(page);
    await page.$$eval('details.candidate.excluded > summary', (summaries) =>
      (summaries[0] as HTMLElement | undefined)?.click(),
    );
    const excluded = await page.$eval(
      'details.candidate.excluded[open]',
      (details) => (details as HTMLElement).innerText,
    );
    expect(excluded).toContain('against:');
    expect(excluded).toContain('Suits the house rules');
  });
});

describe('Prepare', () => {
  it('says what to type into the size box, and puts it into the runbook', async () => {
    await open('/moves/MV-0023/prepare');
    await fill(page, 'The system shall get', 'a lot');
    await sees(page, '“a lot” is not a size');
    await fill(page, 'The system shall get', '100 GiB');
    // 100 × 1024 + 260 + 16 + 780 = 103 456 MiB.
    await sees(page, 'Type 103456');
    await click(page, 'Add to the runbook');
    await sees(page, 'It is stale: something has changed since.');
    await click(page, 'Make it again');
    await page.waitForFunction(() => location.pathname.endsWith('/cross'));
    // The words of the step, and not those of Prepare, which are there until the runbook is.
    await unfoldSteps(page);
    expect(await textOf(page, '.runbook')).toContain('Type 103456 (the box means MiB, though it may say MB)');
  });

  it('says whether a split is worth it, and puts partitions for data into the runbook', async () => {
    await open('/moves/MV-0040/prepare');
    await sees(page, 'A system of');
    await fill(page, 'Partition for', 'photos');
    await fill(page, 'Its size', '900 GB');
    await click(page, 'Add');
    await sees(page, 'make one of them smaller');
    await fill(page, 'Its size', '60 GiB');
    await click(page, 'Add');
    await sees(page, '64.4 GB (60.0 GiB)');
    await makeRunbook(page);
    await unfoldSteps(page);
    // 60 × 1024.
    await sees(page, 'make photos of 61440 MiB');
    await open('/moves/MV-0040/prepare');
    await click(page, 'Remove photos');
    await sees(page, 'System and data share one partition, by the house rules.');
  });

  it('takes a note back', async () => {
    await open('/moves/MV-0023/prepare');
    await click(page, 'Withdraw: Installer stick');
    await page.waitForSelector('aria/Name of the stick');
    await open('/moves/MV-0023/cross');
    await sees(page, 'The installer stick is not named');
  });
});

describe('a page whose catalogue is refused for the moment', () => {
  it('says so on top, and is there as soon as it is not refused any more', async () => {
    const own = await newPage(page.browserContext());
    let refused = 0;
    let isDown = true;
    await own.setRequestInterception(true);
    own.on('request', (request) => {
      if (!isDown || !request.url().endsWith('/api/v1/house')) return void request.continue();
      refused += 1;
      const sentence = 'The database does not answer at the moment. Try again in a moment.';
      void request.respond({
        status: 503,
        contentType: 'application/problem+json',
        body: JSON.stringify({
          type: 'about:blank',
          title: 'Unavailable',
          status: 503,
          detail: sentence,
          instance: '/api/v1/house',
          problems: [{ code: 'database-down', path: '', sentence }],
        }),
      });
    });
    await own.goto(`${house.address}/shelf`);
    await sees(own, 'The database does not answer at the moment.');
    await sees(own, 'Fetching the media shelf');
    isDown = false;
    // Nobody reloads it.
    await sees(own, 'Show as a table');
    expect(await textOf(own, 'main')).not.toContain('does not answer');
    expect(refused).toBeGreaterThan(0);
    await own.close();
  });
});

describe('House', () => {
  it('adds an account that can sign in, and shuts it out again', async () => {
    await open('/house');
    await fill(page, 'Name[role="textbox"]', 'Ines');
    await fill(page, 'First password', 'a long password');
    await click(page, 'Add');
    await page.waitForSelector('aria/Disable: Ines');
    const other = await browser.createBrowserContext().then(newPage);
    await signIn(other, house.address, 'ines', 'a long password');
    await sees(other, 'Next up');
    await click(page, 'Disable: Ines');
    await page.waitForSelector('aria/Enable again: Ines');
    await other.goto(house.address, { waitUntil: 'networkidle0' });
    await sees(other, 'Sign in to Marram Coast Ferries');
    await fill(other, 'Name[role="textbox"]', 'ines');
    await fill(other, 'Password', 'a long password');
    await click(other, 'Sign in');
    await sees(other, 'Name and password do not fit together.');
  });

  it('changes the weights of the advice, and the advice says so', async () => {
    await open('/moves/MV-0022/decide');
    const before = await textOf(page, '.advice');
    await open('/house');
    await fill(page, 'Few hands-on minutes', '10');
    await click(page, 'Save house rules');
    await page.waitForFunction(() =>
      document
        .querySelector<HTMLElement>('[aria-labelledby="house-rules-history"]')
        ?.innerText.includes('Weight of “Few hands-on minutes”: 3, now 10.'),
    );
    await open('/moves/MV-0022/decide');
    expect(await textOf(page, '.advice')).not.toBe(before);
  });
});

describe('a move that was started by mistake', () => {
  it('is called off with a reason that stays, leaves the lists of what is to do, and is resumed', async () => {
    await open('/moves/MV-0057/survey');
    await click(page, 'Edit');
    await click(page, 'Call this move off');
    await fill(page, 'Why is it called off?', 'The device was scrapped last week.');
    await click(page, 'Call it off');
    await sees(page, 'Called off by lead');
    await sees(page, 'The device was scrapped last week.');
    await open('/moves/MV-0057/log');
    await sees(page, 'The device was scrapped last week.');
    await click(page, 'Resume the move');
    await page.waitForFunction(() => !document.body.innerText.includes('Called off by lead'));
  });
});

describe('the house’s time zone', () => {
  it('is what every time on the screen is in, and marked with', async () => {
    const times = () =>
      page.$$eval('.runbook time, .runbook', (found) => found.map((one) => one.textContent ?? '').join(' '));
    await open('/moves/MV-0022/cross');
    await page.waitForSelector('.runbook');
    expect(await times()).toMatch(/\d\d:\d\d UTC/);
    await open('/house');
    const ahead = await page.evaluate(() => {
      const zones = [...document.querySelectorAll<HTMLOptionElement>('#time-zone option')];
      const offset = ({ value }: HTMLOptionElement) =>
        new Intl.DateTimeFormat('en', { timeZone: value, timeZoneName: 'longOffset' }).format(
          Date.UTC(2026, 2, 2),
        );
      return zones.find((zone) => offset(zone).includes('GMT+01:00'))?.value ?? '';
    });
    await pick(page, 'Times on screen, on paper and in messages', ahead);
    await click(page, 'Save house rules');
    await page.waitForFunction(
      (zone) =>
        document
          .querySelector<HTMLElement>('[aria-labelledby="house-rules-history"]')
          ?.innerText.includes(zone),
      {},
      ahead,
    );
    await open('/moves/MV-0022/cross');
    await page.waitForSelector('.runbook');
    expect(await times()).toMatch(/\d\d:\d\d UTC\+1/);
    expect(await times()).not.toMatch(/\d\d:\d\d UTC(?!\+1)/);
  });
});

describe('Fleet', () => {
  it('narrows by words, stage and site, with all of it in the address, and shows all again', async () => {
    await open('/fleet');
    const all = await textOf(page, '.page-head');
    await pick(page, 'Site', 'Stannick');
    await page.waitForFunction(() => location.search.includes('site=Stannick'));
    await fill(page, 'Search[role="searchbox"]', 'kestle');
    await page.waitForFunction(() =>
      [...document.querySelectorAll('tbody tr:not([aria-hidden])')].every(
        (row) => row.textContent?.includes('Kestle') && row.textContent.includes('Stannick'),
      ),
    );
    await page.reload({ waitUntil: 'networkidle0' });
    expect(await page.$eval('input[type="search"]', (input) => (input as HTMLInputElement).value)).toBe(
      'kestle',
    );
    await click(page, 'Show all');
    await page.waitForFunction(
      (text) => document.querySelector<HTMLElement>('.page-head')?.innerText === text,
      {},
      all,
    );
  });

  it('refuses a move file that is none, and says why', async () => {
    await click(page, 'Import a move');
    const input = await page.waitForSelector('.modal input[type="file"]');
    if (!input) throw new Error('no file input');
    await page.evaluate(() => {
      const transfer = new DataTransfer();
      transfer.items.add(
        new File(['{"format":"shopping-list","version":1}'], 'list.json', { type: 'application/json' }),
      );
      const place = document.querySelector('.modal .drop');
      for (const kind of ['dragenter', 'dragover', 'drop'])
        place?.dispatchEvent(
          new DragEvent(kind, { dataTransfer: transfer, bubbles: true, cancelable: true }),
        );
    });
    await sees(page, 'This is not an exported move');
  });
});

describe('the machine after each step', () => {
  const heading = () => page.$eval('#after-step', (element) => element.textContent);
  it('is read step by step, by button and by key, from the next one to be done', async () => {
    await open('/moves/MV-0023/cross');
    await page.waitForSelector('#after-step');
    const first = Number(/\d+/.exec((await heading()) ?? '')?.[0]);
    expect(first).toBeGreaterThan(1);
    await page.locator('[aria-label="The next step"]').click();
    await page.waitForFunction(
      (text) => document.querySelector('#after-step')?.textContent === text,
      {},
      `After step ${first + 1}`,
    );
    await page.keyboard.press('Home');
    await page.waitForFunction(() => document.querySelector('#after-step')?.textContent === 'After step 1');
    await page.keyboard.press('End');
    await page.waitForFunction(() =>
      document.querySelector('.after-step')?.textContent.includes('Nothing on the device changes.'),
    );
  });

  it('shows the disk to its last tenth of a gigabyte, and every step as a table', async () => {
    await open('/moves/MV-0023/cross');
    await page.waitForSelector('.plan-figure');
    // 256.1 GB: what is on it adds up, before the Line and behind it.
    const sums = await page.$$eval('.after table tbody tr td:first-of-type', (cells) =>
      cells.map((cell) => {
        const [parts = '', total = ''] = (cell.textContent ?? '').split(': ');
        const tenths = [...parts.matchAll(/(\d+)\.(\d)/g)].map(([, whole, tenth]) =>
          Number(`${whole}${tenth}`),
        );
        return [tenths.reduce((sum, one) => sum + one, 0), Number(total.replace('.', ''))];
      }),
    );
    expect(sums.length).toBeGreaterThan(20);
    for (const [sum, total] of sums) expect([sum, total]).toEqual([2561, 2561]);
    await page.keyboard.press('Tab');
    await page.focus('[aria-label="The next step"]');
    await page.keyboard.press('End');
    await page.waitForFunction(
      (last) => document.querySelector('#after-step')?.textContent === `After step ${last}`,
      {},
      sums.length,
    );
    // C goes back to the step in work.
    await page.keyboard.press('c');
    await page.waitForFunction(() => {
      const current = document.querySelector('[aria-current="step"] .step-title')?.textContent ?? '';
      return document.querySelector('#after-step')?.textContent === `After step ${parseInt(current, 10)}`;
    });
  });

  it('has a barrier before a firmware switch of an encrypted disk, with its gates', async () => {
    await open('/moves/MV-0023/cross');
    await unfoldSteps(page);
    const gates = await page.$$eval('[data-barrier] [data-gate]', (elements) =>
      elements.map((element) => (element instanceof HTMLElement ? element.dataset.gate : '')),
    );
    // Below the Line, encrypting has one of its own.
    expect(new Set(gates)).toEqual(new Set(['recovery-key', 'passphrase']));
  });
});

describe('a second system beside the present one', () => {
  const put = async (path: string, body: object, method = 'PUT') =>
    await page.evaluate(
      async (address, given, how) => {
        const { version } = (await (await fetch(address.split('/').slice(0, 5).join('/'))).json()) as {
          version: number;
        };
        const answer = await fetch(address, {
          method: how,
          headers: { 'content-type': 'application/json' },
          body: JSON.stringify({ version, ...given }),
        });
        return `${answer.status} ${(await answer.text()).slice(0, 300)}`;
      },
      path,
      body,
      method,
    );

  it('has its disk identified on Prepare, which opens that gate of the barrier before the shrink', async () => {
    const move = '/api/v1/moves/MV-0028';
    const { options } = (await page.evaluate(
      async (address) => (await (await fetch(address)).json()) as unknown,
      `${move}/options`,
    )) as { options: { routeId: string; releaseId: string | null; status: string }[] };
    const beside = options.find(
      ({ routeId, status }) => routeId === 'beside-same-disk' && status !== 'excluded',
    );
    expect(beside).toBeDefined();
    const chosen = { routeId: beside?.routeId, releaseId: beside?.releaseId, reason: 'A trial beside it.' };
    expect(await put(`${move}/decision`, chosen)).toMatch(/^200/);
    await open('/moves/MV-0028/prepare');
    await sees(page, 'Disk, by serial number and size');
    await click(page, 'Make the runbook');
    await unfoldSteps(page);
    await page.waitForSelector('[data-barrier] [data-gate="disk-identified"][data-state="closed"]');
    await page.waitForSelector('[data-step="identify-disk"][data-state="open"]');
    await open('/moves/MV-0028/prepare');
    await fill(page, 'End of the serial number, four characters or more', '7H00');
    await fill(page, 'Size on the label, in GB', '256.1');
    await page.keyboard.press('Enter');
    await page.waitForSelector('[aria-label^="Withdraw: Disk, by serial number"]');
    await open('/moves/MV-0028/cross');
    await unfoldSteps(page);
    await page.waitForSelector('[data-step="identify-disk"][data-state="signed"]');
    await page.waitForSelector('[data-barrier] [data-gate="disk-identified"][data-state="green"]');
  });
});
