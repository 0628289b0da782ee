import { loaderSignatures } from '@ulvane/core/catalogue';
import { requirementKinds } from '@ulvane/core/catalogue';
import { routeIds } from '@ulvane/core/route';
import { termIds } from '@ulvane/core/rules';
import { gateIds, StepSchema } from '@ulvane/core/runbook';
import { factKeys } from '@ulvane/core/survey';
import { z } from 'zod';
import { version } from './shapes';

const minutes = z.int().min(0);
const sentences = z.array(z.string());

const WaiverSchema = z.object({
  rule: z.enum(requirementKinds),
  sentence: z.string(),
  consequence: z.string(),
});

/** One way that a device could go, with its verdict, its reasons, and what the steps of its plan come to. */
const OptionSchema = z.object({
  routeId: z.enum(routeIds),
  releaseId: z.string().nullable(),
  title: z.string(),
  status: z.enum(['allowed', 'undecided', 'excluded']),
  reasons: z.array(
    z.object({
      rule: z.string(),
      facts: z.array(z.enum(factKeys)),
      finding: z.enum(['allows', 'excludes', 'unknown']),
      sentence: z.string(),
      howToFind: z.string().exactOptional(),
    }),
  ),
  /** Checks that the installer would be told to skip. */
  waivers: z.array(WaiverSchema),
  /** Checks that may be skipped instead of being fixed. */
  mayWaive: z.array(WaiverSchema),
  keeps: sentences,
  loses: sentences,
  cautions: sentences,
  handsOnMinutes: minutes,
  waitingMinutes: minutes,
  cost: z.number().min(0),
  supportedUntil: z.string().nullable(),
  /** 0 to 100, by the weights of the house rules. */
  points: z.number(),
  /** Advised whatever the points: nothing has to be done, and nothing else is wanted. */
  leads: z.boolean(),
  values: z.record(z.enum(termIds), z.number()),
});

export const OptionsSchema = z.object({
  version,
  /** The best allowed one. */
  advised: z.object({ routeId: z.enum(routeIds), releaseId: z.string().nullable() }),
  /** Allowed ones first by points, then undecided, then excluded. */
  options: z.array(OptionSchema),
  /** Facts that contradict each other, and models that cannot be told apart. */
  problems: sentences,
});

const mode = z.enum(['uefi', 'legacy']);
const systemId = z.enum(['present', 'target']);

/** The machine at one moment of a plan. */
const MachineSchema = z.object({
  firmware: z.object({
    starts: z.array(mode),
    can: z.array(mode),
    secureBoot: z.enum(['none', 'off', 'on']),
    othersLoaders: z.boolean(),
    chip: z.enum(['none', 'off', 'on']),
    usbStart: z.boolean(),
    first: z.enum(['disk', 'medium']),
  }),
  disks: z.array(
    z.object({
      id: z.string(),
      called: z.string(),
      scheme: z.enum(['gpt', 'mbr', 'none']),
      plugged: z.boolean(),
      identified: z.boolean(),
      toldApart: z.boolean(),
      capsule: z.boolean(),
      room: z.boolean(),
      partitions: z.array(
        z.object({
          number: z.int(),
          role: z
            .enum(['efi', 'reserved', 'system', 'data', 'recovery', 'boot', 'swap', 'installer'])
            .optional(),
        }),
      ),
    }),
  ),
  systems: z.array(
    z.object({
      id: systemId,
      disk: z.string(),
      mode,
      needsShim: z.boolean(),
      signature: z.enum(loaderSignatures),
      loader: z.boolean(),
      setUp: z.boolean(),
      shutDownFully: z.boolean(),
      encryption: z.enum(['off', 'locked', 'suspended']),
      licence: z.enum(['none-needed', 'open', 'active']),
      networkDriver: z.boolean(),
      driversFitted: z.boolean(),
      updated: z.boolean(),
      onNetwork: z.boolean(),
    }),
  ),
  installer: z.object({
    kind: z.enum(['stick', 'disc', 'partition', 'image']),
    written: z.boolean(),
    modes: z.array(mode),
    signature: z.enum(loaderSignatures),
    shim: z.boolean(),
    plugged: z.boolean(),
  }),
  running: z.discriminatedUnion('what', [
    z.object({ what: z.literal('off') }),
    z.object({ what: z.literal('firmware') }),
    z.object({ what: z.literal('system'), system: systemId }),
    z.object({ what: z.literal('installer'), mode, inside: z.boolean() }),
    z.object({ what: z.literal('live'), mode }),
  ]),
  onMains: z.boolean(),
  /** Parts without which the new system does not run. */
  lacking: z.array(z.enum(['memory', 'disk', 'adapter'])),
  /** Other disks that only the present system unlocks. */
  unlockedByPresent: z.array(z.string()),
  data: z.array(
    z.object({
      id: z.string(),
      name: z.string(),
      original: z.union([
        z.enum(['elsewhere', 'gone']),
        z.object({ disk: z.string(), role: z.enum(['system', 'data']) }),
      ]),
      /** Destinations with a copy that nobody has compared yet, and those with one that counts. */
      unproven: z.array(z.string()),
      good: z.array(z.string()),
      back: z.boolean(),
    }),
  ),
  notes: z.array(z.string()),
  shimOnDisk: z.boolean(),
  menu: z.boolean(),
  dataPartition: z.boolean(),
  firewall: z.boolean(),
  encryptedAnew: z.boolean(),
  recovery: z.enum(['not-offered', 'missing', 'at-hand']),
});

const GateReadingSchema = z.object({
  id: z.enum(gateIds),
  title: z.string(),
  state: z.enum(['green', 'closed', 'overruled']),
  sentence: z.string(),
  reasons: sentences,
  proof: z.string().nullable(),
});

export const RunbookViewSchema = z.object({
  version,
  title: z.string(),
  lineIndex: z.int().min(0).nullable(),
  lineSentence: z.string().nullable(),
  /** Gates on the Line; empty until the runbook is made. */
  gates: z.array(GateReadingSchema),
  /** How the runbook that was made differs from this one; null until one is made. */
  differences: sentences.nullable(),
  before: MachineSchema,
  /** So many states does the survey leave possible: the plan holds in each, and the states here are those of one. */
  possible: z.int().min(1),
  steps: z.array(
    z.object({
      number: z.int().min(1),
      step: StepSchema,
      /** What it does to the machine, in this order; empty for a courtesy. */
      operators: z.array(z.looseObject({ op: z.string() })),
      /** Null until the runbook is made. */
      standing: z
        .object({ state: z.enum(['signed', 'waiting', 'open', 'locked']), reason: z.string().nullable() })
        .nullable(),
      /** Gates of the barrier before it; empty where none stands there. */
      barrier: z.array(GateReadingSchema),
      after: MachineSchema,
    }),
  ),
});
