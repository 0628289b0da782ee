import { readLatin } from '../sectors/numbers';
import { readBytes, type SectorSource } from '../sectors/sectorSource';
import { contentOf, type RecognisedContent } from './content';
import type { Reach } from './reach';

const arrayMagic = 0xa92b4efc;
const kib = 1024;

/**
 * Where the superblock of a disk array's member may stand, in bytes: at the start (version 1.1), 4 KiB behind it (1.2), or
 * near the end (1.0: 8 KiB before it, on 4 KiB; 0.90: the last whole 64 KiB but one).
 */
export function arrayPlaces(lengthBytes: number): readonly number[] {
  const sectors = Math.floor(lengthBytes / 512);
  return [
    0,
    4 * kib,
    Math.floor((sectors - 16) / 8) * 8 * 512,
    Math.floor(lengthBytes / (64 * kib)) * 64 * kib - 64 * kib,
  ].filter((place) => place >= 0);
}

/** Whether a superblock of an array stands at a byte of a disk. */
export function isArrayMember(source: SectorSource, offsetBytes: number): boolean {
  return readBytes(source, offsetBytes, 4).getUint32(0, true) === arrayMagic;
}

/**
 * A member of a disk array. With its superblock at the end the start looks like a plain file system, and
 * cutting the end off loses the array.
 */
export function recogniseArray({ at, lengthBytes }: Reach): RecognisedContent | undefined {
  return arrayPlaces(lengthBytes).some((place) => at(place, 4)?.getUint32(0, true) === arrayMagic)
    ? contentOf('array', undefined)
    : undefined;
}

/** A physical volume of a volume group: its label stands in one of the first four sectors of 512 bytes. */
export function recogniseVolumes({ at }: Reach): RecognisedContent | undefined {
  const labelled = [0, 1, 2, 3].some((sector) => {
    const label = at(sector * 512, 32);
    return label && readLatin(label, 0, 8) === 'LABELONE' && readLatin(label, 24, 8) === 'LVM2 001';
  });
  return labelled ? contentOf('volumes', undefined) : undefined;
}

const poolMagic = 0x00bab10c;
const labelBytes = 256 * kib;
const slots = 32;

/** A member of a pool: four labels of 256 KiB, two at the start and two at the end, each with its ring of blocks. */
export function recognisePool({ at, lengthBytes }: Reach): RecognisedContent | undefined {
  const end = Math.floor(lengthBytes / labelBytes) * labelBytes;
  for (const label of [0, labelBytes, end - 2 * labelBytes, end - labelBytes]) {
    const ring = at(label + 128 * kib, slots * kib);
    if (!ring) continue;
    for (let slot = 0; slot < slots; slot += 1)
      if ([true, false].some((little) => ring.getUint32(slot * kib + (little ? 0 : 4), little) === poolMagic))
        return contentOf('pool', undefined);
  }
  return undefined;
}
