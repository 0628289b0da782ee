import { z } from 'zod';
import { InstantSchema } from '../quantity/daySchema';
import { TimeZoneSchema } from '../quantity/localTime';
import { numberMarks } from '../quantity/writtenNumber';

const weight = z.number().min(0).max(10);

/** Accounts that people sign in with: the organisation's, one of the maker's online, or one of the computer. */
export const accountKinds = ['organisation', 'online', 'local'] as const;
export type AccountKind = (typeof accountKinds)[number];

/**
 * House rule: the organisation's chosen answer where good technicians differ.
 * Each setting is one entry; plans name the house rules that they followed.
 */
export const HouseRulesSchema = z.strictObject({
  manner: z.enum(['keep', 'start-clean']),
  erase: z.enum(['whole-disk', 'system-partition']),
  otherDisks: z.enum(['unplug', 'tell-apart']),
  savedAs: z.enum(['data', 'image', 'both']),
  copiesBeforeLine: z.union([z.literal(1), z.literal(2)]),
  // Houses of earlier releases never said.
  copyProof: z.enum(['compared', 'sampled', 'stated']).default('compared'),
  cloudCopyCounts: z.boolean(),
  dataPartition: z.enum(['one', 'separate']),
  encryption: z.enum(['during-setup', 'after', 'off']),
  networkDuringSetup: z.enum(['online', 'offline']),
  account: z.enum(accountKinds),
  // Houses of earlier releases never said.
  automaticSignIn: z.enum(['off', 'on']).default('off'),
  // Houses of earlier releases never said.
  looksAfter: z.enum(['owner', 'help-desk']).default('owner'),
  boot: z.enum(['menu-once', 'change-order']),
  efiPartition: z.enum(['share', 'own']),
  stick: z.enum(['minimum', 'with-margin']),
  stickTool: z.enum(['official', 'image-writer', 'by-hand']),
  belowMinimum: z.enum(['waive', 'alternative', 'replace']),
  partitioning: z.enum(['guided', 'by-hand']),
  optionalUpdates: z.boolean(),
  spokenGigabyte: z.enum(['decimal', 'binary']),
  // Houses of earlier releases never said.
  writtenNumbers: z.enum(numberMarks).default('either'),
  // Houses of earlier releases never said.
  timeZone: TimeZoneSchema.default('UTC'),
  keepBackupDays: z.int().min(1).max(3650),
  // Houses of earlier releases never said.
  rates: z
    .strictObject({
      /** Money that an hour of a technician is worth. */
      hourCost: z.number().min(1).max(10_000),
      /** Minutes that an application, or a second move, is worth when it is given up. */
      givenUpMinutes: z.int().min(0).max(6000),
      /** A release whose updates end within so many days means a second move. */
      movesAgainWithinDays: z.int().min(0).max(3650),
    })
    .default({ hourCost: 60, givenUpMinutes: 60, movesAgainWithinDays: 730 }),
  // Houses of earlier releases never said.
  setUp: z
    .strictObject({
      /** The name of the administrator's account, where an installer asks for one. */
      administrator: z.string().trim().min(1).max(32),
      /** The computer's name: {site}, {number} and {owner} stand for those of the move. */
      computerName: z.string().trim().min(1).max(60),
    })
    .default({ administrator: 'bench-admin', computerName: '{site}-{number}' }),
  // Houses of earlier releases never said.
  /** What the line of each site carries, megabits a second. */
  lines: z.record(z.string().trim().min(1).max(100), z.number().positive().max(100_000)).default({}),
  weights: z.strictObject({
    dataRisk: weight,
    handsOn: weight,
    elapsed: weight,
    ownerEffort: weight,
    money: weight,
    support: weight,
    reversible: weight,
    house: weight,
    // Houses of earlier releases never said.
    upkeep: weight.default(2),
  }),
});

export type HouseRules = z.infer<typeof HouseRulesSchema>;
export type Weights = HouseRules['weights'];
/** Not among the questions where good technicians differ. */
const noQuestion = ['weights', 'timeZone', 'rates', 'setUp', 'lines'] as const;
export type HouseRuleKey = Exclude<keyof HouseRules, (typeof noQuestion)[number]>;

/** The careful profile; every value can be changed by a lead. */
export const defaultHouseRules: HouseRules = {
  manner: 'keep',
  erase: 'whole-disk',
  otherDisks: 'tell-apart',
  savedAs: 'data',
  copiesBeforeLine: 2,
  copyProof: 'compared',
  cloudCopyCounts: false,
  dataPartition: 'one',
  encryption: 'after',
  networkDuringSetup: 'offline',
  account: 'organisation',
  automaticSignIn: 'off',
  looksAfter: 'owner',
  boot: 'menu-once',
  efiPartition: 'own',
  stick: 'with-margin',
  stickTool: 'official',
  belowMinimum: 'alternative',
  partitioning: 'guided',
  optionalUpdates: false,
  spokenGigabyte: 'decimal',
  writtenNumbers: 'either',
  timeZone: 'UTC',
  keepBackupDays: 30,
  rates: { hourCost: 60, givenUpMinutes: 60, movesAgainWithinDays: 730 },
  setUp: { administrator: 'bench-admin', computerName: '{site}-{number}' },
  lines: {},
  weights: {
    dataRisk: 5,
    handsOn: 3,
    elapsed: 1,
    ownerEffort: 3,
    money: 2,
    support: 4,
    reversible: 3,
    house: 6,
    upkeep: 2,
  },
};

/** House rules, without the weights, in the order in which they are shown. */
export const houseRuleKeys = Object.keys(defaultHouseRules).filter(
  (key): key is HouseRuleKey => !noQuestion.some((one) => one === key),
);

/** One setting in which a move does not follow the house rule, with the reason for it. */
export const RuleExceptionSchema = z.strictObject({
  setting: z.enum(houseRuleKeys),
  value: z.union([z.string(), z.number(), z.boolean()]),
  reason: z.string().trim().min(1).max(500),
  at: InstantSchema,
  by: z.string(),
});
export type RuleException = z.infer<typeof RuleExceptionSchema>;

/** The house rules that a move follows, with its exceptions. One that no longer fits is left out. */
export function houseRulesOfMove(
  houseRules: HouseRules,
  exceptions: readonly Pick<RuleException, 'setting' | 'value'>[],
): HouseRules {
  return exceptions.reduce((so, { setting, value }) => {
    const next = HouseRulesSchema.safeParse({ ...so, [setting]: value });
    return next.success ? next.data : so;
  }, houseRules);
}
