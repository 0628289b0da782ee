import { z } from 'zod';

const waivable = {
  /** Set when the installer can be told to skip the check; the text is what skipping it costs. */
  waiver: z.string().min(1).exactOptional(),
  /** How the installer is told to skip it, where somebody has noted that. */
  skip: z.string().min(1).max(400).exactOptional(),
};

/** One requirement of a release. Every kind is judged by one entry in `assess/rules`. */
export const RequirementSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('word-size'), bits: z.union([z.literal(32), z.literal(64)]) }),
  z.strictObject({ kind: z.literal('cores'), minimum: z.int().positive(), ...waivable }),
  z.strictObject({ kind: z.literal('clock'), minimumMhz: z.int().positive(), ...waivable }),
  z.strictObject({ kind: z.literal('processor-features'), flags: z.array(z.string()).min(1), ...waivable }),
  z.strictObject({ kind: z.literal('memory'), minimumBytes: z.int().positive(), ...waivable }),
  z.strictObject({ kind: z.literal('system-disk'), minimumBytes: z.int().positive() }),
  z.strictObject({ kind: z.literal('firmware-mode'), mode: z.literal('uefi'), ...waivable }),
  z.strictObject({ kind: z.literal('secure-boot'), ...waivable }),
  z.strictObject({ kind: z.literal('tpm'), minimum: z.enum(['1.2', '2.0']), ...waivable }),
  z.strictObject({ kind: z.literal('graphics'), minimumTier: z.int().min(0).max(4), ...waivable }),
  z.strictObject({
    kind: z.literal('screen'),
    minimumWidth: z.int().positive(),
    minimumHeight: z.int().positive(),
    ...waivable,
  }),
  z.strictObject({ kind: z.literal('setup-network') }),
  z.strictObject({ kind: z.literal('model-range'), maker: z.string(), fromYear: z.int() }),
]);

export type Requirement = z.infer<typeof RequirementSchema>;
export type RequirementKind = Requirement['kind'];

/** Every kind, in the order of the schema. */
export const requirementKinds = RequirementSchema.options.map(({ shape }) => shape.kind.value);
