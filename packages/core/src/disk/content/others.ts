import { readLatin, readU64, readUtf8 } from '../sectors/numbers';
import { contentOf, type RecognisedContent } from './content';
import type { Reach } from './reach';

/** Btrfs: superblock at 64 KiB, magic at its 64; a log at 96 is still to be played back. */
export function recogniseBtrfs({ at }: Reach): RecognisedContent | undefined {
  const block = at(65536, 1024);
  if (!block || readLatin(block, 64, 8) !== '_BHRfS_M') return undefined;
  return contentOf(
    'btrfs',
    readUtf8(block, 299, 256),
    readU64(block, 112),
    readU64(block, 120),
    readU64(block, 96) === 0 ? undefined : 'unclean',
  );
}

/** XFS: big-endian; magic at 0, block size at 4, blocks at 8, label at 108, free blocks at 144. */
export function recogniseXfs({ head }: Reach): RecognisedContent | undefined {
  if (readLatin(head, 0, 4) !== 'XFSB') return undefined;
  const blockBytes = head.getUint32(4, false);
  const blocks = readU64(head, 8, false);
  const free = readU64(head, 144, false);
  return contentOf('xfs', readUtf8(head, 108, 12), blocks * blockBytes, (blocks - free) * blockBytes);
}

/** What stands in the place of its sign while a system sleeps in it. */
const asleep: ReadonlySet<string> = new Set(['S1SUSPEND', 'S2SUSPEND', 'ULSUSPEND', 'LINHIB0001']);

/** Swap: its sign stands at the end of the first page of 4 KiB; last page at 1028, label at 1052. */
export function recogniseSwap({ head }: Reach): RecognisedContent | undefined {
  const sign = readLatin(head, 4086, 10);
  if (sign !== 'SWAPSPACE2' && !asleep.has(sign)) return undefined;
  const left = asleep.has(sign) ? 'hibernated' : undefined;
  return contentOf(
    'swap',
    readUtf8(head, 1052, 16),
    (head.getUint32(1028, true) + 1) * 4096,
    undefined,
    left,
  );
}

/** A container of APFS: magic at 32, block size at 36, blocks at 40. Its volumes are not read. */
export function recogniseApfs({ head }: Reach): RecognisedContent | undefined {
  if (readLatin(head, 32, 4) !== 'NXSB') return undefined;
  return contentOf('apfs', undefined, head.getUint32(36, true) * readU64(head, 40));
}

const luksSign = [0x4c, 0x55, 0x4b, 0x53, 0xba, 0xbe];

/** LUKS: six bytes of magic; version 2 has a label at 24. What is inside cannot be told without the key. */
export function recogniseLuks({ head }: Reach): RecognisedContent | undefined {
  if (luksSign.some((byte, index) => head.getUint8(index) !== byte)) return undefined;
  return contentOf('luks', head.getUint16(6, false) === 2 ? readUtf8(head, 24, 48) : undefined);
}

/** A volume that its own system encrypts: a boot record with a name of its own at 3. */
export function recogniseEncrypted({ head }: Reach): RecognisedContent | undefined {
  return readLatin(head, 3, 8) === '-FVE-FS-' ? contentOf('encrypted', undefined) : undefined;
}
