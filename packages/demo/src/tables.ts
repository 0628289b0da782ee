import { DestinationSchema, DriveSchema, mediumChecks, MediumContentSchema } from '@ulvane/core/backup';
import { ImageSchema } from '@ulvane/core/media';
import { routeIds } from '@ulvane/core/route';
import { troubleIds } from '@ulvane/core/runbook';
import { factValueSchemas } from '@ulvane/core/survey';
import { causeAnswers } from '@ulvane/core/trouble';
import { z } from 'zod';

const v = factValueSchemas;

export const progressIds = [
  'none',
  'surveyed',
  'decided',
  'saved',
  'planned',
  'half',
  'trouble',
  'stale',
  'crossing',
  'settling',
  'done',
  'hold',
] as const;

const GroupSchema = z.strictObject({
  use: z.string(),
  owner: z.string(),
  model: z.string(),
  count: z.int().positive(),
  serialPattern: z.string(),
  yearFrom: z.int(),
  yearTo: z.int(),
  wordBits: v.wordBits,
  cores: z.array(v.cores),
  clockMhz: z.array(v.clockMhz),
  flags: v.cpuFlags,
  memoryGiB: z.array(z.int().positive()),
  firmwareMode: z.array(v.firmwareMode),
  secureBoot: z.array(v.secureBoot),
  tpm: z.array(v.tpm),
  graphicsTier: v.graphicsTier,
  screen: z.tuple([z.int(), z.int()]),
  disk: z.strictObject({
    sizeBytes: z.int(),
    rotational: z.boolean(),
    bus: z.enum(['sata', 'nvme']),
    layout: z.array(z.enum(['gpt-single', 'gpt-split', 'mbr-single', 'mbr-split'])),
    health: z.enum(['good', 'worn', 'failing']),
  }),
  second: z
    .strictObject({
      sizeBytes: z.int(),
      rotational: z.boolean(),
      bus: z.enum(['sata', 'nvme']),
      empty: z.boolean(),
    })
    .nullable(),
  adapters: z.array(z.tuple([z.string(), z.enum(['wired', 'wireless']), z.string()])),
  battery: z.boolean(),
  presentRelease: z.array(z.string()),
  activation: z.array(v.activation),
  encryption: z.array(v.diskEncryption),
  fastStart: z.array(v.fastStart),
  applications: z.array(z.string()),
  accounts: v.accounts,
  attachedDevices: v.attachedDevices,
  graphicsChips: v.graphicsChips.exactOptional(),
  opticalDrive: v.opticalDrive.exactOptional(),
  storageMode: v.storageMode.exactOptional(),
  folders: z.string(),
  progress: z.array(z.enum(progressIds)),
  preferredRoute: z.enum(routeIds).nullable(),
  /** Routes that single devices of the group are told to take, by their place in it. */
  forcedRoutes: z.record(z.string(), z.enum(routeIds)),
});

export const DemoTablesSchema = z.strictObject({
  organisation: z.string(),
  colleagues: z.strictObject({ technicians: z.array(z.string()).min(1), lead: z.string() }),
  sites: z.array(z.string()).min(1),
  destinations: z.array(DestinationSchema.omit({ takes: true, freeBytes: true })),
  drives: z.array(DriveSchema),
  /** What is on installer media; days count back from the demo’s day. */
  shelf: z.array(
    z.strictObject({
      medium: z.string(),
      seenDaysAgo: z.int().min(0).nullable(),
      seenAt: z.string(),
      holds: z.array(
        MediumContentSchema.omit({ title: true, bytes: true, writtenOn: true, check: true }).extend({
          daysAgo: z.int().min(0),
          check: z.enum(mediumChecks).nullable(),
        }),
      ),
    }),
  ),
  images: z.array(
    ImageSchema.omit({ bytes: true, sha256: true, source: true, fetchedOn: true, download: true }).extend({
      daysAgo: z.int().min(0),
      /** So much of it is missing: the download broke off. */
      shorterBytes: z.int().min(0),
      hashed: z.boolean(),
      download: z.strictObject({ minutes: z.number().positive(), site: z.string() }).nullable(),
    }),
  ),
  /** What goes wrong in single moves, before the step of that kind is signed. */
  troubles: z.array(
    z.strictObject({
      reference: z.string(),
      step: z.string(),
      sign: z.enum(troubleIds),
      answers: z.array(
        z.strictObject({ causeId: z.string(), answer: z.enum(causeAnswers), minutes: z.int().min(1) }),
      ),
      /** The cause whose detour is carried out; null where it still holds the runbook up. */
      detour: z.string().nullable(),
    }),
  ),
  sticks: z.array(z.strictObject({ name: z.string(), serial: z.string() })).min(1),
  /** Name, gigabytes, files, largest file in gigabytes. */
  folderSets: z.record(z.string(), z.array(z.tuple([z.string(), z.number(), z.int(), z.number()]))),
  groups: z.array(GroupSchema),
});

export type DemoTables = z.infer<typeof DemoTablesSchema>;
export type Group = z.infer<typeof GroupSchema>;
export type Progress = (typeof progressIds)[number];
