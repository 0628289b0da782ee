import { dequal } from 'dequal';
import { z } from 'zod';
import { activationKinds } from '../catalogue/catalogue';
import { DiskSchema } from './disk';
import { InstantSchema } from '../quantity/daySchema';

export const factSources = ['collector', 'imported', 'practice-machine', 'typed'] as const;

/** A measured or typed value with where it comes from and when (ISO instant). */
function fact<S extends z.ZodType>(value: S) {
  const found = {
    value,
    source: z.enum(factSources),
    at: InstantSchema,
    by: z.string().exactOptional(),
  };
  // What was typed last where this was measured, or the other way round: the two need not be the same.
  return z.strictObject({ ...found, other: z.strictObject(found).exactOptional() });
}

const text = z.string().trim().min(1).max(200);

export const NetworkAdapterSchema = z.strictObject({
  name: text,
  kind: z.enum(['wired', 'wireless']).exactOptional(),
  driver: text.exactOptional(),
});

/** Printers, scanners and the like that stay when the system changes. */
const AttachedDeviceSchema = z.strictObject({ name: text, needsDriver: z.boolean().exactOptional() });

/** A graphics chip; a computer may have two, one of them for the battery's sake. */
const GraphicsChipSchema = z.strictObject({ name: text, driver: text.exactOptional() });

/** Where discs are read: in the device, by a drive on USB that is at hand, or nowhere. */
export const opticalDrives = ['internal', 'external', 'none'] as const;

/** How the storage controller shows the disks: plainly, as members of an array, or as in the old days. */
export const storageModes = ['ahci', 'raid', 'ide'] as const;

/** What the present licence is tied to: this board, another one (or another computer), or none, as it was bought apart. */
export const licenceOwners = ['this-board', 'another-board', 'no-board'] as const;

/** The value of each fact. An absent fact is unknown: never a no and never a yes. */
export const factValueSchemas = {
  maker: text,
  model: text,
  serial: text,
  year: z.int().min(1985).max(2100),
  chassis: z.enum(['laptop', 'desktop']),
  processorName: text,
  wordBits: z.union([z.literal(32), z.literal(64)]),
  cores: z.int().min(1).max(1024),
  clockMhz: z.int().min(1).max(20_000),
  cpuFlags: z.array(z.string().max(40)).max(400),
  memoryBytes: z.int().positive(),
  firmwareMode: z.enum(['uefi', 'legacy', 'uefi-with-legacy']),
  secureBoot: z.enum(['on', 'off', 'not-supported']),
  tpm: z.enum(['none', 'present-off', '1.2', '2.0']),
  graphicsTier: z.int().min(0).max(4),
  screenWidth: z.int().min(1).max(32_768),
  screenHeight: z.int().min(1).max(32_768),
  disks: z.array(DiskSchema).max(32),
  networkAdapters: z.array(NetworkAdapterSchema).max(32),
  batteryPercent: z.int().min(0).max(100),
  charger: z.enum(['connected', 'not-connected']),
  presentRelease: text,
  presentLanguage: text,
  activation: z.enum(activationKinds),
  diskEncryption: z.enum(['on', 'off']),
  fastStart: z.enum(['on', 'off']),
  applications: z.array(text).max(500),
  recoveryKeyPlace: text,
  accounts: z.array(text).max(100),
  licencesHeld: z.array(text).max(50),
  attachedDevices: z.array(AttachedDeviceSchema).max(50),
  graphicsChips: z.array(GraphicsChipSchema).max(8),
  opticalDrive: z.enum(opticalDrives),
  bootFromFile: z.enum(['yes', 'no']),
  storageMode: z.enum(storageModes),
  licenceBelongsTo: z.enum(licenceOwners),
} as const;

export type FactKey = keyof typeof factValueSchemas;
export type FactValue<K extends FactKey> = z.infer<(typeof factValueSchemas)[K]>;

export const FactsSchema = z.strictObject({
  maker: fact(factValueSchemas.maker).exactOptional(),
  model: fact(factValueSchemas.model).exactOptional(),
  serial: fact(factValueSchemas.serial).exactOptional(),
  year: fact(factValueSchemas.year).exactOptional(),
  chassis: fact(factValueSchemas.chassis).exactOptional(),
  processorName: fact(factValueSchemas.processorName).exactOptional(),
  wordBits: fact(factValueSchemas.wordBits).exactOptional(),
  cores: fact(factValueSchemas.cores).exactOptional(),
  clockMhz: fact(factValueSchemas.clockMhz).exactOptional(),
  cpuFlags: fact(factValueSchemas.cpuFlags).exactOptional(),
  memoryBytes: fact(factValueSchemas.memoryBytes).exactOptional(),
  firmwareMode: fact(factValueSchemas.firmwareMode).exactOptional(),
  secureBoot: fact(factValueSchemas.secureBoot).exactOptional(),
  tpm: fact(factValueSchemas.tpm).exactOptional(),
  graphicsTier: fact(factValueSchemas.graphicsTier).exactOptional(),
  screenWidth: fact(factValueSchemas.screenWidth).exactOptional(),
  screenHeight: fact(factValueSchemas.screenHeight).exactOptional(),
  disks: fact(factValueSchemas.disks).exactOptional(),
  networkAdapters: fact(factValueSchemas.networkAdapters).exactOptional(),
  batteryPercent: fact(factValueSchemas.batteryPercent).exactOptional(),
  charger: fact(factValueSchemas.charger).exactOptional(),
  presentRelease: fact(factValueSchemas.presentRelease).exactOptional(),
  presentLanguage: fact(factValueSchemas.presentLanguage).exactOptional(),
  activation: fact(factValueSchemas.activation).exactOptional(),
  diskEncryption: fact(factValueSchemas.diskEncryption).exactOptional(),
  fastStart: fact(factValueSchemas.fastStart).exactOptional(),
  applications: fact(factValueSchemas.applications).exactOptional(),
  recoveryKeyPlace: fact(factValueSchemas.recoveryKeyPlace).exactOptional(),
  accounts: fact(factValueSchemas.accounts).exactOptional(),
  licencesHeld: fact(factValueSchemas.licencesHeld).exactOptional(),
  attachedDevices: fact(factValueSchemas.attachedDevices).exactOptional(),
  graphicsChips: fact(factValueSchemas.graphicsChips).exactOptional(),
  opticalDrive: fact(factValueSchemas.opticalDrive).exactOptional(),
  bootFromFile: fact(factValueSchemas.bootFromFile).exactOptional(),
  storageMode: fact(factValueSchemas.storageMode).exactOptional(),
  licenceBelongsTo: fact(factValueSchemas.licenceBelongsTo).exactOptional(),
});

export type Facts = z.infer<typeof FactsSchema>;
export type FactSource = (typeof factSources)[number];

export const factKeys = Object.keys(factValueSchemas).filter(
  (key): key is FactKey => key in factValueSchemas,
);

/** The value of a fact, undefined when unknown. @example valueOf(facts, 'cores') // 4 */
export function valueOf<K extends FactKey>(facts: Facts, key: K): FactValue<K> | undefined {
  // One entry type a key; TypeScript cannot see that the lookup keeps key and value together.
  return (facts[key] as { value: FactValue<K> } | undefined)?.value;
}

/** The value of the present system where it is known that the device has none. */
export const noSystem = 'none';

/** Whether it is known that no system is on the device. */
export function isEmptyDevice(facts: Facts): boolean {
  return valueOf(facts, 'presentRelease') === noSystem;
}

/** What the other source says of a fact, where that is not the same; undefined when there is no disagreement. */
export function disagreement<K extends FactKey>(facts: Facts, key: K): Facts[K] | undefined {
  const { value, other } = facts[key] ?? {};
  // The value beside is of the same fact.
  return other === undefined || dequal(other.value, value) ? undefined : (other as Facts[K]);
}
