import { fail, succeed, type Outcome } from '../../outcome/outcome';

/** The GUID of an unused entry. */
export const nilGuid = '00000000-0000-0000-0000-000000000000';

const pattern = /^[0-9A-F]{8}-[0-9A-F]{4}-[0-9A-F]{4}-[0-9A-F]{4}-[0-9A-F]{12}$/;

/**
 * A GUID as it stands on disk: the first three groups little-endian, the rest as written
 * (UEFI 2.10, appendix A).
 * @example guidBytes('C12A7328-F81F-11D2-BA4B-00A0C93EC93B')[0] // 0x28
 */
export function guidBytes(guid: string): Uint8Array {
  const digits = guid.replaceAll('-', '');
  const bytes = new Uint8Array(16);
  onDisk.forEach((from, to) => {
    bytes[to] = Number.parseInt(digits.slice(from * 2, from * 2 + 2), 16);
  });
  return bytes;
}

/** Which written byte stands at each place on disk. */
const onDisk = [3, 2, 1, 0, 5, 4, 7, 6, 8, 9, 10, 11, 12, 13, 14, 15] as const;

/** The written form, upper case, of 16 bytes on disk. */
export function printGuid(view: DataView, offset: number): string {
  const written = new Array<string>(16).fill('');
  onDisk.forEach((to, from) => {
    written[to] = view
      .getUint8(offset + from)
      .toString(16)
      .padStart(2, '0');
  });
  return written
    .join('')
    .replace(/^(.{8})(.{4})(.{4})(.{4})/, '$1-$2-$3-$4-')
    .toUpperCase();
}

/** Reads a GUID as people write it, in either case, with braces or without. */
export function parseGuid(text: string): Outcome<string> {
  const guid = text
    .trim()
    .replace(/^\{(.*)\}$/, '$1')
    .toUpperCase();
  return pattern.test(guid)
    ? succeed(guid)
    : fail(
        'guid-unreadable',
        '',
        `“${text}” is not a GUID: write it like C12A7328-F81F-11D2-BA4B-00A0C93EC93B.`,
      );
}

/** Gives so many random bytes; core has none of its own. */
export type Random = (byteCount: number) => Uint8Array;

/** A GUID of version 4 (RFC 9562, 5.4) from random bytes that are handed in. */
export function newGuid(random: Random): string {
  const bytes = new Uint8Array(16);
  bytes.set(random(16).subarray(0, 16));
  const view = new DataView(bytes.buffer);
  // Version and variant stand in the written bytes 6 and 8; on disk those are places 7 and 8.
  view.setUint8(7, (view.getUint8(7) & 0x0f) | 0x40);
  view.setUint8(8, (view.getUint8(8) & 0x3f) | 0x80);
  return printGuid(view, 0);
}
