import { ImageSchema, MediumNeedSchema } from '@ulvane/core/media';
import { z } from 'zod';
import { endpoint, everyone, writers } from '../endpoint';
import { DriveViewSchema } from '../fileShapes';
import { nothing } from './parts';

const ImageViewSchema = ImageSchema.extend({ version: z.int().min(1) });

const ShelfSchema = z.object({
  /** Sticks, discs and drives that are used for installers. */
  media: z.array(DriveViewSchema),
  images: z.array(ImageViewSchema),
  /** What the moves need that come next, the first one in front. */
  needs: z.array(MediumNeedSchema),
});

export type ImageView = z.infer<typeof ImageViewSchema>;
export type ShelfView = z.infer<typeof ShelfSchema>;

/** Installer media and images at hand. */
export const shelfApi = {
  shelf: endpoint({
    method: 'GET',
    path: '/shelf',
    summary: 'Installer media with what is on them, images at hand, and what the next moves need of them',
    access: everyone,
    body: nothing,
    query: nothing,
    response: ShelfSchema,
  }),
  putImage: endpoint({
    method: 'PUT',
    path: '/images/:id',
    summary: 'Add or change an image at hand',
    access: writers,
    body: z.object({
      /** The version seen; 0 for a new one. */
      version: z.int().min(0),
      image: ImageSchema.omit({ id: true }),
    }),
    query: nothing,
    response: ImageViewSchema,
  }),
  removeImage: endpoint({
    method: 'POST',
    path: '/images/:id/remove',
    summary: 'Take an image off the shelf; the file itself is not touched',
    access: writers,
    body: z.object({ version: z.int().min(1) }),
    query: nothing,
    response: ShelfSchema,
  }),
} as const;
