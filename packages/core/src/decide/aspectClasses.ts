import type { Catalogue } from '../catalogue/catalogue';
import type { Requirement, RequirementKind } from '../catalogue/requirement';
import { printApart, type UnitFamily } from '../quantity/bytes';
import type { FactKey } from '../survey/facts';
import type { FactPatch } from '../survey/patch';

/** One class of values of an aspect: every value in it gives the same answer to every rule. */
export type AspectClass = {
  /** In words, as a condition: “8.0 GiB of memory or more”. */
  readonly when: string;
  /** Facts with a value of the class. */
  readonly patch: FactPatch;
  /** Whether the present value is of this class. */
  readonly isPresent: boolean;
  /** For numbers: the class begins here, and ends where the next one begins. */
  readonly from?: number;
  /** For numbers, in words: its beginning, null for the lowest; and its end, null for none. */
  readonly range?: { readonly from: string | null; readonly to: string | null };
};

/** A run of numbers in words. @example rangeText({ from: null, to: '4 GiB' }) // 'less than 4 GiB' */
export function rangeText({ from, to }: NonNullable<AspectClass['range']>): string {
  if (from === null) return to === null ? 'any' : `less than ${to}`;
  return to === null ? `${from} or more` : `${from} or more, less than ${to}`;
}

/** Something about the device that could be different or is not known yet. */
export type Aspect = {
  readonly id: string;
  readonly label: string;
  readonly key: FactKey;
  readonly isKnown: boolean;
  /** The present value of a size, told apart from every limit. */
  readonly now?: string;
  readonly classes: readonly AspectClass[];
};

/** Adds one aspect. */
export type Tell = (
  key: FactKey,
  label: string,
  classes: readonly AspectClass[],
  more?: {
    readonly id?: string;
    readonly now?: string;
    /** What everybody takes for granted while nobody has looked: no question. */
    readonly isTaken?: boolean;
  },
) => void;

/** What the releases ask for, of one kind of requirement. */
export function minima<K extends RequirementKind>(
  { releases }: Catalogue,
  kind: K,
  read: (requirement: Extract<Requirement, { kind: K }>) => number,
): number[] {
  return releases.flatMap(({ requirements }) =>
    requirements.flatMap((requirement) => (isOf(requirement, kind) ? [read(requirement)] : [])),
  );
}

function isOf<K extends RequirementKind>(
  requirement: Requirement,
  kind: K,
): requirement is Extract<Requirement, { kind: K }> {
  return requirement.kind === kind;
}

/** Splits the whole numbers from `lowest` on at the places where some rule answers differently. */
export function numberClasses(
  cuts: readonly number[],
  lowest: number,
  highest: number,
  present: number | undefined,
  patch: (value: number) => FactPatch,
  print: (value: number, present: number | undefined) => string,
): AspectClass[] {
  const starts = [...new Set([lowest, ...cuts.filter((cut) => cut > lowest && cut <= highest)])].sort(
    (a, b) => a - b,
  );
  return starts.map((from, index) => {
    const end = starts[index + 1];
    const range = {
      from: index === 0 ? null : print(from, present),
      to: end === undefined ? null : print(end, present),
    };
    return {
      when: rangeText(range),
      range,
      patch: patch(from),
      from,
      isPresent: present !== undefined && present >= from && (end === undefined || present < end),
    };
  });
}

/** One class for each of a few values. */
export function wordClasses<T extends string | number>(
  values: readonly T[],
  present: T | undefined,
  patch: (value: T) => FactPatch,
  words: (value: T) => string = String,
): AspectClass[] {
  return values.map((value) => ({ when: words(value), patch: patch(value), isPresent: value === present }));
}

/** A limit in bytes, told apart from what the device has. */
export const limitBytes =
  (family: UnitFamily) =>
  (limit: number, present: number | undefined): string =>
    printApart(limit, present === undefined ? [] : [present], family);
