import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { CatalogueSchema } from '../../src/catalogue/catalogue';
import { decide } from '../../src/decide';
import { decideInput, MoveSchema, runbookInput, type Move } from '../../src/record';
import { houseRulesOfMove, HouseRulesSchema } from '../../src/rules';
import { buildRunbook } from '../../src/runbook';
import { anyPlanInput } from '../fixtures/plans';
import { catalogue, emptyMove, now, today } from '../fixtures/shop';

/** What the page has of it: JSON that the schemas have read. */
const overTheWire = <T>(schema: { readonly parse: (value: unknown) => T }, value: unknown): T =>
  schema.parse(JSON.parse(JSON.stringify(value)));

describe('page and server', () => {
  it('decide and plan from the same input, whatever the machine, the house and the way', () => {
    let decided = 0;
    let planned = 0;
    fc.assert(
      fc.property(anyPlanInput, (given) => {
        if (!given) return;
        const { facts, houseRules, route, release, installerMedium, waivers, dataSets, destinations } = given;
        const server: Move = {
          ...emptyMove,
          facts,
          dataSets: [...dataSets],
          destinations: [...destinations],
          decision: {
            routeId: route.id,
            releaseId: release?.id ?? null,
            bringing: installerMedium,
            waivers: [...waivers],
            disk: given.disk ?? null,
            room: given.room ?? null,
            reason: 'Agreed with the owner.',
            advisedTitle: '',
            at: now,
            by: 'Ines',
          },
        };
        const house = { catalogue, houseRules };
        const page = overTheWire(MoveSchema, server);
        const pageHouse = {
          catalogue: overTheWire(CatalogueSchema, catalogue),
          houseRules: overTheWire(HouseRulesSchema, houseRules),
        };
        expect(houseRulesOfMove(pageHouse.houseRules, page.departures)).toEqual(houseRules);
        const [one, other] = [decideInput(server, house, today), decideInput(page, pageHouse, today)];
        expect(other).toEqual(one);
        expect(decide(other).candidates).toEqual(decide(one).candidates);
        decided += 1;
        const [ours, theirs] = [runbookInput(server, house), runbookInput(page, pageHouse)];
        expect(theirs).toEqual(ours);
        if (!ours || !theirs) return;
        const plan = buildRunbook(ours);
        expect(buildRunbook(theirs)).toEqual(plan);
        if (plan.ok) planned += 1;
      }),
      { numRuns: 150, seed: 21 },
    );
    expect(decided).toBeGreaterThan(100);
    expect(planned).toBeGreaterThan(80);
  });
});
