import type { Drive } from '@ulvane/core/backup';
import type { Catalogue } from '@ulvane/core/catalogue';
import type { Image } from '@ulvane/core/media';
import type { HouseRules } from '@ulvane/core/rules';
import { addDays, addMinutes } from '@ulvane/core/quantity';
import { newMove, type House } from '@ulvane/core/record';
import { between, pick, seededRandom, uuidFrom, type Random } from './random';
import { Recorder, type RecordedMove } from './recorder';
import { tellStory } from './story';
import { shelfOf } from './shelfStory';
import { surveyOf } from './survey';
import { DemoTablesSchema } from './tables';

export type DemoInput = {
  readonly tables: unknown;
  readonly catalogue: Catalogue;
  readonly houseRules: HouseRules;
  /** ISO instant: the demo's day. Work under way is told up to it. */
  readonly now: string;
  readonly seed: number;
};

export type Demo = {
  readonly organisation: string;
  readonly drives: readonly Drive[];
  readonly images: readonly Image[];
  readonly moves: readonly RecordedMove[];
};

/** Days back at which a move of each progress began, so that what is done was done before today. */
const startedDaysAgo = {
  none: 1,
  surveyed: 2,
  decided: 3,
  saved: 3,
  planned: 2,
  half: 0,
  trouble: 1,
  stale: 1,
  crossing: 1,
  settling: 0,
  done: 9,
  hold: 14,
} as const;

/** Far enough apart that two devices have nothing in common. */
const streamStep = 7956;

/** Generates the demo's moves from its tables: the same tables, day and seed give the same demo. */
export function generateDemo(input: DemoInput): Demo {
  const tables = DemoTablesSchema.parse(input.tables);
  const house: House = { catalogue: input.catalogue, houseRules: input.houseRules };
  const devices = tables.groups.flatMap((group) =>
    Array.from({ length: group.count }, (_unused, index) => ({
      group,
      progress: group.progress[index % group.progress.length] ?? 'surveyed',
      index,
    })),
  );
  const moves = devices.map(({ group, progress, index }, position): RecordedMove => {
    // Each device has a source of its own: a story that becomes longer changes no other device.
    const random = seededRandom(input.seed + position * streamStep);
    const startedAt = startOf(
      input.now,
      startedDaysAgo[progress],
      progress === 'settling' ? between(random, 380, 520) : between(random, 150, 240),
      random,
    );
    const model = house.catalogue.models.find(({ id }) => id === group.model);
    if (!model)
      throw new RangeError(`the demo’s tables name a model that the catalogue lacks: ${group.model}`);
    const site = tables.sites[(position + index) % tables.sites.length] ?? pick(random, tables.sites);
    const survey = surveyOf(random, tables, group, model, startedAt);
    const recorder = new Recorder(
      newMove({
        id: uuidFrom(random),
        reference: `MV-${String(position + 1).padStart(4, '0')}`,
        createdAt: startedAt,
      }),
      house,
      startedAt,
    );
    tellStory(recorder, {
      progress,
      random,
      tables,
      group,
      house,
      survey,
      site,
      dueOn: addDays(input.now, between(random, progress === 'half' ? 1 : 3, 23)),
      until: input.now,
      forcedRoute: group.forcedRoutes[String(index)],
    });
    return recorder.result();
  });
  const shelf = shelfOf(tables, input.catalogue, input.now.slice(0, 10));
  return { organisation: tables.organisation, ...shelf, moves };
}

/** Earlier days begin between half past seven and half past nine; today's work so many minutes ago. */
function startOf(now: string, daysAgo: number, minutesAgo: number, random: Random): string {
  return daysAgo === 0
    ? addMinutes(now, -minutesAgo)
    : addMinutes(`${addDays(now, -daysAgo)}T07:30:00.000Z`, between(random, 0, 120));
}
