import { readLatin, viewOf } from '../sectors/numbers';

/** One of the four entries of an MBR, or of the two of an EBR; start and length as written. */
export type MbrEntry = {
  readonly status: number;
  readonly type: number;
  readonly startLba: number;
  readonly sectorCount: number;
};

export type MbrSector = {
  readonly signed: boolean;
  readonly diskSignature: number;
  readonly entries: readonly MbrEntry[];
};

const entriesOffset = 446;
const entryBytes = 16;
const signatureOffset = 440;

/** Reads the first sector, or an EBR: entries at 446, 0x55AA at 510 (UEFI 2.10, 5.2.1). */
export function parseMbrSector(sector: Uint8Array): MbrSector {
  const view = viewOf(sector);
  return {
    signed: view.getUint8(510) === 0x55 && view.getUint8(511) === 0xaa,
    diskSignature: view.getUint32(signatureOffset, true),
    entries: [0, 1, 2, 3].map((index) => {
      const at = entriesOffset + index * entryBytes;
      return {
        status: view.getUint8(at),
        type: view.getUint8(at + 4),
        startLba: view.getUint32(at + 8, true),
        sectorCount: view.getUint32(at + 12, true),
      };
    }),
  };
}

/**
 * Writes entries and signature into a copy of a sector; all that stands before 440 stays as it is.
 * `absoluteStart` is what the addresses of cylinder, head and sector are calculated from.
 */
export function encodeMbrSector(
  under: Uint8Array,
  diskSignature: number | undefined,
  entries: readonly (MbrEntry | undefined)[],
  absoluteStart = (entry: MbrEntry) => entry.startLba,
): Uint8Array {
  const sector = under.slice();
  const view = viewOf(sector);
  if (diskSignature !== undefined) {
    view.setUint32(signatureOffset, diskSignature, true);
    view.setUint16(signatureOffset + 4, 0, true);
  }
  for (let index = 0; index < 4; index += 1) {
    const at = entriesOffset + index * entryBytes;
    const entry = entries[index];
    sector.fill(0, at, at + entryBytes);
    if (!entry) continue;
    view.setUint8(at, entry.status);
    view.setUint8(at + 4, entry.type);
    writeAddress(view, at + 1, absoluteStart(entry));
    writeAddress(view, at + 5, absoluteStart(entry) + entry.sectorCount - 1);
    view.setUint32(at + 8, entry.startLba, true);
    view.setUint32(at + 12, entry.sectorCount, true);
  }
  view.setUint8(510, 0x55);
  view.setUint8(511, 0xaa);
  return sector;
}

/** Cylinder, head and sector with 255 heads and 63 sectors a track; what does not fit is FE FF FF. */
function writeAddress(view: DataView, at: number, lba: number): void {
  const cylinder = Math.floor(lba / (255 * 63));
  const fits = cylinder <= 1023;
  const head = fits ? Math.floor(lba / 63) % 255 : 254;
  const sector = fits ? (lba % 63) + 1 : 63;
  const track = fits ? cylinder : 1023;
  view.setUint8(at, head);
  view.setUint8(at + 1, sector | ((track >> 8) << 6));
  view.setUint8(at + 2, track & 0xff);
}

/**
 * The protective MBR of a GPT disk (UEFI 2.10, 5.2.3): one entry of type EE from sector 1 over the whole
 * disk, as far as 32 bits reach; the boot code before it stays, the disk's signature is zero.
 */
export function protectiveMbr(under: Uint8Array, sectorCount: number): Uint8Array {
  const length = Math.min(sectorCount - 1, 0xffffffff);
  const sector = encodeMbrSector(under, 0, [{ status: 0, type: 0xee, startLba: 1, sectorCount: length }]);
  const view = viewOf(sector);
  // “If it is not possible to represent the value, set to FFFFFF.”
  if (Math.floor((sectorCount - 1) / (255 * 63)) > 1023)
    [0xff, 0xff, 0xff].forEach((byte, index) => view.setUint8(entriesOffset + 5 + index, byte));
  return sector;
}

/** Whether the sector begins with a file system's own boot record rather than with a table. */
export function isBootRecord(sector: Uint8Array): boolean {
  const view = viewOf(sector);
  const jump = view.getUint8(0);
  if (jump !== 0xeb && jump !== 0xe9) return false;
  return (
    ['NTFS', 'EXFAT'].includes(readLatin(view, 3, 8)) ||
    readLatin(view, 54, 3) === 'FAT' ||
    readLatin(view, 82, 5) === 'FAT32'
  );
}
