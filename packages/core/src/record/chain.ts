import canonicalize from 'canonicalize';
import { z } from 'zod';
import { EventSchema } from './event';

/** What the first line of a chain holds in place of the code of a line before. */
export const chainStart = '0'.repeat(64);

/** SHA-256 of a text in UTF-8, as 64 hexadecimal digits. Given, because core does no cryptography of its own. */
type Sha256 = (text: string) => string;

const code = z.string().regex(/^[0-9a-f]{64}$/);

/** One line of the log, tied to the line before and to the record after it. */
export const ChainLineSchema = EventSchema.extend({
  importedBy: z.string().nullable(),
  /** Place in its chain, from 1. */
  number: z.int().min(1),
  /** SHA-256 of the record after this line (canonical JSON, RFC 8785); null where that was not known. */
  recordHash: code.nullable(),
  /** The code of the line before. */
  previous: code,
  /** The code of this line. */
  hash: code,
});

export type ChainLine = z.infer<typeof ChainLineSchema>;
export type ChainContent = Omit<ChainLine, 'number' | 'previous' | 'hash'>;
/** Where a chain ends: how many lines it has, and the code of the last one. */
export type ChainHead = { readonly count: number; readonly hash: string };

/** The code of a record: its JSON in canonical form (RFC 8785), so that the order of its fields does not matter. */
export function recordHashOf(record: unknown, sha256: Sha256): string {
  return sha256(canonicalize(record) ?? 'null');
}

/**
 * What a line's code is made of: a JSON array of the code before, the move's id (null for the house),
 * the number, the instant in UTC with milliseconds, who, kind, sentence, who imported it, and the record's code.
 */
export function chainText(
  owner: string | null,
  { previous, number, at, by, kind, sentence, importedBy, recordHash }: Omit<ChainLine, 'hash'>,
): string {
  return JSON.stringify([
    previous,
    owner,
    number,
    new Date(at).toISOString(),
    by,
    kind,
    sentence,
    importedBy,
    recordHash,
  ]);
}

/** Ties new lines to the end of a chain. @param owner the move's id, null for the house */
export function extendChain(
  head: ChainHead,
  owner: string | null,
  contents: readonly ChainContent[],
  sha256: Sha256,
): { readonly lines: readonly ChainLine[]; readonly head: ChainHead } {
  const lines: ChainLine[] = [];
  let { count, hash } = head;
  for (const content of contents) {
    const line = { ...content, number: count + 1, previous: hash };
    hash = sha256(chainText(owner, line));
    count += 1;
    lines.push({ ...line, hash });
  }
  return { lines, head: { count, hash } };
}

export type ChainFault = {
  /** The first line that does not fit; what stands before it is proved. */
  readonly number: number;
  readonly kind: 'missing' | 'does-not-fit' | 'changed' | 'backdated' | 'added' | 'record';
  readonly sentence: string;
};

export type ChainCheck = {
  readonly lines: number;
  readonly head: string;
  readonly fault: ChainFault | null;
};

/** Clocks of several servers may differ by so much. */
const toleranceMs = 60_000;

function faultOfLine(
  owner: string | null,
  line: ChainLine,
  before: ChainLine | undefined,
  sha256: Sha256,
): ChainFault | null {
  const expected = (before?.number ?? 0) + 1;
  const fault = (kind: ChainFault['kind'], sentence: string): ChainFault => ({
    number: Math.min(line.number, expected),
    kind,
    sentence,
  });
  if (line.number > expected)
    return fault('missing', `Line ${expected} is missing: line ${line.number} follows line ${expected - 1}.`);
  if (line.number < expected) return fault('added', `There are two lines ${line.number}.`);
  if (sha256(chainText(owner, line)) !== line.hash)
    return fault('changed', `Line ${line.number} was changed after it was written: its code is another now.`);
  if (line.previous !== (before?.hash ?? chainStart))
    return fault(
      'does-not-fit',
      before
        ? `Line ${line.number} does not fit line ${before.number}: one of them was altered.`
        : 'Line 1 is not the beginning of a chain: what was before it is gone.',
    );
  if (
    before &&
    line.importedBy === null &&
    before.importedBy === null &&
    Date.parse(line.at) < Date.parse(before.at) - toleranceMs
  )
    return fault('backdated', `Line ${line.number} is dated before line ${before.number}.`);
  return null;
}

/**
 * Checks a chain from its first line on and names the first line that does not fit: changed, missing,
 * added, backdated, or a record that is not the one after the last line.
 * @param owner the move's id, null for the house
 * @param lines in the order of their numbers
 * @param head where the chain ends by what is kept beside it
 * @param recordHash code of the record as it is now; null for a chain without one
 */
export function checkChain(
  owner: string | null,
  lines: readonly ChainLine[],
  head: ChainHead,
  recordHash: string | null,
  sha256: Sha256,
): ChainCheck {
  const result = (fault: ChainFault | null): ChainCheck => ({ lines: lines.length, head: head.hash, fault });
  let before: ChainLine | undefined;
  for (const line of lines) {
    const fault = faultOfLine(owner, line, before, sha256);
    if (fault) return result(fault);
    before = line;
  }
  const count = before?.number ?? 0;
  if (count < head.count)
    return result({
      number: count + 1,
      kind: 'missing',
      sentence: `Line ${count + 1} is missing: ${head.count} lines were written, and ${count} are here.`,
    });
  if (count > head.count)
    return result({
      number: head.count + 1,
      kind: 'added',
      sentence: `Line ${head.count + 1} was added behind the application’s back: ${head.count} lines were written.`,
    });
  if (count > 0 && before?.hash !== head.hash)
    return result({
      number: count,
      kind: 'does-not-fit',
      sentence: `Line ${count} is not the last line that was written: its code is another.`,
    });
  const known = lines.findLast((line) => line.recordHash !== null);
  if (recordHash !== null && known && known.recordHash !== recordHash)
    return result({
      number: known.number,
      kind: 'record',
      sentence: `The record is not the one that line ${known.number} left: it was edited behind the log’s back.`,
    });
  return result(null);
}
