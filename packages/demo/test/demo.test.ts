import { readFileSync } from 'node:fs';
import { verdicts } from '@ulvane/core/assess';
import { resolveCatalogue } from '@ulvane/core/catalogue';
import { parseWith } from '@ulvane/core/outcome';
import { defaultHouseRules } from '@ulvane/core/rules';
import { MoveSchema, readPlan, stageOf, stages } from '@ulvane/core/record';
import { decide, decisionInput } from '@ulvane/core/decide';
import { routeIds } from '@ulvane/core/route';
import { custodyAlarms } from '@ulvane/core/runbook';
import { describe, expect, it } from 'vitest';
import { generateDemo, seededRandom, uuidFrom } from '../src';

const read = (path: string): unknown =>
  JSON.parse(readFileSync(new URL(`../../../data/${path}`, import.meta.url), 'utf8'));
const now = '2026-03-02T10:00:00.000Z';
const resolved = resolveCatalogue(read('catalogue/catalogue.json'), '2026-03-02');
if (!resolved.ok) throw new Error('the catalogue does not resolve');
const catalogue = resolved.value;
const house = { catalogue, houseRules: defaultHouseRules };
const demo = generateDemo({ tables: read('demo/organisation.json'), ...house, now, seed: 20260302 });

describe('the demo', () => {
  it('is about sixty devices of Marram Coast Ferries, each with a reference of its own', () => {
    expect(demo.organisation).toBe('Marram Coast Ferries');
    expect(demo.moves.length).toBeGreaterThanOrEqual(55);
    expect(new Set(demo.moves.map(({ move }) => move.reference)).size).toBe(demo.moves.length);
    const serials = demo.moves.flatMap(({ move }) => (move.facts.serial ? [move.facts.serial.value] : []));
    expect(new Set(serials).size).toBe(serials.length);
  });

  it('is made of moves that the record’s own schema takes', () => {
    for (const { move } of demo.moves) expect(parseWith(MoveSchema, move)).toEqual({ ok: true, value: move });
  });

  it('has moves in every stage, on every route', () => {
    expect(new Set(demo.moves.map(({ move }) => stageOf(move)))).toEqual(new Set(stages));
    expect(new Set(demo.moves.flatMap(({ move }) => (move.decision ? [move.decision.routeId] : [])))).toEqual(
      new Set(routeIds),
    );
  });

  it('has every verdict', () => {
    const seen = demo.moves.flatMap(({ move }) =>
      decide(decisionInput({ facts: move.facts, ...house, today: '2026-03-02' })).assessments.flatMap(
        ({ judgements }) => judgements.map(({ verdict }) => verdict),
      ),
    );
    expect(new Set(seen)).toEqual(new Set(verdicts));
  });

  it('has some trouble: a gate overruled, a signature withdrawn, a stale plan', () => {
    expect(demo.moves.some(({ move }) => move.overrules.length > 0)).toBe(true);
    expect(demo.moves.some(({ move }) => move.signatures.some(({ action }) => action === 'unsign'))).toBe(
      true,
    );
    expect(demo.moves.some(({ move }) => (readPlan(move, house)?.differences.length ?? 0) > 0)).toBe(true);
  });

  it('loses no file: no plan leaves a data set without a good copy', () => {
    for (const { move } of demo.moves)
      expect(custodyAlarms(move.plan?.runbook.steps ?? [], move.dataSets)).toEqual([]);
  });

  it('tells nothing of the future, and every log in order', () => {
    for (const { events } of demo.moves) {
      const times = events.map(({ at }) => at);
      expect(times).toEqual([...times].sort());
      expect(times.every((at) => at <= now)).toBe(true);
    }
  });

  it('is the same again from the same seed, and another from another', () => {
    const again = (seed: number) =>
      generateDemo({ tables: read('demo/organisation.json'), ...house, now, seed });
    expect(again(20260302)).toEqual(demo);
    expect(again(7).moves[0]?.move.id).not.toBe(demo.moves[0]?.move.id);
  });
});

describe('the generator’s random', () => {
  it('stays in [0, 1) and makes version 4 UUIDs', () => {
    const random = seededRandom(5);
    for (let count = 0; count < 1000; count += 1) {
      const value = random();
      expect(value >= 0 && value < 1).toBe(true);
    }
    expect(uuidFrom(random)).toMatch(/^[0-9a-f]{8}-[0-9a-f]{4}-4[0-9a-f]{3}-[89ab][0-9a-f]{3}-[0-9a-f]{12}$/);
  });
});
