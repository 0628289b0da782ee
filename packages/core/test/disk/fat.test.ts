import { describe, expect, it } from 'vitest';
import { bufferSource, recogniseContent } from '../../src/disk';

type Boot = {
  readonly sectorBytes?: number;
  readonly perCluster?: number;
  readonly reserved?: number;
  readonly tables?: number;
  readonly rootEntries?: number;
  readonly sectors: number;
  /** Sectors of one table; of 16 bits for FAT12 and FAT16, of 32 for FAT32. */
  readonly tableSectors: number;
  readonly wide?: boolean;
  readonly label?: string;
};

/** A FAT boot record, field by field as the specification of the file system has them (FAT32 File System, 2000). */
function volume(given: Boot, edit: (view: DataView, bytes: Uint8Array) => void = () => undefined) {
  const {
    sectorBytes = 512,
    perCluster = 1,
    reserved = 1,
    tables = 2,
    rootEntries = 0,
    wide = false,
  } = given;
  const bytes = new Uint8Array(64 * 512);
  const view = new DataView(bytes.buffer);
  view.setUint16(11, sectorBytes, true);
  view.setUint8(13, perCluster);
  view.setUint16(14, reserved, true);
  view.setUint8(16, tables);
  view.setUint16(17, rootEntries, true);
  if (given.sectors < 65_536) view.setUint16(19, given.sectors, true);
  else view.setUint32(32, given.sectors, true);
  if (wide) view.setUint32(36, given.tableSectors, true);
  else view.setUint16(22, given.tableSectors, true);
  const text = (at: number, words: string) => {
    for (let index = 0; index < 11; index += 1) bytes[at + index] = words.padEnd(11).charCodeAt(index);
  };
  text(43, wide ? 'WRONG' : (given.label ?? 'NO NAME'));
  text(71, wide ? (given.label ?? 'NO NAME') : 'WRONG');
  view.setUint8(510, 0x55);
  view.setUint8(511, 0xaa);
  // The second entry of the table says that the volume was closed in order.
  const table = reserved * sectorBytes;
  if (wide) view.setUint32(table + 4, 0x0fffffff, true);
  else view.setUint16(table + 2, 0xffff, true);
  edit(view, bytes);
  return recogniseContent(bufferSource(bytes, 512), 0, 64);
}

/** As many sectors as give so many clusters of one sector: boot record, two tables, and the root folder. */
const withClusters = (clusters: number, more: Partial<Boot> = {}) =>
  volume({ sectors: clusters + 1 + 2 * 16 + 2, tableSectors: 16, rootEntries: 32, ...more });

describe('a FAT volume', () => {
  it('has its kind from its clusters: 4,085 and 65,525 are the first of the next kind', () => {
    expect(withClusters(4084)?.kind).toBe('fat12');
    expect(withClusters(4085)?.kind).toBe('fat16');
    expect(withClusters(65_524)?.kind).toBe('fat16');
    expect(withClusters(65_525)?.kind).toBe('fat32');
    // Forced onto few clusters it is FAT32 all the same: its tables have no length of 16 bits.
    expect(volume({ sectors: 1000, tableSectors: 16, reserved: 32, wide: true })?.kind).toBe('fat32');
  });

  it('has its label where its kind keeps it, and none where it says so', () => {
    expect(withClusters(4085, { label: 'PHOTOS' })?.label).toBe('PHOTOS');
    expect(
      volume({ sectors: 1000, tableSectors: 16, reserved: 32, wide: true, label: 'BACKUP' })?.label,
    ).toBe('BACKUP');
    expect(withClusters(4085)).not.toHaveProperty('label');
    expect(withClusters(4085, { label: '' })).not.toHaveProperty('label');
  });

  it('spans its sectors, and says what is used only where a free count is kept and can be true', () => {
    const boot = { sectors: 1000, tableSectors: 16, reserved: 32, perCluster: 2, wide: true } as const;
    // 1,000 less 32 reserved and two tables of 16: 936 sectors, 468 clusters of 1,024 bytes.
    const free = (count: number, sign = 0x41615252) =>
      volume(boot, (view) => {
        view.setUint16(48, 1, true);
        view.setUint32(512, sign, true);
        view.setUint32(512 + 484, 0x61417272, true);
        view.setUint32(512 + 488, count, true);
      });
    expect(free(468)).toMatchObject({ spansBytes: 512_000, usedBytes: 512_000 - 468 * 1024 });
    expect(free(0)?.usedBytes).toBe(512_000);
    expect(free(469)).not.toHaveProperty('usedBytes');
    expect(free(0xffffffff)).not.toHaveProperty('usedBytes');
    expect(free(100, 0x41615253)).not.toHaveProperty('usedBytes');
    expect(withClusters(4085)?.spansBytes).toBe((4085 + 1 + 32 + 2) * 512);
    expect(withClusters(4085)).not.toHaveProperty('usedBytes');
  });

  it('says that it was not closed in order; FAT12 has no such bit', () => {
    expect(withClusters(4085)).not.toHaveProperty('left');
    const open = (clusters: number) =>
      volume({ sectors: clusters + 1 + 32 + 2, tableSectors: 16, rootEntries: 32 }, (view) =>
        view.setUint16(512 + 2, 0x7fff, true),
      )?.left;
    expect(open(4085)).toBe('unclean');
    expect(open(4084)).toBe(undefined);
    const wide = { sectors: 1000, tableSectors: 16, reserved: 32, wide: true } as const;
    expect(volume(wide)).not.toHaveProperty('left');
    expect(volume(wide, (view) => view.setUint32(32 * 512 + 4, 0x07ffffff, true))?.left).toBe('unclean');
  });

  it('is not one when any field of its boot record cannot be', () => {
    const spoilt: readonly ((view: DataView) => void)[] = [
      (view) => view.setUint8(510, 0),
      (view) => view.setUint8(511, 0),
      (view) => view.setUint16(11, 500, true),
      (view) => view.setUint8(13, 3),
      (view) => view.setUint8(13, 0),
      (view) => view.setUint16(14, 0, true),
      (view) => view.setUint8(16, 0),
      (view) => view.setUint8(16, 3),
      (view) => view.setUint16(19, 0, true),
      (view) => view.setUint16(22, 0, true),
      (view) => view.setUint16(19, 30, true),
    ];
    for (const [index, spoil] of spoilt.entries())
      expect([
        index,
        volume({ sectors: 5000, tableSectors: 16, rootEntries: 32 }, (view) => spoil(view))?.kind ?? 'none',
      ]).toEqual([index, 'none']);
    for (const tables of [1, 2])
      expect(volume({ sectors: 5000, tableSectors: 16, tables, rootEntries: 32 })?.kind).toBe('fat16');
    for (const sectorBytes of [512, 1024, 2048, 4096])
      expect(volume({ sectors: 5000, tableSectors: 16, sectorBytes, rootEntries: 32 })?.kind).toBe('fat16');
  });
});
