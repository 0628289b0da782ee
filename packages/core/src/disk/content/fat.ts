import { readLatin, readU64, readUtf16 } from '../sectors/numbers';
import { contentOf, type ContentKind, type RecognisedContent } from './content';
import type { Reach } from './reach';

const isPowerOfTwo = (value: number) => value > 0 && Number.isInteger(Math.log2(value));

/**
 * FAT12 and FAT16 by the count of clusters, FAT32 by the length of its tables; the words in the boot
 * record only describe. FAT32 keeps its free clusters in a sector of its own.
 */
export function recogniseFat({ head, at }: Reach): RecognisedContent | undefined {
  const u16 = (offset: number) => head.getUint16(offset, true);
  const u32 = (offset: number) => head.getUint32(offset, true);
  if (head.getUint8(510) !== 0x55 || head.getUint8(511) !== 0xaa) return undefined;
  const sectorBytes = u16(11);
  const perCluster = head.getUint8(13);
  const reserved = u16(14);
  const tables = head.getUint8(16);
  if (![512, 1024, 2048, 4096].includes(sectorBytes) || !isPowerOfTwo(perCluster)) return undefined;
  if (reserved === 0 || tables < 1 || tables > 2) return undefined;
  const sectors = u16(19) === 0 ? u32(32) : u16(19);
  const tableSectors = u16(22) === 0 ? u32(36) : u16(22);
  const rootSectors = Math.ceil((u16(17) * 32) / sectorBytes);
  const clusters = Math.floor((sectors - reserved - tables * tableSectors - rootSectors) / perCluster);
  if (sectors === 0 || tableSectors === 0 || clusters < 1) return undefined;
  // FAT32 has no length of 16 bits for its tables, however few clusters it was forced onto.
  const kind: ContentKind =
    u16(22) === 0 ? 'fat32' : clusters < 4085 ? 'fat12' : clusters < 65525 ? 'fat16' : 'fat32';
  const label = readLatin(head, kind === 'fat32' ? 71 : 43, 11);
  const clusterBytes = perCluster * sectorBytes;
  return contentOf(
    kind,
    label === 'NO NAME' ? undefined : label,
    sectors * sectorBytes,
    kind === 'fat32'
      ? usedOfFat32(at(u16(48) * sectorBytes, 512), clusters, clusterBytes, sectors * sectorBytes)
      : undefined,
    closedInOrder(kind, at(reserved * sectorBytes, 8)) ? undefined : 'unclean',
  );
}

/** A bit of the second entry of the table is taken away while it is in use; FAT12 has none. */
function closedInOrder(kind: ContentKind, table: DataView | undefined): boolean {
  if (!table || kind === 'fat12') return true;
  return kind === 'fat16'
    ? (table.getUint16(2, true) & 0x8000) !== 0
    : (table.getUint32(4, true) & 0x08000000) !== 0;
}

/** The sector with the free count carries three signatures; all ones mean that it is not kept. */
function usedOfFat32(
  info: DataView | undefined,
  clusters: number,
  clusterBytes: number,
  spansBytes: number,
): number | undefined {
  if (!info || info.getUint32(0, true) !== 0x41615252 || info.getUint32(484, true) !== 0x61417272)
    return undefined;
  const free = info.getUint32(488, true);
  return free > clusters ? undefined : spansBytes - free * clusterBytes;
}

/** exFAT: name at 3; length at 72; whole percents in use at 112; the label is an entry of the root folder. */
export function recogniseExfat({ head, at }: Reach): RecognisedContent | undefined {
  if (readLatin(head, 3, 8) !== 'EXFAT') return undefined;
  const sectorShift = head.getUint8(108);
  const clusterShift = head.getUint8(109);
  if (sectorShift < 9 || sectorShift > 12 || clusterShift > 25 - sectorShift) return undefined;
  const sectorBytes = 2 ** sectorShift;
  const spansBytes = readU64(head, 72) * sectorBytes;
  const heapBytes = head.getUint32(92, true) * 2 ** clusterShift * sectorBytes;
  const percent = head.getUint8(112);
  const heapAt = head.getUint32(88, true) * sectorBytes;
  const root = heapAt + (head.getUint32(96, true) - 2) * 2 ** (sectorShift + clusterShift);
  return contentOf(
    'exfat',
    labelInRoot(at(root, 512)),
    spansBytes,
    percent > 100
      ? undefined
      : Math.min(
          spansBytes,
          spansBytes - heapBytes + Math.ceil((heapBytes * Math.min(100, percent + 1)) / 100),
        ),
    (head.getUint16(106, true) & 0x2) === 0 ? undefined : 'unclean',
  );
}

function labelInRoot(root: DataView | undefined): string | undefined {
  if (!root) return undefined;
  for (let at = 0; at < 512; at += 32) {
    if (root.getUint8(at) === 0) return undefined;
    if (root.getUint8(at) === 0x83) return readUtf16(root, at + 2, Math.min(11, root.getUint8(at + 1)));
  }
  return undefined;
}
