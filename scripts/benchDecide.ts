import { openBrowser, signIn } from '../e2e/lib/browser';
import { World } from './drills/world';
import { ensureBuild } from './lib/build';

const rounds = 20;

/**
 * How long Decide takes in Chromium after a fact has changed: from the server's answer to the frame in which the new
 * advice stands on the page.
 */
export async function benchDecide(): Promise<void> {
  ensureBuild();
  const world = await World.open();
  const { browser, close } = await openBrowser();
  try {
    const server = await world.start();
    const page = await browser.newPage();
    await signIn(page, server.ready.ready, 'lead', server.ready.demo?.password ?? '');
    const reference = (await (await world.signIn(server)).references(1))[0] ?? '';
    await page.goto(`${server.ready.ready}/moves/${reference}/decide`, { waitUntil: 'networkidle0' });
    await page.waitForSelector('.rate-sheet');
    const times: number[] = [];
    for (let round = 0; round < rounds; round += 1) {
      const purpose = round % 2 === 0 ? 'start-clean' : 'support-ends';
      times.push(
        await page.evaluate(async (wanted) => {
          const select = document.querySelector<HTMLSelectElement>('.wish select');
          const sheet = document.querySelector('.rate-sheet');
          if (!select || !sheet) throw new Error('Decide is not there.');
          const plain = window.fetch;
          let answeredAt = Number.NaN;
          window.fetch = async (...given) => {
            const answer = await plain(...given);
            if (given[1]?.method === 'PUT') answeredAt = performance.now();
            return answer;
          };
          const changed = new Promise<number>((resolve) => {
            new MutationObserver((_changes, observer) => {
              observer.disconnect();
              requestAnimationFrame(() => setTimeout(() => resolve(performance.now())));
            }).observe(sheet, { subtree: true, childList: true, characterData: true });
          });
          const set = Object.getOwnPropertyDescriptor(HTMLSelectElement.prototype, 'value')?.set;
          set?.call(select, wanted);
          select.dispatchEvent(new Event('change', { bubbles: true }));
          const shownAt = await changed;
          window.fetch = plain;
          return shownAt - answeredAt;
        }, purpose),
      );
    }
    const sorted = times.toSorted((a, b) => a - b);
    console.log(
      `Decide on the page after a change, ${rounds} times: median ${(sorted[rounds / 2] ?? Number.NaN).toFixed(0)} ms, longest ${(sorted.at(-1) ?? Number.NaN).toFixed(0)} ms (aim 100)`,
    );
  } finally {
    await close();
    await world.stopServers();
    await world.close();
  }
}
