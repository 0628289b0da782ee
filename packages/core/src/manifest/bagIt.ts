import { fail, succeed, type Outcome } from '../outcome/outcome';
import { hexRun, oddHashSentence, readDigest } from './checksumList';
import type { FileEntry } from './entry';
import { LineSplitter } from './lineSplitter';
import { ListCollector, type ListOptions, type ListReader } from './listReader';

const encoder = new TextEncoder();
const decoder = new TextDecoder('utf-8', { fatal: true, ignoreBOM: true });

/** The payload folder that every path of a payload manifest lies in (RFC 8493, 2.1.3). */
const payload = 'data/';

function decodePath(path: string): string {
  return path.replace(/%(0A|0D|25)/gi, (_whole, code: string) =>
    String.fromCharCode(Number.parseInt(code, 16)),
  );
}

/**
 * Reads a payload manifest `manifest-sha256.txt` of a bag (RFC 8493, 2.1.3): checksum, white space,
 * path below `data/`; CR, LF and the per cent sign are percent-encoded in paths. The paths of the
 * list are those below `data/`.
 */
export function bagItReader(options: ListOptions = {}): ListReader {
  const collector = new ListCollector(options);
  const digest = new Uint8Array(32);
  const lineFeeds = loneReturns();
  const splitter = new LineSplitter((chunk, lineStart, lineEnd, line) => {
    if (lineEnd === lineStart) return;
    const bytes = chunk.subarray(lineStart, lineEnd);
    const digits = hexRun(bytes, 0);
    if (digits !== 64) {
      collector.findings.refuse('odd-hash', line, oddHashSentence(line, digits));
      return;
    }
    let start = digits;
    while (bytes[start] === 0x20 || bytes[start] === 0x09) start += 1;
    let path: string;
    try {
      path = decoder.decode(bytes.subarray(start));
    } catch {
      collector.findings.refuse(
        'invalid-utf8',
        line,
        `Line ${line}: the name is not valid UTF-8, which a bag’s manifest must be.`,
      );
      return;
    }
    const plain = path.replace(/^\.\//, '');
    if (start === digits || !plain.startsWith(payload)) {
      collector.findings.refuse(
        'not-below-data',
        line,
        `Line ${line}: in a bag’s payload manifest every path is below data/ (RFC 8493).`,
      );
      return;
    }
    collector.add({
      line,
      path: encoder.encode(decodePath(plain.slice(payload.length))),
      digest: readDigest(bytes, 0, digest),
      literalBackslashes: true,
    });
  });
  return {
    push: (chunk) => splitter.push(lineFeeds(chunk)),
    rows: () => collector.rows,
    end: () => {
      splitter.end();
      return collector.finish();
    },
  };
}

/**
 * Lines of a manifest end in LF, CR or CR LF (RFC 8493, 2.1.3), and a CR in a name is percent-encoded: a CR that no LF
 * follows is made one. Remembers a CR at the end of a piece.
 */
function loneReturns(): (chunk: Uint8Array) => Uint8Array {
  let afterReturn = false;
  return (chunk) => {
    if (!afterReturn && !chunk.includes(0x0d)) return chunk;
    const bytes: number[] = [];
    for (const byte of chunk) {
      // The CR has been given as a line feed already; the LF of the pair would be an empty line.
      if (!(afterReturn && byte === 0x0a)) bytes.push(byte === 0x0d ? 0x0a : byte);
      afterReturn = byte === 0x0d;
    }
    return Uint8Array.from(bytes);
  };
}

/** One line of a payload manifest; null for a file whose checksum is not known. */
export function printBagItLine({ path, sha256 }: Pick<FileEntry, 'path' | 'sha256'>): string | null {
  if (sha256 === null) return null;
  const encoded = path.replaceAll('%', '%25').replaceAll('\n', '%0A').replaceAll('\r', '%0D');
  return `${sha256}  ${payload}${encoded}\n`;
}

/** The bag declaration (RFC 8493, 2.1.1). */
export const bagDeclaration = 'BagIt-Version: 1.0\nTag-File-Character-Encoding: UTF-8\n';

type BagInfo = {
  readonly externalIdentifier: string;
  readonly description: string;
  /** ISO date. */
  readonly baggingDate: string;
  /** Null where the size of a file is not known: then the sum is not stated. */
  readonly sizeBytes: number | null;
  readonly fileCount: number;
};

/**
 * `bag-info.txt` with Payload-Oxum, octets and streams of the payload (RFC 8493, 2.2.2), where they are known.
 * @example printBagInfo({ …, sizeBytes: 279164409832, fileCount: 1198 }) // …'Payload-Oxum: 279164409832.1198'…
 */
export function printBagInfo(info: BagInfo): string {
  const line = (label: string, value: string) => `${label}: ${value.replace(/\s+/g, ' ').trim()}\n`;
  return [
    line('External-Identifier', info.externalIdentifier),
    line('External-Description', info.description),
    line('Bagging-Date', info.baggingDate),
    ...(info.sizeBytes === null ? [] : [line('Payload-Oxum', `${info.sizeBytes}.${info.fileCount}`)]),
  ].join('');
}

/** Octets and files that a `bag-info.txt` states; null when it has no Payload-Oxum. */
export function readPayloadOxum(
  bagInfo: string,
): Outcome<{ readonly sizeBytes: number; readonly fileCount: number } | null> {
  const stated = /^Payload-Oxum[ \t]*:[ \t]*(.*)$/im.exec(bagInfo)?.[1]?.trim();
  if (stated === undefined) return succeed(null);
  const parts = /^(\d{1,16})\.(\d{1,10})$/.exec(stated);
  if (!parts)
    return fail(
      'payload-oxum',
      '/Payload-Oxum',
      `Payload-Oxum should be octets, a full stop, and the number of files; it is “${stated}”.`,
    );
  return succeed({ sizeBytes: Number(parts[1]), fileCount: Number(parts[2]) });
}
