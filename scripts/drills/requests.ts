import { z } from 'zod';
import { pick } from './random';

type Random = () => number;

const SchemaSchema = z.looseObject({
  type: z.string().optional(),
  enum: z.array(z.unknown()).optional(),
  properties: z.record(z.string(), z.unknown()).optional(),
  required: z.array(z.string()).optional(),
  items: z.unknown().optional(),
  anyOf: z.array(z.unknown()).optional(),
  oneOf: z.array(z.unknown()).optional(),
  allOf: z.array(z.unknown()).optional(),
  additionalProperties: z.unknown().optional(),
  format: z.string().optional(),
  pattern: z.string().optional(),
});

const OpenApiSchema = z.looseObject({
  paths: z.record(
    z.string(),
    z.record(
      z.string(),
      z.looseObject({
        operationId: z.string(),
        parameters: z.array(z.looseObject({ name: z.string(), in: z.string(), schema: z.unknown() })),
        requestBody: z
          .looseObject({ content: z.record(z.string(), z.looseObject({ schema: z.unknown() })) })
          .optional(),
      }),
    ),
  ),
});

export type Operation = {
  readonly id: string;
  readonly method: string;
  readonly path: string;
  readonly parameters: readonly { readonly name: string; readonly in: string; readonly schema: unknown }[];
  readonly body: unknown;
};

export function operationsOf(document: unknown): Operation[] {
  return Object.entries(OpenApiSchema.parse(document).paths).flatMap(([path, methods]) =>
    Object.entries(methods).map(([method, { operationId, parameters, requestBody }]) => ({
      id: operationId,
      method: method.toUpperCase(),
      path: path.replace('/api/v1', ''),
      parameters,
      body: requestBody?.content['application/json']?.schema,
    })),
  );
}

/** Texts and numbers on which programs trip. */
export const awkward: readonly unknown[] = [
  '',
  ' ',
  'null',
  '\0',
  'a\0b',
  '\ud800',
  'x\udfff y',
  '=1+1',
  '../../etc',
  '%00',
  '%ed%a0%80',
  "'; DROP TABLE move; --",
  '0000-01-01',
  '9999-12-31',
  '10000-01-01',
  '2026-02-30',
  '2026-03-09',
  '00000000-0000-4000-8000-000000000000',
  'MV-0009',
  'MV-99999999999',
  '☃'.repeat(300),
  'a'.repeat(5000),
  0,
  -0,
  -1,
  1,
  0.5,
  1e308,
  2_147_483_647,
  2_147_483_648,
  9_007_199_254_740_991,
  9_007_199_254_740_992,
  1e21,
  true,
  false,
  null,
  [],
  {},
  [[[[[[]]]]]],
];

const plainTexts = ['Ebbing Point', 'Maud Sallow', 'gpt', 'B-07', 'not noted', 'Odd', '2026-03-20'];

function textFor(random: Random, format: string | undefined): string {
  if (format === 'date') return pick(random, ['2026-03-20', '2026-12-31', '1900-01-01', '2999-12-31']);
  if (format === 'date-time') return '2026-03-02T10:00:00.000Z';
  if (format === 'uuid') return '2f0a4d4e-6f4b-4a9d-8a55-0f6f1f0c9a11';
  return pick(random, plainTexts);
}

/** A value that mostly fits a schema, now and then with something awkward in it. */
export function valueFor(given: unknown, random: Random, strangeness: number, depth = 0): unknown {
  if (random() < strangeness) return pick(random, awkward);
  const schema = SchemaSchema.safeParse(given);
  if (!schema.success || depth > 8) return pick(random, awkward);
  const { type, properties, required, items, format, additionalProperties } = schema.data;
  if (schema.data.enum) return pick(random, schema.data.enum);
  const variants = schema.data.anyOf ?? schema.data.oneOf ?? schema.data.allOf;
  if (variants && variants.length > 0)
    return valueFor(pick(random, variants), random, strangeness, depth + 1);
  const inner = (part: unknown) => valueFor(part, random, strangeness, depth + 1);
  switch (type) {
    case 'object': {
      const entries = Object.entries(properties ?? {})
        .filter(([name]) => required?.includes(name) || random() < 0.6)
        .map(([name, part]) => [name, inner(part)] as const);
      const more =
        typeof additionalProperties === 'object' && random() < 0.5
          ? [[pick(random, plainTexts), inner(additionalProperties)]]
          : [];
      return Object.fromEntries([...entries, ...more]);
    }
    case 'array':
      return Array.from({ length: Math.floor(random() * 4) }, () => inner(items));
    case 'integer':
      return pick(random, [0, 1, 2, 3, 7, 500, 4096]);
    case 'number':
      return pick(random, [0, 1, 2.5, 90, 512]);
    case 'boolean':
      return random() < 0.5;
    case 'string':
      return textFor(random, format);
    default:
      return pick(random, awkward);
  }
}
