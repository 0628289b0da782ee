import { createHash } from 'node:crypto';
import {
  extendChain,
  recordHashOf,
  type ChainContent,
  type ChainHead,
  type ChainLine,
} from '@ulvane/core/record';

/** SHA-256 of a text in UTF-8, as hexadecimal digits. */
export function sha256(text: string): string {
  return createHash('sha256').update(text, 'utf8').digest('hex');
}

/** The code of a record as it is stored. */
export function hashOfRecord(record: unknown): string {
  return recordHashOf(record, sha256);
}

/** Core's chain, with this server's SHA-256. */
export function chain(
  head: ChainHead,
  owner: string | null,
  contents: readonly ChainContent[],
): { readonly lines: readonly ChainLine[]; readonly head: ChainHead } {
  return extendChain(head, owner, contents, sha256);
}
