import { z } from 'zod';
import type { Release } from '../catalogue/catalogue';
import { printBytes } from '../quantity/bytes';
import { DaySchema } from '../quantity/daySchema';

/** What became of the maker’s signature. */
export const signatureStates = ['agrees', 'differs', 'not-checked', 'none-published'] as const;

/** An image of a release that is at hand. */
export const ImageSchema = z.strictObject({
  id: z.uuid(),
  releaseId: z.string().trim().min(1).max(100),
  /** Code of two letters (BCP 47). */
  language: z.string().trim().min(2).max(12),
  bytes: z.int().positive(),
  /** As it was calculated over the whole file; null while nobody has. */
  sha256: z
    .string()
    .regex(/^[0-9a-f]{64}$/)
    .nullable(),
  /** Where the file is kept. */
  keptWhere: z.string().trim().min(1).max(200),
  source: z.string().trim().max(300),
  fetchedOn: DaySchema,
  by: z.string().trim().min(1).max(100),
  signature: z.enum(signatureStates),
  /** How long the download took, and over the line of which site; null where nobody has timed it. */
  download: z
    .strictObject({ seconds: z.number().positive(), site: z.string().trim().min(1).max(100) })
    .nullable(),
});

export type Image = z.infer<typeof ImageSchema>;

export type ImageFinding = {
  /** `good` alone may be written. */
  readonly state: 'good' | 'not-compared' | 'differs' | 'not-in-catalogue';
  readonly sentence: string;
  /** Groups of four figures of the checksum that agree with the published one, of sixteen; null where there is none. */
  readonly groupsAgree: number | null;
};

/** A checksum of 64 figures in sixteen groups of four, to be read against another one. */
export function checksumGroups(sha256: string): readonly string[] {
  return sha256.match(/.{1,4}/g) ?? [];
}

/** How an image agrees with what its release publishes: bytes first, then the checksum, then the signature. */
export function judgeImage(
  { bytes, sha256, signature }: Pick<Image, 'bytes' | 'sha256' | 'signature'>,
  release: Pick<Release, 'imageBytes' | 'imageSha256'> | undefined,
): ImageFinding {
  if (!release)
    return {
      state: 'not-in-catalogue',
      sentence: 'The catalogue has no such release: there is nothing to compare it with.',
      groupsAgree: null,
    };
  const published = checksumGroups(release.imageSha256);
  const groupsAgree =
    sha256 === null
      ? null
      : checksumGroups(sha256).filter((group, index) => group === published[index]).length;
  if (bytes !== release.imageBytes)
    return {
      state: 'differs',
      sentence: `${printBytes(Math.abs(bytes - release.imageBytes), 'decimal')} ${bytes < release.imageBytes ? 'shorter' : 'longer'} than published. Fetch it again, do not write it.`,
      groupsAgree,
    };
  if (signature === 'differs')
    return { state: 'differs', sentence: 'Its signature differs. Do not write it.', groupsAgree };
  if (groupsAgree === null)
    return {
      state: 'not-compared',
      sentence: 'Its checksum is not calculated: drop the file on this page.',
      groupsAgree,
    };
  return sha256 === release.imageSha256
    ? { state: 'good', sentence: 'It is the published one, bit by bit.', groupsAgree }
    : { state: 'differs', sentence: 'Its checksum differs. Fetch it again, do not write it.', groupsAgree };
}

/** The releases whose image a file can be, by its checksum, else by its bytes. */
export function releasesOfImage<R extends Pick<Release, 'imageBytes' | 'imageSha256'>>(
  releases: readonly R[],
  { bytes, sha256 }: { readonly bytes: number; readonly sha256: string | null },
): readonly R[] {
  const same = releases.filter(({ imageSha256 }) => imageSha256 === sha256);
  return same.length > 0 ? same : releases.filter(({ imageBytes }) => imageBytes === bytes);
}
