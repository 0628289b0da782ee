import type { Problem } from '../outcome/outcome';
import { readPayloadOxum } from './bagIt';
import { bagWithFetch } from './kindOfList';

/** A paper of a bag: a tag file (RFC 8493, 2.2) or the payload manifest itself. */
export type BagPaper = { readonly name: string; readonly sha256: string; readonly text: string };

/** What the payload manifest sums up to; sizes are not in it. */
export type BagPayload = { readonly fileCount: number; readonly sizeBytes: number | null };

const tagManifestName = 'tagmanifest-sha256.txt';
const tagLine = /^([0-9a-f]{64})[ \t]+(?:\*|\.\/)?(.+)$/i;

/** Name → checksum of a tag manifest's lines (RFC 8493, 2.2.1); lines that are none are given by their numbers. */
function readTagManifest(text: string): {
  readonly sums: ReadonlyMap<string, string>;
  readonly odd: readonly number[];
} {
  const sums = new Map<string, string>();
  const odd: number[] = [];
  for (const [index, line] of text.split(/\r\n|\n|\r/).entries()) {
    if (line.trim() === '') continue;
    const found = tagLine.exec(line);
    if (found) sums.set(found[2] ?? '', (found[1] ?? '').toLowerCase());
    else odd.push(index + 1);
  }
  return { sums, odd };
}

/** `tagmanifest-sha256.txt` of a bag's papers (RFC 8493, 2.2.1). */
export function printTagManifest(papers: readonly Pick<BagPaper, 'name' | 'sha256'>[]): string {
  return papers.map(({ name, sha256 }) => `${sha256}  ${name}\n`).join('');
}

/**
 * What does not agree among the papers of a bag that were given together; empty where they agree. Papers that were not
 * given are not asked for.
 */
export function bagProblems(payload: BagPayload, papers: readonly BagPaper[]): readonly Problem[] {
  const named = (name: string) => papers.find((paper) => paper.name.toLowerCase() === name);
  const problems: Problem[] = [];
  if ((named('fetch.txt')?.text ?? '').trim() !== '') problems.push(bagWithFetch);
  const declaration = named('bagit.txt');
  const encoding = /^Tag-File-Character-Encoding:\s*(\S+)/im.exec(declaration?.text ?? '')?.[1];
  if (declaration && encoding?.toUpperCase() !== 'UTF-8')
    problems.push({
      code: 'bag-encoding',
      path: 'bagit.txt',
      sentence: `bagit.txt says that the bag’s papers are written in ${encoding ?? 'nothing'}: they have to be in UTF-8 to be read here.`,
    });
  const tagManifest = named(tagManifestName);
  if (tagManifest) problems.push(...tagProblems(tagManifest.text, papers));
  const info = named('bag-info.txt');
  if (info) problems.push(...oxumProblems(info.text, payload));
  return problems;
}

function tagProblems(text: string, papers: readonly BagPaper[]): readonly Problem[] {
  const { sums, odd } = readTagManifest(text);
  return [
    ...odd.map((line) => ({
      code: 'odd-hash' as const,
      path: tagManifestName,
      sentence: `${tagManifestName}, line ${line}: no SHA-256 and name.`,
    })),
    ...papers.flatMap(({ name, sha256 }) => {
      const stated = sums.get(name);
      return stated === undefined || stated === sha256
        ? []
        : [
            {
              code: 'tag-differs' as const,
              path: name,
              sentence: `${name} is not as ${tagManifestName} says: it was changed after the bag was made. Take the bag from another copy.`,
            },
          ];
    }),
  ];
}

function oxumProblems(text: string, payload: BagPayload): readonly Problem[] {
  const oxum = readPayloadOxum(text);
  if (!oxum.ok) return oxum.problems;
  if (oxum.value === null) return [];
  const { fileCount, sizeBytes } = oxum.value;
  if (fileCount !== payload.fileCount)
    return [
      {
        code: 'oxum-files',
        path: 'bag-info.txt',
        sentence: `bag-info.txt says ${fileCount.toLocaleString('en')} files, the manifest has ${payload.fileCount.toLocaleString('en')}: they are not of the same bag, or one was cut off.`,
      },
    ];
  return payload.sizeBytes !== null && sizeBytes !== payload.sizeBytes
    ? [
        {
          code: 'oxum-bytes',
          path: 'bag-info.txt',
          sentence: `bag-info.txt says ${sizeBytes.toLocaleString('en')} bytes, the files have ${payload.sizeBytes.toLocaleString('en')}.`,
        },
      ]
    : [];
}
