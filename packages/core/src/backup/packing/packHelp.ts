import { fileSystemLimit } from '../../catalogue/fileSystems';
import { printBytes } from '../../quantity/bytes';
import { pack, type Parcel, type Shelf } from './pack';

/** Something that would give everything its place: tried by packing anew, so that it holds. */
export type PackHelp = {
  readonly kind: 'another' | 'two-more' | 'larger' | 'format' | 'first-copies';
  /** The drive that is replaced or formatted; null for a new one. */
  readonly shelfId: string | null;
  /** As it is sold; null where no drive is bought. */
  readonly sizeBytes: number | null;
  readonly sentence: string;
};

/** Sizes of drives as they are sold, bytes. */
export const soldSizes = [64e9, 128e9, 256e9, 512e9, 1e12, 2e12, 4e12, 8e12, 16e12, 24e12] as const;
/** What of a drive is left for files once it is formatted. */
const usableShare = 0.995;

const fits = (parcels: readonly Parcel[], shelves: readonly Shelf[]) =>
  pack(parcels, shelves).left.length === 0;

/** An empty drive of a sold size, formatted so that it takes files of any size. */
export function emptyShelf(id: string, sizeBytes: number): Shelf {
  const capacityBytes = Math.floor(sizeBytes * usableShare);
  return { id, name: id, freeBytes: capacityBytes, capacityBytes, fileSystem: 'exfat' };
}

const smallest = (parcels: readonly Parcel[], shelvesWith: (sizeBytes: number) => readonly Shelf[]) =>
  soldSizes.find((sizeBytes) => fits(parcels, shelvesWith(sizeBytes)));

/**
 * What would give a place to everything that `pack` leaves over, the least first of each kind: another drive, a larger one
 * instead of one that is there, another file system, and what one copy of everything takes. Empty where nothing is left
 * over, or nothing sold would do.
 */
export function packHelp(parcels: readonly Parcel[], shelves: readonly Shelf[]): readonly PackHelp[] {
  if (fits(parcels, shelves)) return [];
  const helps: PackHelp[] = [];
  const firsts = parcels.map((parcel) => ({ ...parcel, copies: Math.min(1, parcel.copies) }));
  const size = (sizeBytes: number) => printBytes(sizeBytes, 'decimal').replace('.0 ', ' ');
  if (parcels.some(({ copies }) => copies > 1) && fits(firsts, shelves))
    helps.push({
      kind: 'first-copies',
      shelfId: null,
      sizeBytes: null,
      sentence: 'One copy of everything has its place as it is: what lacks is room for the second copies.',
    });
  helps.push(...refit(parcels, shelves));
  const another = smallest(parcels, (sizeBytes) => [...shelves, emptyShelf('another', sizeBytes)]);
  if (another !== undefined)
    helps.push({
      kind: 'another',
      shelfId: null,
      sizeBytes: another,
      sentence: `Another empty drive of ${size(another)}: then everything has its place, in every copy.`,
    });
  else {
    const two = smallest(parcels, (sizeBytes) => [
      ...shelves,
      emptyShelf('another', sizeBytes),
      emptyShelf('a second one', sizeBytes),
    ]);
    if (two !== undefined)
      helps.push({
        kind: 'two-more',
        shelfId: null,
        sizeBytes: two,
        sentence: `Two more empty drives of ${size(two)} each: then everything has its place, in every copy.`,
      });
  }
  const larger = shelves
    .flatMap((shelf) => {
      const found = smallest(parcels, (sizeBytes) =>
        shelves.map((one) => (one === shelf ? { ...emptyShelf(one.id, sizeBytes), name: one.name } : one)),
      );
      return found === undefined ? [] : [{ shelf, sizeBytes: found }];
    })
    .sort((a, b) => a.sizeBytes - b.sizeBytes)[0];
  if (larger)
    helps.push({
      kind: 'larger',
      shelfId: larger.shelf.id,
      sizeBytes: larger.sizeBytes,
      sentence: `Instead of ${larger.shelf.name} an empty drive of ${size(larger.sizeBytes)}.`,
    });
  if (parcels.some(({ copies }) => copies > 1) && !fits(firsts, shelves)) {
    const one = smallest(firsts, (sizeBytes) => [...shelves, emptyShelf('another', sizeBytes)]);
    if (one !== undefined && one !== another)
      helps.push({
        kind: 'first-copies',
        shelfId: null,
        sizeBytes: one,
        sentence: `For one copy of everything, to begin with, another empty drive of ${size(one)} is enough.`,
      });
  }
  return helps;
}

/** A drive whose file system refuses large files, formatted anew where that alone is enough. */
function refit(parcels: readonly Parcel[], shelves: readonly Shelf[]): readonly PackHelp[] {
  return shelves
    .filter(({ fileSystem }) => fileSystemLimit(fileSystem).largestFileBytes !== null)
    .flatMap((shelf): PackHelp[] => {
      const { clusterBytes: _cluster, ...rest } = shelf;
      const formatted: Shelf = { ...rest, fileSystem: 'exfat' };
      return fits(
        parcels,
        shelves.map((one) => (one === shelf ? formatted : one)),
      )
        ? [
            {
              kind: 'format',
              shelfId: shelf.id,
              sizeBytes: null,
              sentence: `${shelf.name} formatted as exFAT, which takes files of any size. Formatting erases what is on it.`,
            },
          ]
        : [];
    })
    .slice(0, 1);
}
