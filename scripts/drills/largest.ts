import { unless, unlessWithin, type Drill } from './drill';
import { loopHeldUpMs } from './figures';
import type { Answer } from './world';

const mib = 1024 * 1024;

/** The largest bodies that are read at all, of the kinds that cost most to parse. */
const largest: readonly { readonly what: string; readonly path: string; readonly body: () => unknown }[] = [
  {
    what: 'numbers',
    path: '/moves/import',
    body: () => ({
      format: 'ulvane-move',
      version: 2,
      move: Array.from({ length: 1_000_000 }, (_none, index) => index % 10),
      events: [],
    }),
  },
  {
    what: 'objects',
    path: '/moves/import',
    body: () => ({
      format: 'ulvane-move',
      version: 2,
      move: {},
      events: Array.from({ length: 20_000 }, (_none, index) => ({
        at: '2026-03-02T10:00:00Z',
        by: 'Odd',
        kind: 'x',
        sentence: `Line ${index}`,
      })),
    }),
  },
  {
    what: 'text',
    path: '/moves',
    body: () => ({ owner: '', site: '', dueOn: null, surveyText: 'x'.repeat(2 * mib) }),
  },
  { what: 'escapes', path: '/moves/import', body: () => ({ format: '\u0001'.repeat(300_000) }) },
  {
    what: 'rows of a device list',
    path: '/fleet/rows',
    body: () => ({
      dryRun: false,
      mapping: { serial: 'serial', maker: 'maker', model: 'model', memory: 'memoryBytes' },
      rows: Array.from({ length: 500 }, (_none, index) => ({
        row: index + 1,
        cells: { serial: `DRILL-${index}`, maker: 'Draymoor', model: '620', memory: '8 GB' },
      })),
    }),
  },
];

export const largestDrill: Drill = {
  name: 'one request never holds up the others',
  run: async (world, size) => {
    const server = await world.start();
    const person = await world.signIn(server);
    const figures: string[] = [];
    const faults: string[] = [];
    const measure = async (what: string, ask: () => Promise<Answer>) => {
      await loopHeldUpMs(person);
      const { status } = await ask();
      const held = await loopHeldUpMs(person);
      figures.push(`${what} ${status} ${held.toFixed(0)} ms`);
      faults.push(
        ...unlessWithin(size, held, 100, `${what}: the loop was held up for ${held.toFixed(0)} ms`),
        ...unless(status !== 0 && status < 500, `${what}: answered with ${status}`),
      );
    };
    for (const { what, path, body } of size === 'whole' ? largest : largest.slice(-2)) {
      const made = body();
      await measure(what, () => person.ask('POST', path, made));
    }
    const [reference = ''] = await person.references(1);
    await measure('a sheet as PDF', () => person.ask('GET', `/moves/${reference}/handover.pdf`));
    await measure('200 moves of a list', () => person.ask('GET', '/moves?pageSize=200&fit=yes'));
    return { figures: figures.join('; '), faults };
  },
};
