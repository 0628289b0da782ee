import { describe, expect, it } from 'vitest';
import { bufferSource, recogniseContent } from '../../src/disk';

/** A volume of 256 sectors of which only the given fields are not zero; each at its place in the format's own description. */
function volume(write: (view: DataView, put: (at: number, text: string) => void) => void) {
  const bytes = new Uint8Array(256 * 512);
  write(new DataView(bytes.buffer), (at, text) => bytes.set(new TextEncoder().encode(text), at));
  return recogniseContent(bufferSource(bytes, 512), 0, 256);
}

describe('ext2, ext3 and ext4', () => {
  type Ext = {
    readonly magic?: number;
    readonly logBlock?: number;
    readonly state?: number;
    readonly compatible?: number;
    readonly incompatible?: number;
    readonly label?: string;
  };
  const ext = (given: Ext = {}) =>
    volume((view, put) => {
      const at = 1024;
      view.setUint16(at + 56, given.magic ?? 0xef53, true);
      view.setUint32(at + 24, given.logBlock ?? 2, true);
      view.setUint16(at + 58, given.state ?? 1, true);
      view.setUint32(at + 92, given.compatible ?? 0, true);
      view.setUint32(at + 96, given.incompatible ?? 0, true);
      view.setUint32(at + 4, 1000, true);
      view.setUint32(at + 12, 400, true);
      view.setUint32(at + 336, 1, true);
      view.setUint32(at + 344, 1, true);
      if (given.label !== undefined) put(at + 120, given.label);
    });

  it('are told apart by the journal, and by features that only ext4 has', () => {
    expect(ext()?.kind).toBe('ext2');
    expect(ext({ compatible: 0x4 })?.kind).toBe('ext3');
    for (const feature of [0x40, 0x80, 0x200])
      expect(ext({ compatible: 0x4, incompatible: feature })?.kind).toBe('ext4');
    // File types in folders are of ext2 already.
    expect(ext({ incompatible: 0x2 })?.kind).toBe('ext2');
    expect(ext({ magic: 0xef54 })?.kind).toBe(undefined);
  });

  it('count blocks of 1,024 bytes times two to the power of a number up to 6', () => {
    expect(ext({ logBlock: 0 })).toMatchObject({ spansBytes: 1000 * 1024, usedBytes: 600 * 1024 });
    expect(ext()).toMatchObject({ spansBytes: 1000 * 4096, usedBytes: 600 * 4096 });
    expect(ext({ logBlock: 6 })?.spansBytes).toBe(1000 * 65_536);
    expect(ext({ logBlock: 7 })?.kind).toBe(undefined);
    // With counts of 64 bits the upper halves count: 2^32 blocks more, as many of them free.
    expect(ext({ incompatible: 0x80 })).toMatchObject({
      spansBytes: (2 ** 32 + 1000) * 4096,
      usedBytes: 600 * 4096,
    });
  });

  it('say when they were not closed in order, or have a journal to play back', () => {
    expect(ext()).not.toHaveProperty('left');
    expect(ext({ state: 0 })?.left).toBe('unclean');
    expect(ext({ state: 3 })).not.toHaveProperty('left');
    expect(ext({ compatible: 0x4, incompatible: 0x4 })?.left).toBe('unclean');
  });

  it('have a label of up to sixteen bytes, or none', () => {
    expect(ext({ label: 'archive' })?.label).toBe('archive');
    expect(ext({ label: 'sixteen-letters!' })?.label).toBe('sixteen-letters!');
    expect(ext()).not.toHaveProperty('label');
  });
});

describe('other file systems', () => {
  it('Btrfs has its block at 64 KiB; a log that is left there was not played back', () => {
    const btrfs = (log: bigint) =>
      volume((view, put) => {
        put(65_536 + 64, '_BHRfS_M');
        put(65_536 + 299, 'tides');
        view.setBigUint64(65_536 + 112, 9_000_000n, true);
        view.setBigUint64(65_536 + 120, 4_000_000n, true);
        view.setBigUint64(65_536 + 96, log, true);
      });
    expect(btrfs(0n)).toEqual({ kind: 'btrfs', label: 'tides', spansBytes: 9_000_000, usedBytes: 4_000_000 });
    expect(btrfs(1n)?.left).toBe('unclean');
  });

  it('XFS counts from its high end', () => {
    const found = volume((view, put) => {
      put(0, 'XFSB');
      view.setUint32(4, 4096, false);
      view.setBigUint64(8, 500n, false);
      view.setBigUint64(144, 100n, false);
      put(108, 'scans');
    });
    expect(found).toEqual({ kind: 'xfs', label: 'scans', spansBytes: 500 * 4096, usedBytes: 400 * 4096 });
  });

  it('swap has its sign at the end of the first page, another one while a system sleeps in it', () => {
    const swap = (sign: string) =>
      volume((view, put) => {
        put(4086, sign);
        view.setUint32(1028, 99, true);
        put(1052, 'swap-1');
      });
    expect(swap('SWAPSPACE2')).toEqual({ kind: 'swap', label: 'swap-1', spansBytes: 100 * 4096 });
    for (const sign of ['S1SUSPEND', 'S2SUSPEND', 'ULSUSPEND', 'LINHIB0001'])
      expect(swap(sign)?.left).toBe('hibernated');
    expect(swap('SWAP-SPACE')?.kind).toBe(undefined);
  });

  it('a container of APFS says how large it is, and nothing of what is in it', () => {
    const found = volume((view, put) => {
      put(32, 'NXSB');
      view.setUint32(36, 4096, true);
      view.setBigUint64(40, 700n, true);
    });
    expect(found).toEqual({ kind: 'apfs', spansBytes: 700 * 4096 });
  });

  it('LUKS has a label from its second version on', () => {
    const luks = (version: number, last = 0xbe) =>
      volume((view, put) => {
        for (const [index, byte] of [0x4c, 0x55, 0x4b, 0x53, 0xba, last].entries())
          view.setUint8(index, byte);
        view.setUint16(6, version, false);
        put(24, 'ledgers');
      });
    expect(luks(2)).toEqual({ kind: 'luks', label: 'ledgers' });
    expect(luks(1)).toEqual({ kind: 'luks' });
    expect(luks(2, 0xbf)?.kind).toBe(undefined);
  });
});

describe('exFAT', () => {
  type Ex = {
    readonly sectorShift?: number;
    readonly clusterShift?: number;
    readonly percent?: number;
    readonly flags?: number;
    readonly label?: string;
  };
  /** 2,000 sectors; the heap begins at sector 128 with 200 clusters of 4 KiB; its root folder is the third cluster. */
  const exfat = (given: Ex = {}) =>
    volume((view, put) => {
      put(3, 'EXFAT   ');
      view.setUint8(108, given.sectorShift ?? 9);
      view.setUint8(109, given.clusterShift ?? 3);
      view.setBigUint64(72, 2000n, true);
      view.setUint32(88, 128, true);
      view.setUint32(92, 200, true);
      view.setUint32(96, 4, true);
      view.setUint8(112, given.percent ?? 50);
      view.setUint16(106, given.flags ?? 0, true);
      const root = 128 * 512 + 2 * 4096;
      // A first entry that is no label: the bitmap.
      view.setUint8(root, 0x81);
      if (given.label !== undefined) {
        view.setUint8(root + 32, 0x83);
        view.setUint8(root + 33, given.label.length);
        for (const [index, sign] of [...given.label].entries())
          view.setUint16(root + 34 + index * 2, sign.charCodeAt(0), true);
      }
    });
  const heap = 200 * 4096;

  it('tells whole percents of its clusters: the most that they can mean is used', () => {
    const beside = 2000 * 512 - heap;
    expect(exfat({ percent: 50 })?.usedBytes).toBe(beside + Math.ceil(heap * 0.51));
    expect(exfat({ percent: 0 })?.usedBytes).toBe(beside + Math.ceil(heap * 0.01));
    expect(exfat({ percent: 100 })?.usedBytes).toBe(2000 * 512);
    // 255 says that nobody has counted.
    expect(exfat({ percent: 255 })).not.toHaveProperty('usedBytes');
    expect(exfat({ percent: 101 })).not.toHaveProperty('usedBytes');
    expect(exfat()?.spansBytes).toBe(2000 * 512);
  });

  it('has its label in the root folder, behind other entries', () => {
    expect(exfat({ label: 'PIER' })?.label).toBe('PIER');
    expect(exfat({ label: 'ELEVEN-LONG' })?.label).toBe('ELEVEN-LONG');
    expect(exfat()).not.toHaveProperty('label');
  });

  it('says that it was in use, and is none with sizes that it cannot have', () => {
    expect(exfat()).not.toHaveProperty('left');
    expect(exfat({ flags: 0x2 })?.left).toBe('unclean');
    // Another flag says which table counts.
    expect(exfat({ flags: 0x1 })).not.toHaveProperty('left');
    expect(exfat({ sectorShift: 8 })?.kind).toBe(undefined);
    expect(exfat({ sectorShift: 13 })?.kind).toBe(undefined);
    expect(exfat({ clusterShift: 17 })?.kind).toBe(undefined);
    // 2^16 sectors of 512 bytes are 32 MiB, the largest cluster.
    expect(exfat({ clusterShift: 16 })?.kind).toBe('exfat');
  });
});

describe('NTFS', () => {
  const ntfs = (sectors: number, sectorBytes = 512) =>
    volume((view, put) => {
      put(3, 'NTFS    ');
      view.setUint16(11, sectorBytes, true);
      view.setBigUint64(40, BigInt(sectors), true);
    });

  it('spans the sectors that it counts, and the copy of its boot record behind them', () => {
    expect(ntfs(255)).toMatchObject({ kind: 'ntfs', spansBytes: 256 * 512 });
    expect(ntfs(31, 4096)).toMatchObject({ kind: 'ntfs', spansBytes: 32 * 4096 });
    expect(ntfs(255, 700)).toBeUndefined();
  });
});
