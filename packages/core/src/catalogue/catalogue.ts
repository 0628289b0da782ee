import { z } from 'zod';
import { InstallerPageSchema } from './installerPage';
import { accountKinds } from '../rules/houseRules';
import { upkeeps } from '../rules/upkeep';
import { RequirementSchema } from './requirement';
import { boxUnits } from '../quantity/boxUnit';
import { DaySchema } from '../quantity/daySchema';

const id = z.string().regex(/^[a-z0-9][a-z0-9-]*$/, 'must be lower-case letters, digits and hyphens');
const day = DaySchema;

export const keepsakeKinds = [
  'folder',
  'browser',
  'mail',
  'passwords',
  'keys',
  'settings',
  'application-list',
  'other-account',
] as const;

/** Something of the owner's that lies where nobody looks, and how to get it out. */
export const KeepsakeSchema = z.strictObject({
  id,
  name: z.string().min(1).max(100),
  kind: z.enum(keepsakeKinds),
  howToGetItOut: z.string().min(1),
});

/** How something that everybody does is done in a family; the same `what` stands for the same thing in all of them. */
const HabitSchema = z.strictObject({
  what: z.string().trim().min(1).max(60),
  here: z.string().trim().min(1).max(120),
});

/** A command that is typed, and what it does. */
const CommandSchema = z.strictObject({
  does: z.string().trim().min(1).max(80),
  type: z.string().trim().min(1).max(200),
});

export const FamilySchema = z.strictObject({
  id,
  name: z.string().min(1),
  about: z.string(),
  /** Set when the family runs only on one maker's computers. */
  lockedToMaker: z.string().exactOptional(),
  /** What it keeps of the owner's in places of its own. */
  keeps: z.array(KeepsakeSchema).default([]),
  /** How things that everybody does are done there. */
  habits: z.array(HabitSchema).max(40).default([]),
  /** What is typed on a computer with it to make a stick by hand, in order; see `commandText` for what is filled in. */
  stickCommands: z.array(CommandSchema).max(12).default([]),
  /** Globs of files that it makes by itself, and that nobody misses. */
  noise: z.array(z.string().min(1).max(200)).default([]),
});

export const activationKinds = ['digital', 'account-bound', 'key', 'volume', 'none'] as const;

/** How an installer gets to the device; see `route/installerMedia`. */
export const installerMediumIds = ['stick', 'optical-disc', 'disk-partition', 'running-system'] as const;
export type InstallerMediumId = (typeof installerMediumIds)[number];

/**
 * What Secure Boot makes of a loader: signed by the key that every firmware carries, by another one that the firmware
 * may be told to accept (UEFI 2.10, 32.3), or by none.
 */
export const loaderSignatures = ['signed', 'third-party', 'unsigned'] as const;
export type LoaderSignature = (typeof loaderSignatures)[number];

/** How an image gets onto a stick: the maker’s own tool, a writer of images block by block, or files copied by hand. */
export const mediumWays = ['makers-tool', 'image-writer', 'by-hand'] as const;
export type MediumWay = (typeof mediumWays)[number];

/** When disk encryption can be switched on. */
export const encryptionMoments = ['during-setup', 'after'] as const;

/** What set-up of a release would ask for or do by itself, and can be told to do without. */
export const setUpSkips = ['network', 'account', 'encryption'] as const;
export type SetUpSkip = (typeof setUpSkips)[number];

/** How an installer joins a wireless network: by a page of its own, by commands that are typed, or not at all. */
const wirelessWays = ['page', 'commands', 'none'] as const;

const defaultLoaderBytes = 36 * 1024 ** 2;

const releaseShape = {
  id,
  family: id,
  name: z.string().min(1),
  version: z.int().min(0),
  edition: z.string(),
  wordBits: z.union([z.literal(32), z.literal(64)]),
  languages: z.array(z.string()).min(1),
  requirements: z.array(RequirementSchema),
  /** Releases that may be upgraded to this one in place. */
  upgradesFrom: z.array(id),
  /** Free bytes on the system partition that an in-place upgrade needs. */
  upgradeFreeBytes: z.int().min(0),
  /** Bytes that the installed system takes. */
  systemBytes: z.int().positive(),
  imageBytes: z.int().positive(),
  largestImageFileBytes: z.int().positive(),
  imageSha256: z.string().regex(/^[0-9a-f]{64}$/),
  firmwareModes: z.array(z.enum(['uefi', 'legacy'])).min(1),
  /** Whose signature its loaders carry, as Secure Boot sees them; catalogues of earlier releases never said. */
  loader: z.enum(loaderSignatures).default('signed'),
  /** Partitions that the installer makes by itself besides the system's own, in disk order. */
  installerPartitions: z.array(
    z.strictObject({
      purpose: z.enum(['efi', 'reserved', 'recovery', 'boot']),
      sizeBytes: z.int().positive(),
    }),
  ),
  activation: z.array(z.enum(activationKinds)).min(1),
  /** Network drivers that come with the release, by the driver's name. */
  bundledDrivers: z.array(z.string()),
  installMinutes: z.strictObject({ low: z.number(), likely: z.number(), high: z.number() }),
  restarts: z.int().min(0),
  /** The ways in which its installer can be brought to the device. */
  bringings: z.array(z.enum(installerMediumIds)).min(1),
  /** Where its image is fetched, the first source first; none where nobody has listed them. */
  imageSources: z.array(z.string().trim().min(1).max(300)).max(4).default([]),
  /** Whether its maker publishes a signature of the image beside the checksum. */
  imageSigned: z.boolean().default(false),
  /** The ways in which a stick of it can be made. */
  mediumWays: z
    .array(z.enum(mediumWays))
    .min(1)
    .default([...mediumWays]),
  /** How its media are made, in a sentence or two; empty where nothing is to be minded. */
  mediaRecipe: z.string(),
  /** The name that the volume with its installer has, and is offered by at the start; empty where it needs none. */
  volumeName: z.string().trim().max(32).default(''),
  /** Whether the first start goes no further without a network. */
  firstStartNetwork: z.boolean(),
  /** How its set-up is told to go on without what it asks for or does by itself, and what that costs; what is not listed cannot be skipped. */
  setUpWithout: z
    .array(
      z.strictObject({
        what: z.enum(setUpSkips),
        how: z.string().trim().min(1).max(400),
        consequence: z.string().trim().min(1).max(400),
      }),
    )
    .max(setUpSkips.length)
    .default([]),
  /** Whether its set-up encrypts the disks without being asked. */
  encryptsByItself: z.boolean().default(false),
  /** How its installer joins a wireless network. */
  wireless: z.enum(wirelessWays).default('page'),
  /** What is typed to join one, in order: list the adapters, scan, connect, test. */
  wirelessCommands: z.array(CommandSchema).max(8).default([]),
  /** Pages of its installer in their order; none while nobody has listed them. */
  pages: z.array(InstallerPageSchema).max(60).default([]),
  /** What the size boxes of its installer mean, whatever they say. */
  sizeBoxUnit: z.enum(boxUnits).default('MiB'),
  /** Whether the size typed for the system has to hold the installer's own small partitions. */
  sizeHoldsOwn: z.boolean().default(true),
  /** The file system that its system partition gets. */
  systemFileSystem: z.string().trim().min(1).max(32).default('NTFS'),
  /** Whether its partition page asks where each partition is mounted. */
  mountPoints: z.boolean().default(false),
  /** Bytes that it puts on the EFI system partition. */
  loaderBytes: z.int().positive().default(defaultLoaderBytes),
  /** Accounts that its set-up offers. */
  accounts: z
    .array(z.enum(accountKinds))
    .min(1)
    .default([...accountKinds]),
  /** When its disk encryption can be switched on. */
  encryptsAt: z
    .array(z.enum(encryptionMoments))
    .min(1)
    .default([...encryptionMoments]),
  /** What it keeps in the clock of the firmware. */
  clock: z.enum(['local', 'utc']).default('local'),
  /** Days in which an upgrade to it can be taken back; 0: it cannot, or nobody has said. */
  goBackDays: z.int().min(0).max(365).default(0),
  /** Bytes of the recovery medium that it makes of itself; 0: it makes none, or nobody has said. */
  recoveryMediumBytes: z.int().min(0).default(0),
  /** Whether its maker asks that a system is up to date before it is upgraded to this one. */
  presentUpdatedFirst: z.boolean().default(false),
  /** What keeping it going takes. */
  upkeep: z.enum(upkeeps).default('easy'),
  /** What a licence costs, whole units of the house's currency; 0 where none is needed or it comes along. */
  licencePrice: z.int().min(0),
};

export const ReleaseSchema = z.strictObject({
  ...releaseShape,
  /** Last day with fixes; null for a rolling system that has no such day. */
  fixesUntil: day.nullable(),
  extendedUntil: day.nullable(),
});

const dayFromStart = z.union([z.strictObject({ daysFromStart: z.int() }), day, z.null()]);

/** As it stands in `data/catalogue`: support days may count from the day of the first start. */
const ReleaseFileSchema = z.strictObject({
  ...releaseShape,
  fixesUntil: dayFromStart,
  extendedUntil: dayFromStart,
});

export const limitedParts = ['graphics', 'display', 'sound', 'wireless'] as const;

/** Parts of a computer that a set of drivers serves. */
export const driverParts = ['network', 'graphics', 'sound', 'storage', 'camera'] as const;
export type DriverPart = (typeof driverParts)[number];

export const ModelSchema = z.strictObject({
  id,
  maker: z.string().min(1),
  model: z.string().min(1),
  chassis: z.enum(['laptop', 'desktop']),
  fromYear: z.int(),
  toYear: z.int(),
  bootMenuKey: z.string().nullable(),
  setupKey: z.string().nullable(),
  /** What the board can take at most. */
  memoryCeilingBytes: z.int().positive(),
  uefiCapable: z.boolean(),
  /** The security chip that the board carries, whether switched on or not. */
  tpm: z.enum(['none', '1.2', '2.0']),
  secureBootCapable: z.boolean(),
  /** For vendor-locked computers: the last release that the maker supports on it. */
  lastRelease: id.exactOptional(),
  /** For vendor-locked computers: releases beyond the ceiling that run with a boot shim and a driver patch. */
  patch: z
    .strictObject({
      releases: z.array(id).min(1),
      /** Held at every start until the shim is made the default. */
      startKey: z.string().min(1),
      limits: z.array(z.strictObject({ part: z.enum(limitedParts), sentence: z.string().min(1) })),
    })
    .exactOptional(),
  /** Places for a disk. */
  diskBays: z.int().min(1).max(16),
  /** Sets of drivers that its maker gives for a family: where each is got, and which parts it serves. */
  driverSets: z
    .array(
      z.strictObject({
        family: id,
        from: z.string().trim().min(1).max(300),
        serves: z.array(z.enum(driverParts)).min(1),
      }),
    )
    .max(12)
    .default([]),
  /** What its firmware does differently, a sentence each. */
  quirks: z.array(z.string().min(1)),
});

export const ApplicationSchema = z.strictObject({
  id,
  name: z.string().min(1),
  /** The family that it exists for, when there is only one and nothing else opens its files. */
  lockedToFamily: id.exactOptional(),
  /** Per family: the application that opens the same files. */
  equivalents: z.record(id, z.string()),
  /** The kinds of files that it keeps, and the families whose equivalent opens them whole. */
  formats: z.array(z.strictObject({ name: z.string().min(1), survivesIn: z.array(id) })),
  /** What it keeps of the owner's beside the documents. */
  keeps: z.array(KeepsakeSchema).default([]),
});

export const CatalogueSchema = z.strictObject({
  families: z.array(FamilySchema),
  releases: z.array(ReleaseSchema),
  models: z.array(ModelSchema),
  applications: z.array(ApplicationSchema),
});

export const CatalogueFileSchema = z.strictObject({
  families: z.array(FamilySchema),
  releases: z.array(ReleaseFileSchema),
  models: z.array(ModelSchema),
  applications: z.array(ApplicationSchema),
});

/** The parts of a catalogue, in the order in which they are shown. */
export const catalogueKinds = ['families', 'releases', 'models', 'applications'] as const;
export type CatalogueKind = (typeof catalogueKinds)[number];
export const entrySchemas = {
  families: FamilySchema,
  releases: ReleaseSchema,
  models: ModelSchema,
  applications: ApplicationSchema,
} as const;
export type CatalogueEntry = Catalogue[CatalogueKind][number];

export type Keepsake = z.infer<typeof KeepsakeSchema>;
export type Family = z.infer<typeof FamilySchema>;
export type Release = z.infer<typeof ReleaseSchema>;
export type Model = z.infer<typeof ModelSchema>;
export type Application = z.infer<typeof ApplicationSchema>;
export type Catalogue = z.infer<typeof CatalogueSchema>;
export type CatalogueFile = z.infer<typeof CatalogueFileSchema>;
export type Activation = (typeof activationKinds)[number];
