import { readUtf8 } from '../sectors/numbers';
import { contentOf, type RecognisedContent } from './content';
import type { Reach } from './reach';

const superblock = 1024;
const hasJournal = 0x4;
/** In the state: closed in order; in the features: the journal is still to be played back. */
const closedInOrder = 0x1;
const needsRecovery = 0x4;
/** Extents, 64-bit, flexible block groups: features that ext3 does not have. */
const ext4Features = 0x40 | 0x80 | 0x200;
const is64Bit = 0x80;

/** ext2, ext3 and ext4: superblock at 1024, magic 0xEF53 at its 56; told apart by journal and features. */
export function recogniseExt({ head }: Reach): RecognisedContent | undefined {
  const u16 = (offset: number) => head.getUint16(superblock + offset, true);
  const u32 = (offset: number) => head.getUint32(superblock + offset, true);
  if (u16(56) !== 0xef53) return undefined;
  const logBlock = u32(24);
  if (logBlock > 6) return undefined;
  const blockBytes = 1024 * 2 ** logBlock;
  const compatible = u32(92);
  const incompatible = u32(96);
  const wide = (incompatible & is64Bit) !== 0;
  const counted = (low: number, high: number) => u32(low) + (wide ? u32(high) * 2 ** 32 : 0);
  const blocks = counted(4, 336);
  const free = counted(12, 344);
  const kind =
    (incompatible & ext4Features) !== 0 ? 'ext4' : (compatible & hasJournal) !== 0 ? 'ext3' : 'ext2';
  return contentOf(
    kind,
    readUtf8(head, superblock + 120, 16),
    blocks * blockBytes,
    (blocks - free) * blockBytes,
    (u16(58) & closedInOrder) === 0 || (incompatible & needsRecovery) !== 0 ? 'unclean' : undefined,
  );
}
