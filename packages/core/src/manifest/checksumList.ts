import { printCount } from '../quantity/count';
import type { FileEntry } from './entry';
import { LineSplitter } from './lineSplitter';
import { ListCollector, type ListOptions, type ListReader } from './listReader';
import { hexValue } from './packed';

const backslash = 0x5c;
const space = 0x20;
const star = 0x2a;
const letterN = 0x6e;
const letterR = 0x72;

/** Lengths in hexadecimal digits of the checksums that people have lists of. */
const otherChecksums: Readonly<Record<number, string>> = {
  32: 'MD5',
  40: 'SHA-1',
  56: 'SHA-224',
  96: 'SHA-384',
  128: 'SHA-512',
};

/** How many hexadecimal digits stand from `start`. */
export function hexRun(bytes: Uint8Array, start: number, lineEnd = bytes.length): number {
  let end = start;
  while (end < lineEnd && (hexValue[bytes[end] ?? 0] ?? 256) < 16) end += 1;
  return end - start;
}

/** 32 bytes out of 64 hexadecimal digits, into an array that the next call uses again. */
export function readDigest(bytes: Uint8Array, start: number, into: Uint8Array): Uint8Array {
  for (let index = 0; index < 32; index += 1)
    into[index] =
      ((hexValue[bytes[start + index * 2] ?? 0] ?? 0) << 4) |
      (hexValue[bytes[start + index * 2 + 1] ?? 0] ?? 0);
  return into;
}

/** Why a checksum of that many digits cannot be taken. */
export function oddHashSentence(line: number, digits: number): string {
  const name = otherChecksums[digits];
  return name
    ? `Line ${line}: a checksum of ${digits} digits is ${name}. Ulvane compares SHA-256: make the list with the SHA-256 tool.`
    : `Line ${line}: a SHA-256 has 64 hexadecimal digits; this line begins with ${digits}.`;
}

/** Undoes the escaping of backslash, line feed and carriage return; null where the escape is none. */
function unescaped(bytes: Uint8Array): Uint8Array | null {
  const out = new Uint8Array(bytes.length);
  let length = 0;
  for (let index = 0; index < bytes.length; index += 1) {
    let byte = bytes[index] ?? 0;
    if (byte === backslash) {
      index += 1;
      const next = bytes[index];
      if (next === backslash) byte = backslash;
      else if (next === letterN) byte = 0x0a;
      else if (next === letterR) byte = 0x0d;
      else return null;
    }
    out[length] = byte;
    length += 1;
  }
  return out.subarray(0, length);
}

type Tagged = { readonly algorithm: string; readonly path: Uint8Array; readonly sum: Uint8Array };

/**
 * A line of the other usual kind, `SHA256 (path) = checksum` (`--tag` in GNU coreutils): the last `) = ` ends the path.
 * Undefined when it is none.
 */
function taggedLine(bytes: Uint8Array, start: number, end: number): Tagged | undefined {
  let open = start;
  // A name of capitals, digits and dashes, a space, and a bracket.
  while (open < end && isTagLetter(bytes[open] ?? 0)) open += 1;
  if (open === start || bytes[open] !== space || bytes[open + 1] !== 0x28) return undefined;
  for (let at = end - 4; at > open + 1; at -= 1)
    if (bytes[at] === 0x29 && bytes[at + 1] === space && bytes[at + 2] === 0x3d && bytes[at + 3] === space)
      return {
        algorithm: String.fromCharCode(...bytes.subarray(start, open)),
        path: bytes.subarray(open + 2, at),
        sum: bytes.subarray(at + 4, end),
      };
  return undefined;
}

function isTagLetter(byte: number): boolean {
  return (byte >= 0x41 && byte <= 0x5a) || (byte >= 0x30 && byte <= 0x39) || byte === 0x2d;
}

/**
 * Reads a checksum list as the usual tools write it: 64 hexadecimal digits, a space, a space or `*`,
 * the path. A line that begins with a backslash has `\\`, `\n` and `\r` in its path escaped (GNU
 * coreutils, "sha256sum output format"). Lines of the kind `SHA256 (path) = checksum` are taken, too. Line ends may be LF
 * or CR LF.
 */
export function checksumListReader(options: ListOptions = {}): ListReader {
  const collector = new ListCollector(options);
  const digest = new Uint8Array(32);
  const takeTagged = ({ algorithm, path, sum }: Tagged, escaped: boolean, line: number) => {
    if (algorithm !== 'SHA256' || hexRun(sum, 0) !== 64 || sum.length !== 64) {
      collector.findings.refuse(
        'odd-hash',
        line,
        algorithm === 'SHA256'
          ? oddHashSentence(line, hexRun(sum, 0))
          : `Line ${line}: the checksum is ${algorithm}. Ulvane compares SHA-256: make the list with the SHA-256 tool.`,
      );
      return;
    }
    const named = escaped ? unescaped(path) : path;
    if (named === null) {
      collector.findings.refuse(
        'malformed-line',
        line,
        `Line ${line}: an escape in the path is none of \\\\, \\n, \\r.`,
      );
      return;
    }
    collector.add({ line, path: named, digest: readDigest(sum, 0, digest), literalBackslashes: escaped });
  };
  const splitter = new LineSplitter(
    (bytes, lineStart, end, line, carriageReturned) => {
      if (end === lineStart) return;
      if (carriageReturned)
        collector.findings.note(
          'crlf',
          (count) =>
            `${printCount(count, 'line')} ${count === 1 ? 'ends' : 'end'} in CR LF; the CR was left off.`,
        );
      // A byte order mark may stand before the first line.
      const marked =
        line === 1 &&
        bytes[lineStart] === 0xef &&
        bytes[lineStart + 1] === 0xbb &&
        bytes[lineStart + 2] === 0xbf;
      const first = marked ? lineStart + 3 : lineStart;
      const escaped = bytes[first] === backslash;
      const start = escaped ? first + 1 : first;
      const tagged = taggedLine(bytes, start, end);
      if (tagged) {
        takeTagged(tagged, escaped, line);
        return;
      }
      const digits = hexRun(bytes, start, end);
      if (digits !== 64) {
        collector.findings.refuse('odd-hash', line, oddHashSentence(line, digits));
        return;
      }
      const path = start + 66;
      const after = bytes[start + 65];
      if (path > end || bytes[start + 64] !== space || (after !== space && after !== star)) {
        collector.findings.refuse(
          'malformed-line',
          line,
          `Line ${line}: after the checksum come two spaces (or a space and a star) and the path.`,
        );
        return;
      }
      const raw = bytes.subarray(path, end);
      const named = escaped ? unescaped(raw) : raw;
      if (named === null) {
        collector.findings.refuse(
          'malformed-line',
          line,
          `Line ${line}: an escape in the path is none of \\\\, \\n, \\r.`,
        );
        return;
      }
      collector.add({
        line,
        path: named,
        digest: readDigest(bytes, start, digest),
        literalBackslashes: escaped,
      });
    },
    (bytes, start) => collector.addLine(bytes, start),
  );
  let bytesSoFar = 0;
  return {
    push: (chunk) => {
      splitter.push(chunk);
      bytesSoFar += chunk.length;
      collector.readUpTo(bytesSoFar);
    },
    rows: () => collector.rows,
    end: () => {
      splitter.end();
      return collector.finish();
    },
  };
}

/**
 * One line of a checksum list, with its line end; null for a file whose checksum is not known.
 * @example printChecksumLine({ sha256: 'ab…', path: 'a\nb', … }) // '\ab…  a\\nb\n'
 */
export function printChecksumLine({ path, sha256 }: Pick<FileEntry, 'path' | 'sha256'>): string | null {
  if (sha256 === null) return null;
  if (!/[\\\n\r]/.test(path)) return `${sha256}  ${path}\n`;
  const escaped = path.replaceAll('\\', '\\\\').replaceAll('\n', '\\n').replaceAll('\r', '\\r');
  return `\\${sha256}  ${escaped}\n`;
}
