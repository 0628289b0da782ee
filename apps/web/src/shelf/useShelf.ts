import { api, type ShelfView } from '@ulvane/contract';
import { judgeImage, serveNeeds, type Serving } from '@ulvane/core/media';
import { findRelease, type Catalogue } from '@ulvane/core/catalogue';
import useSWR from 'swr';
import { call } from '../api/call';
import { keys } from '../api/keys';

/** Media, images and what the next moves need of them. */
export function useShelf() {
  const { data, error, mutate } = useSWR<ShelfView, unknown>(keys.shelf, () => call(api.shelf));
  return { shelf: data, error, mutate };
}

/** Which medium serves each need. */
export function servingsOf({ media, images, needs }: ShelfView, catalogue: Catalogue): readonly Serving[] {
  const good = images.filter(
    (image) => judgeImage(image, findRelease(catalogue, image.releaseId)).state === 'good',
  );
  return serveNeeds({ media, needs, imagesAtHand: new Set(good.map(({ releaseId }) => releaseId)) });
}
