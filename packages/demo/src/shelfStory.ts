import { createHash } from 'node:crypto';
import { DriveSchema, type Drive } from '@ulvane/core/backup';
import { findRelease, releaseTitle, type Catalogue } from '@ulvane/core/catalogue';
import { ImageSchema, type Image } from '@ulvane/core/media';
import { addDays } from '@ulvane/core/quantity';
import type { DemoTables } from './tables';

/** Media and images of the demo as they are on its day. @param today ISO date */
export function shelfOf(
  { drives, shelf, images }: Pick<DemoTables, 'drives' | 'shelf' | 'images'>,
  catalogue: Catalogue,
  today: string,
): { readonly drives: readonly Drive[]; readonly images: readonly Image[] } {
  const named = (id: string) => {
    const release = findRelease(catalogue, id);
    if (!release) throw new RangeError(`the demo’s shelf names a release that the catalogue lacks: ${id}`);
    return release;
  };
  return {
    drives: drives.map((drive) => {
      const found = shelf.find(({ medium }) => medium === drive.name);
      return DriveSchema.parse({
        ...drive,
        ...(found && {
          seenOn: found.seenDaysAgo === null ? null : addDays(today, -found.seenDaysAgo),
          seenAt: found.seenAt,
          holds: found.holds.map(({ daysAgo, check, ...content }) => {
            const release = named(content.releaseId);
            const writtenOn = addDays(today, -daysAgo);
            return {
              ...content,
              title: releaseTitle(release),
              bytes: release.imageBytes,
              writtenOn,
              check: check && { result: check, at: `${writtenOn}T15:00:00.000Z`, by: content.by },
            };
          }),
        }),
      });
    }),
    images: images.map(({ daysAgo, shorterBytes, hashed, download, ...image }) => {
      const { imageBytes, imageSha256, imageSources } = named(image.releaseId);
      const bytes = imageBytes - shorterBytes;
      return ImageSchema.parse({
        ...image,
        bytes,
        // What is missing makes another checksum.
        sha256: !hashed
          ? null
          : shorterBytes === 0
            ? imageSha256
            : createHash('sha256').update(`${imageSha256} ${bytes}`).digest('hex'),
        source: imageSources[0] ?? '',
        fetchedOn: addDays(today, -daysAgo),
        download: download && { seconds: download.minutes * 60, site: download.site },
      });
    }),
  };
}
