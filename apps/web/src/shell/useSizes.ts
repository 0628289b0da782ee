import type { Outcome } from '@ulvane/core/outcome';
import { defaultHouseRules, type HouseRules } from '@ulvane/core/rules';
import { parseBytes, printBothUnits, readWrittenNumber, type UnitFamily } from '@ulvane/core/quantity';
import { useMemo } from 'react';
import { z } from 'zod';
import { useHouse } from '../api/useHouse';

export type Sizes = {
  /** The bytes of a text, as this house writes numbers; without a family it is the house's own GB. */
  readonly parse: (text: string, family?: UnitFamily) => Outcome<number>;
  /** For a form's field: a size, or the sentence that says why the text is none. */
  readonly size: z.ZodType<string, string>;
  readonly sizeOrEmpty: z.ZodType<string, string>;
  /** The bytes of a text that `size` has passed; 0 for an empty one. */
  readonly bytesOf: (text: string) => number;
  /** What a text is taken for, to be shown while it is typed; undefined where it is no size. */
  readonly reading: (text: string, family?: UnitFamily) => string | undefined;
  /** The number before a unit; undefined where it is none, or may be two. */
  readonly numberIn: (text: string) => number | undefined;
};

/** Sizes as a house reads them. */
export function sizesOf({ spokenGigabyte, writtenNumbers }: HouseRules): Sizes {
  const parse = (text: string, family: UnitFamily = spokenGigabyte) =>
    parseBytes(text, family, writtenNumbers);
  const size = z.string().superRefine((text, context) => {
    const bytes = parse(text);
    if (!bytes.ok) context.addIssue(bytes.problems[0]?.sentence ?? 'Enter a size, such as 74.2 GB.');
  });
  return {
    parse,
    size,
    sizeOrEmpty: z.literal('').or(size),
    bytesOf: (text) => {
      const bytes = parse(text);
      return bytes.ok ? bytes.value : 0;
    },
    reading: (text, family) => {
      const bytes = parse(text, family);
      return bytes.ok ? `= ${printBothUnits(bytes.value, family)}` : undefined;
    },
    numberIn: (text) => {
      const number = readWrittenNumber(text.trim().replace(/\s*[a-z]+$/i, ''), writtenNumbers);
      return typeof number === 'object' ? Number(`${number.whole}.${number.fraction}`) : undefined;
    },
  };
}

/** Sizes as this house reads them. */
export function useSizes(): Sizes {
  const { house } = useHouse();
  const houseRules = house?.houseRules ?? defaultHouseRules;
  return useMemo(() => sizesOf(houseRules), [houseRules]);
}
