import type { Catalogue } from '@ulvane/core/catalogue';
import { DiskSchema, factKeys, setTypedFact, type Disk, type FactKey, type Facts } from '@ulvane/core/survey';
import { z } from 'zod';
import type { Sizes } from '../../shell/useSizes';
import { factInput } from './factInputs';

export type SheetKey = Exclude<FactKey, 'disks'>;

/** Numbers that a survey measures, and that releases ask for. */
export const measuredKeys: readonly SheetKey[] = [
  'memoryBytes',
  'cores',
  'clockMhz',
  'screenWidth',
  'screenHeight',
  'batteryPercent',
];

/** What has been answered on the sheet and is not saved yet: a text a fact, and the disks once one was changed. */
type SheetDraft = {
  readonly texts: Readonly<Partial<Record<SheetKey, string>>>;
  readonly disks: readonly Disk[] | undefined;
};

/** What is not saved has no time yet. */
const notYet = '1970-01-01T00:00:00.000Z';

export const emptyDraft: SheetDraft = { texts: {}, disks: undefined };

const KeptSchema = z.object({
  texts: z.partialRecord(z.enum(factKeys), z.string()),
  disks: z.array(DiskSchema).optional(),
});

/** A draft as text, for the tab to keep; empty where nothing is answered. */
export function textOfDraft({ texts, disks }: SheetDraft): string {
  const typed = Object.entries(texts).filter(([, text]) => text !== '');
  return typed.length === 0 && disks === undefined
    ? ''
    : JSON.stringify({ texts: Object.fromEntries(typed), disks });
}

/** The draft that the tab kept; an empty one where it is of another release or cut short. */
export function draftOfText(text: string): SheetDraft {
  if (text === '') return emptyDraft;
  try {
    const kept = KeptSchema.safeParse(JSON.parse(text));
    return kept.success ? { texts: kept.data.texts, disks: kept.data.disks } : emptyDraft;
  } catch {
    return emptyDraft;
  }
}

type ReadDraft = {
  readonly values: Readonly<Partial<Record<FactKey, unknown>>>;
  /** The facts as they would be. */
  readonly facts: Facts;
  /** What cannot be read, a sentence a fact. */
  readonly problems: Readonly<Partial<Record<SheetKey, string>>>;
};

/** The answers as values of facts; an empty one is none. */
export function readDraft(
  facts: Facts,
  { texts, disks }: SheetDraft,
  catalogue: Catalogue,
  sizes: Sizes,
): ReadDraft {
  const values: Partial<Record<FactKey, unknown>> = {};
  const problems: Partial<Record<SheetKey, string>> = {};
  let next = facts;
  const take = (key: FactKey, value: unknown): string | undefined => {
    const typed = setTypedFact(next, key, value, notYet, '');
    if (!typed.ok) return typed.problems[0]?.sentence ?? 'It does not fit.';
    next = typed.value;
    values[key] = value;
    return undefined;
  };
  for (const [name, text] of Object.entries(texts)) {
    // The keys are those that the sheet wrote.
    const key = name as SheetKey;
    if (text.trim() === '') continue;
    const read = factInput(key, catalogue, sizes).read(text);
    const problem = 'problem' in read ? read.problem : take(key, read.value);
    if (problem !== undefined) problems[key] = problem;
  }
  if (disks) take('disks', disks);
  return { values, facts: next, problems };
}
