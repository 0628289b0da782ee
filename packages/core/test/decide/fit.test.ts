import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { supportDaysLeft } from '../../src/catalogue';
import {
  decide,
  FitSchema,
  fitMinutes,
  fitTable,
  type Fit,
  type FitCell,
  type FitGroup,
} from '../../src/decide';
import { fitOf } from '../../src/decide/fitCell';
import { defaultHouseRules } from '../../src/rules';
import { valueOf, withFacts, type Facts } from '../../src/survey';
import { anyDevice, inputOf } from '../fixtures/devices';
import { catalogue, endedLaptop, laptop, releaseOf, today, without } from '../fixtures/shop';

const { rates } = defaultHouseRules;
const fitted = (facts: Facts) => {
  const input = inputOf(facts);
  const choice = decide(input);
  return { fit: fitOf(input, choice), choice };
};

describe('a price', () => {
  it('is hands-on, money at the rate, and a flat time for what is given up, on one scale', () => {
    // An hour, 12.00 at 60.00 an hour, nothing given up: 1 h 12. Two things given up: two hours more.
    const price = { handsOnMinutes: 60, cost: 12, givenUp: [] };
    expect(fitMinutes(price, { hourCost: 60, givenUpMinutes: 60 })).toBe(72);
    expect(fitMinutes({ ...price, givenUp: ['a', 'b'] }, { hourCost: 60, givenUpMinutes: 60 })).toBe(192);
    expect(fitMinutes(price, { hourCost: 120, givenUpMinutes: 60 })).toBe(66);
  });
});

describe('what each release means for a device', () => {
  it('has no column for a release that has ended, and the advice as decided', () => {
    const { fit, choice } = fitted(endedLaptop);
    for (const id of Object.keys(fit.cells))
      expect(supportDaysLeft(releaseOf(id), today)).toBeGreaterThanOrEqual(0);
    expect(fit.advice).toBe(choice.advised.releaseId);
  });

  it('names what falls short of the hardware', () => {
    const small = withFacts(endedLaptop, { cores: 1 });
    const words = Object.values(fitted(small).fit.cells).flatMap((cell) =>
      cell.kind === 'obstacle' ? [cell.words] : [],
    );
    // Of the requirements of Harrow: four cores, and no way to waive them.
    expect(words).toContain('1 core; 4 are needed');
  });

  it('asks for the fact that is missing, and says what it takes when the answer is good', () => {
    const unknown = without(endedLaptop, 'graphicsTier');
    const asked = Object.values(fitted(unknown).fit.cells).filter((cell) => cell.kind === 'question');
    expect(asked.length).toBeGreaterThan(0);
    for (const cell of asked) expect(cell).toMatchObject({ fact: 'graphicsTier', words: 'Graphics tier?' });
    const known = fitted(endedLaptop).fit.cells;
    for (const [id, cell] of Object.entries(fitted(unknown).fit.cells))
      if (cell.kind === 'question' && known[id]?.kind === 'price')
        expect(cell.then.handsOnMinutes).toBe(known[id].handsOnMinutes);
  });

  it('gives up an application without an equivalent, and counts a release that ends soon as a second move', () => {
    const facts = withFacts(laptop, {
      presentRelease: 'corvel-8-business',
      applications: ['Nobody’s Ledger'],
    });
    const { cells } = fitted(facts).fit;
    const other = cells['saltbush-full'];
    expect(other?.kind === 'price' && other.givenUp).toContain('Nobody’s Ledger lost');
    const own = cells['corvel-10-business'];
    expect(own?.kind === 'price' && own.givenUp).toEqual([]);
    for (const [id, cell] of Object.entries(cells)) {
      if (cell.kind !== 'price') continue;
      const soon = supportDaysLeft(releaseOf(id), today) <= 730;
      expect([id, cell.givenUp.some((words) => words.startsWith('moved again'))]).toEqual([id, soon]);
    }
  });

  it('is the cheapest way that nothing keeps out, a question only where none is open, an obstacle only where all are', () => {
    const seen = { price: 0, question: 0, obstacle: 0 };
    fc.assert(
      fc.property(anyDevice, fc.boolean(), (device, forgets) => {
        const facts = forgets ? without(device, 'graphicsTier') : device;
        const { fit, choice } = fitted(facts);
        expect(FitSchema.parse(fit)).toEqual(fit);
        for (const [releaseId, cell] of Object.entries(fit.cells)) {
          seen[cell.kind] += 1;
          const ways = choice.candidates.filter((one) => one.releaseId === releaseId);
          const consent = valueOf(facts, 'applications') !== undefined;
          const isOpen = ({ status, reasons }: (typeof ways)[number]) =>
            status === 'allowed' ||
            (status === 'undecided' &&
              reasons.every(
                ({ finding, rule }) =>
                  finding !== 'unknown' || (consent && rule === 'applications-have-equivalents'),
              ));
          const open = ways.filter(isOpen);
          const price = cell.kind === 'price' ? cell : cell.kind === 'question' ? cell.then : undefined;
          expect(cell.kind === 'price').toBe(open.length > 0);
          expect(cell.kind === 'obstacle').toBe(ways.every(({ status }) => status === 'excluded'));
          if (!price) continue;
          const among = cell.kind === 'price' ? open : ways.filter(({ status }) => status !== 'excluded');
          expect(among.map(({ routeId }) => routeId)).toContain(price.routeId);
          const dearest = Math.min(
            ...among.map(({ handsOnMinutes, cost }) =>
              fitMinutes({ handsOnMinutes, cost, givenUp: [] }, rates),
            ),
          );
          expect(fitMinutes({ ...price, givenUp: [] }, rates)).toBeGreaterThanOrEqual(dearest);
        }
      }),
      { numRuns: 60, seed: 4 },
    );
    expect(seen.price).toBeGreaterThan(12);
    expect(seen.question).toBeGreaterThan(5);
    expect(seen.obstacle).toBeGreaterThan(100);
  });
});

const price = (handsOnMinutes: number, cost = 0, givenUp: readonly string[] = []): FitCell => ({
  kind: 'price',
  routeId: 'in-place-upgrade',
  handsOnMinutes,
  cost,
  givenUp: [...givenUp],
});
const obstacle: FitCell = { kind: 'obstacle', words: 'Needs 4 cores' };
const question: FitCell = {
  kind: 'question',
  fact: 'graphicsTier',
  words: 'Graphics tier?',
  then: { routeId: 'clean-whole-disk', handsOnMinutes: 40, cost: 0, givenUp: [] },
};

const group = (
  device: string,
  count: number,
  cells: Fit['cells'],
  more: Partial<FitGroup> = {},
): FitGroup => ({
  device,
  present: 'Corvel 8 Business',
  presentId: 'corvel-8-business',
  count,
  reference: 'MV-0001',
  fit: { advice: null, cells },
  ...more,
});

const tableOf = (
  groups: readonly FitGroup[],
  order: 'cheapest' | 'updates-end' | 'device-count' = 'cheapest',
) => fitTable(groups, { releases: catalogue.releases, rates, today, order });

describe('the table of a fleet', () => {
  const a = 'corvel-10-business';
  const b = 'saltbush-full';
  const groups = [
    // Of 5 alike devices 3 take 60 minutes and 2 take 69 (a switch more).
    group('Draymoor 410', 3, { [a]: price(60), [b]: price(90, 0, ['Tidebook lost']) }),
    group(
      'Draymoor 410',
      2,
      { [a]: price(69), [b]: price(90, 0, ['Tidebook lost']) },
      {
        fit: { advice: b, cells: { [a]: price(69), [b]: price(90, 0, ['Tidebook lost']) } },
      },
    ),
    group('Kestle Wicket 5', 4, { [a]: question, [b]: price(30, 60, ['Tidebook lost']) }),
    group('Ostley Brack', 1, { [a]: obstacle, [b]: question }),
  ];

  it('shows the price that most devices of a kind have, and how many have it', () => {
    const { rows } = tableOf(groups);
    const draymoor = rows.find(({ device }) => device === 'Draymoor 410');
    expect(draymoor).toMatchObject({ count: 5, cheapest: a, advice: null });
    expect(draymoor?.cells[a]).toEqual({ cell: price(60), same: 3 });
    expect(draymoor?.cells[b]?.same).toBe(5);
  });

  it('adds up what the devices come to at their cheapest', () => {
    const table = tableOf(groups);
    // 3 × 60 + 2 × 69 + 4 × 30 = 438 minutes, 4 × 60.00; 150 minutes of Wicket 5 are the only way it has.
    expect(table).toMatchObject({
      devices: 10,
      priced: 9,
      handsOnMinutes: 438,
      cost: 240,
      adviceElsewhere: 0,
    });
    expect(table.givenUp).toEqual([{ what: 'Tidebook lost', devices: 4 }]);
    expect(table.columns.find(({ releaseId }) => releaseId === a)).toMatchObject({ can: 5, cheapest: 5 });
    expect(table.columns.find(({ releaseId }) => releaseId === b)).toMatchObject({ can: 9, cheapest: 4 });
    expect(table.questions).toEqual([
      { fact: 'graphicsTier', words: 'Graphics tier?', cells: 2, devices: 5, reference: 'MV-0001' },
    ]);
  });

  it('has the cheapest first and what has no price last, or by number, or by the day updates end', () => {
    const names = (order: Parameters<typeof tableOf>[1], list = groups) =>
      tableOf(list, order).rows.map(({ device }) => device);
    // 60 minutes; 30 + 60 for 60.00 + 60 for Tidebook = 150; none.
    expect(names('cheapest')).toEqual(['Draymoor 410', 'Kestle Wicket 5', 'Ostley Brack']);
    expect(names('device-count')).toEqual(['Draymoor 410', 'Kestle Wicket 5', 'Ostley Brack']);
    expect(
      names('updates-end', [
        group('Late', 9, {}, { presentId: 'corvel-9-business' }),
        group('Unknown', 9, {}, { presentId: 'nobody-knows' }),
        group('Early', 1, {}, { presentId: 'corvel-8-business' }),
      ]),
    ).toEqual(['Early', 'Late', 'Unknown']);
  });

  it('counts a row whose advice is another release than its cheapest', () => {
    const advised = groups.map((one) => ({ ...one, fit: { ...one.fit, advice: b } }));
    expect(tableOf(advised).adviceElsewhere).toBe(1);
  });

  it('loses no device, however they are split', () => {
    let rowsSeen = 0;
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            device: fc.constantFrom('A', 'B', 'C'),
            count: fc.integer({ min: 1, max: 50 }),
            one: fc.constantFrom(obstacle, question, price(60), price(30, 60)),
            other: fc.constantFrom(obstacle, question, price(45), price(60)),
          }),
          { maxLength: 12 },
        ),
        (given) => {
          const all = given.map(({ device, count, one, other }) =>
            group(device, count, { [a]: one, [b]: other }),
          );
          const devices = given.reduce((sum, { count }) => sum + count, 0);
          const table = tableOf(all);
          rowsSeen += table.rows.length;
          expect(table.devices).toBe(devices);
          expect(table.rows.reduce((sum, { count }) => sum + count, 0)).toBe(devices);
          expect(table.columns.reduce((sum, { cheapest }) => sum + cheapest, 0)).toBe(table.priced);
          expect(table.priced).toBeLessThanOrEqual(devices);
        },
      ),
      { numRuns: 100 },
    );
    expect(rowsSeen).toBeGreaterThan(100);
  });
});
