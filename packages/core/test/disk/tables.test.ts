import { crc32 as zlibCrc32 } from 'node:zlib';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  bufferSource,
  crc32,
  encodeTable,
  newGuid,
  parseGuid,
  planConversion,
  planLayout,
  readPartitionTable,
  type PartitionTable,
  type SectorSource,
} from '../../src/disk';
import { gptDisk, mbrDisk, seeded, whole, written, inTheTable } from '../fixtures/disks';
import { takeRemedies } from '../fixtures/conversions';

const codes = (table: PartitionTable) => inTheTable(table).map(({ code }) => code);

function read(source: SectorSource): PartitionTable {
  const table = readPartitionTable(source);
  if (!table.ok) throw new Error(table.problems[0]?.sentence);
  return table.value;
}

/** What a table says, without what its sectors look like. */
const said = ({ scheme, diskId, partitions, extended }: PartitionTable) => ({
  scheme,
  diskId,
  partitions,
  extended,
});

/** A GPT of one partition on a disk of 100 sectors, sectors 40 to 49. */
function smallGpt(change: (bytes: Uint8Array) => void = () => undefined, sectorCount = 100): SectorSource {
  const bytes = whole(
    written(
      {
        scheme: 'gpt',
        sectorSizeBytes: 512,
        sectorCount: 100,
        diskId: '00112233-4455-6677-8899-AABBCCDDEEFF',
        partitions: [
          {
            number: 1,
            kind: 'entry',
            startLba: 40,
            sectorCount: 10,
            typeCode: 'EBD0A0A2-B9E5-4433-87C0-68B6B72699C7',
            guid: '12345678-9ABC-DEF0-1234-56789ABCDEF0',
            name: 'Pier',
          },
        ],
        firstUsableLba: 34,
        lastUsableLba: 66,
        findings: [],
      },
      bufferSource(new Uint8Array(100 * 512), 512),
    ),
  );
  const grown = new Uint8Array(sectorCount * 512);
  grown.set(bytes.subarray(0, grown.length));
  change(grown);
  return bufferSource(grown, 512);
}

describe('GPT bytes, field by field', () => {
  // Offsets and values from the UEFI specification 2.10, tables 5.4 to 5.6, for the disk of smallGpt:
  // 100 sectors, so the backup header is at 99, its entries at 67 to 98, and 34 to 66 are usable.
  const bytes = whole(smallGpt());
  const view = new DataView(bytes.buffer);
  const hex = (from: number, count: number) =>
    [...bytes.subarray(from, from + count)].map((byte) => byte.toString(16).padStart(2, '0')).join(' ');

  it('has a protective MBR', () => {
    // Boot indicator 0, head 0 sector 2 cylinder 0, type EE, then the last sector's address: 99 is cylinder 0,
    // head 1, sector 37 of 63-sector tracks; start 1; 99 sectors.
    expect(hex(446, 16)).toBe('00 00 02 00 ee 01 25 00 01 00 00 00 63 00 00 00');
    expect(hex(462, 48)).toBe(new Array(48).fill('00').join(' '));
    expect(hex(510, 2)).toBe('55 aa');
    // The disk signature of an MBR is not used, and zero.
    expect(hex(440, 6)).toBe('00 00 00 00 00 00');
  });

  it.each([
    ['primary', 1, 99, 2],
    ['backup', 99, 1, 67],
  ])('has a %s header', (_which, own, other, entries) => {
    const at = own * 512;
    expect(String.fromCharCode(...bytes.subarray(at, at + 8))).toBe('EFI PART');
    expect(hex(at + 8, 4)).toBe('00 00 01 00');
    expect(view.getUint32(at + 12, true)).toBe(92);
    expect(hex(at + 20, 4)).toBe('00 00 00 00');
    expect(view.getBigUint64(at + 24, true)).toBe(BigInt(own));
    expect(view.getBigUint64(at + 32, true)).toBe(BigInt(other));
    expect(view.getBigUint64(at + 40, true)).toBe(34n);
    expect(view.getBigUint64(at + 48, true)).toBe(66n);
    // The first three groups of a GUID are little-endian, the last two are not.
    expect(hex(at + 56, 16)).toBe('33 22 11 00 55 44 77 66 88 99 aa bb cc dd ee ff');
    expect(view.getBigUint64(at + 72, true)).toBe(BigInt(entries));
    expect(view.getUint32(at + 80, true)).toBe(128);
    expect(view.getUint32(at + 84, true)).toBe(128);
    expect(bytes.subarray(at + 92, at + 512).every((byte) => byte === 0)).toBe(true);
    // Both checksums by another implementation: the entries' over all 16,384 bytes, the header's over 92 with
    // its own field zero.
    const table = bytes.subarray(entries * 512, entries * 512 + 128 * 128);
    expect(view.getUint32(at + 88, true)).toBe(zlibCrc32(table));
    const header = bytes.slice(at, at + 92);
    header.fill(0, 16, 20);
    expect(view.getUint32(at + 16, true)).toBe(zlibCrc32(header));
  });

  it('has the entry', () => {
    for (const at of [2 * 512, 67 * 512]) {
      expect(hex(at, 16)).toBe('a2 a0 d0 eb e5 b9 33 44 87 c0 68 b6 b7 26 99 c7');
      expect(hex(at + 16, 16)).toBe('78 56 34 12 bc 9a f0 de 12 34 56 78 9a bc de f0');
      expect(view.getBigUint64(at + 32, true)).toBe(40n);
      // The last sector, included.
      expect(view.getBigUint64(at + 40, true)).toBe(49n);
      expect(hex(at + 48, 8)).toBe('00 00 00 00 00 00 00 00');
      expect(hex(at + 56, 10)).toBe('50 00 69 00 65 00 72 00 00 00');
      expect(bytes.subarray(at + 128, at + 32 * 512).every((byte) => byte === 0)).toBe(true);
    }
  });

  it('calculates CRC-32 as everybody does', () => {
    // The check value of CRC-32/ISO-HDLC is 0xCBF43926 for these nine signs.
    expect(crc32(new TextEncoder().encode('123456789'))).toBe(0xcbf43926);
    fc.assert(fc.property(fc.uint8Array({ maxLength: 300 }), (any) => crc32(any) === zlibCrc32(any)));
  });
});

describe('reading what is damaged', () => {
  it('reads a whole table without a finding', () => {
    const table = read(smallGpt());
    expect(inTheTable(table)).toEqual([]);
    expect(table.partitions[0]).toMatchObject({ number: 1, startLba: 40, sectorCount: 10, name: 'Pier' });
  });

  it('takes the backup when the primary is damaged, and the other way round', () => {
    const noPrimary = read(smallGpt((bytes) => bytes.fill(7, 512 + 60, 512 + 64)));
    expect(codes(noPrimary)).toEqual(['gpt-primary-header-checksum', 'gpt-primary-bad']);
    expect(noPrimary.partitions).toHaveLength(1);
    const noBackup = read(smallGpt((bytes) => bytes.fill(0, 99 * 512)));
    expect(codes(noBackup)).toEqual(['gpt-backup-bad']);
    expect(noBackup.partitions).toHaveLength(1);
    const badEntries = read(smallGpt((bytes) => bytes.fill(1, 2 * 512 + 60, 2 * 512 + 61)));
    expect(codes(badEntries)).toEqual(['gpt-primary-entries-checksum', 'gpt-primary-bad']);
    expect(badEntries.partitions[0]?.name).toBe('Pier');
  });

  it('trusts neither when both are damaged', () => {
    const table = read(
      smallGpt((bytes) => {
        bytes[512 + 60] = 9;
        bytes[99 * 512 + 60] = 9;
      }),
    );
    expect(codes(table)).toContain('gpt-both-bad');
    expect(table.findings.some(({ weight }) => weight === 'damage')).toBe(true);
  });

  it('finds the backup where it was before the disk was copied to a larger one', () => {
    const table = read(smallGpt(undefined, 300));
    expect(codes(table)).toEqual(['protective-length', 'gpt-backup-elsewhere']);
    expect(table.gpt?.backupLba).toBe(99);
    expect(table.partitions).toHaveLength(1);
  });

  it('says so when the image is cut short', () => {
    expect(codes(read(smallGpt(undefined, 45)))).toEqual(
      expect.arrayContaining(['gpt-backup-elsewhere', 'gpt-backup-bad', 'entry-beyond']),
    );
  });

  it('refuses a header with an absurd count without reading so much', () => {
    let max = 0;
    const source = smallGpt((bytes) => {
      new DataView(bytes.buffer).setUint32(512 + 80, 0xffffffff, true);
      new DataView(bytes.buffer).setUint32(99 * 512 + 84, 0xfffffff8, true);
    });
    const table = read({
      ...source,
      read: (lba, count) => {
        max = Math.max(max, count);
        return source.read(lba, count);
      },
    });
    expect(codes(table)).toEqual(
      expect.arrayContaining(['gpt-primary-entries-absurd', 'gpt-backup-entries-absurd', 'gpt-both-bad']),
    );
    expect(max).toBeLessThan(400);
  });

  it('tells hybrids, stale remains, a missing protective entry, the other sector size, nothing at all', () => {
    const hybrid = smallGpt((bytes) => bytes.set([0, 0, 0, 0, 7, 0, 0, 0, 40, 0, 0, 0, 10, 0, 0, 0], 462));
    expect(codes(read(hybrid))).toContain('hybrid');
    expect(read(hybrid).gpt?.hybrid).toBe(true);
    const stale = read(
      smallGpt((bytes) => bytes.set([0, 0, 0, 0, 7, 0, 0, 0, 40, 0, 0, 0, 10, 0, 0, 0], 446)),
    );
    expect(stale.scheme).toBe('mbr');
    expect(codes(stale)).toContain('stale-gpt');
    const unprotected = read(smallGpt((bytes) => bytes.fill(0, 0, 512)));
    expect(unprotected.scheme).toBe('gpt');
    expect(codes(unprotected)).toEqual(['protective-missing']);
    const wide = whole(
      written(
        { ...read(smallGpt()), sectorSizeBytes: 4096, partitions: [] },
        bufferSource(new Uint8Array(100 * 4096), 4096),
      ),
    );
    expect(codes(read(bufferSource(wide, 512)))).toContain('sector-size-other');
    expect(codes(read(bufferSource(new Uint8Array(51200), 512)))).toEqual(['all-zero']);
    expect(codes(read(bufferSource(new Uint8Array(51200).fill(3), 512)))).toEqual(['no-signature']);
    const gone = read(
      smallGpt((bytes) => {
        bytes.fill(0, 512, 1024);
        bytes.fill(0, 99 * 512);
      }),
    );
    expect(codes(gone)).toEqual(['gpt-gone']);
  });

  /** An MBR of 1,000 sectors with an extended partition at 100; entries as [type, start, count]. */
  function mbr(
    entries: readonly (readonly [number, number, number])[],
    more: (view: DataView) => void = () => undefined,
  ) {
    const bytes = new Uint8Array(1000 * 512);
    const view = new DataView(bytes.buffer);
    const entry = (at: number, [type, start, count]: readonly [number, number, number]) => {
      view.setUint8(at + 4, type);
      view.setUint32(at + 8, start, true);
      view.setUint32(at + 12, count, true);
    };
    entries.forEach((one, index) => entry(446 + index * 16, one));
    view.setUint16(510, 0xaa55, true);
    more(view);
    return read(bufferSource(bytes, 512));
  }
  const ebr = (
    view: DataView,
    lba: number,
    own: readonly [number, number],
    link?: readonly [number, number],
  ) => {
    const at = lba * 512;
    view.setUint8(at + 446 + 4, 0x83);
    view.setUint32(at + 446 + 8, own[0], true);
    view.setUint32(at + 446 + 12, own[1], true);
    if (link) {
      view.setUint8(at + 462 + 4, 0x05);
      view.setUint32(at + 462 + 8, link[0], true);
      view.setUint32(at + 462 + 12, link[1], true);
    }
    view.setUint16(at + 510, 0xaa55, true);
  };

  it('follows the chain: own place from the EBR, the next from the extended partition', () => {
    const table = mbr([[0x0f, 100, 500]], (view) => {
      ebr(view, 100, [10, 50], [200, 100]);
      ebr(view, 300, [5, 20]);
    });
    // 100 + 10 and, from the EBR at 100 + 200, 300 + 5.
    expect(
      table.partitions.map(({ number, startLba, sectorCount }) => [number, startLba, sectorCount]),
    ).toEqual([
      [5, 110, 50],
      [6, 305, 20],
    ]);
    expect(inTheTable(table)).toEqual([]);
  });

  it('stops at loops, at links that lead outside, and at sectors without a signature', () => {
    const loop = mbr([[0x05, 100, 500]], (view) => {
      ebr(view, 100, [10, 50], [200, 100]);
      ebr(view, 300, [5, 20], [200, 100]);
    });
    expect(codes(loop)).toEqual(['ebr-loop']);
    expect(loop.partitions).toHaveLength(2);
    expect(codes(mbr([[0x05, 100, 500]], (view) => ebr(view, 100, [10, 50], [600, 10])))).toEqual([
      'ebr-outside',
    ]);
    expect(codes(mbr([[0x05, 100, 500]]))).toEqual(['ebr-unsigned']);
  });

  it('finds entries that overlap, lie outside, begin at 0 or have no length', () => {
    expect(
      codes(
        mbr([
          [7, 10, 50],
          [7, 59, 50],
        ]),
      ),
    ).toEqual(['entries-overlap']);
    expect(
      codes(
        mbr([
          [7, 10, 50],
          [7, 60, 50],
        ]),
      ),
    ).toEqual([]);
    expect(codes(mbr([[7, 990, 11]]))).toEqual(['entry-beyond']);
    expect(codes(mbr([[7, 1000, 1]]))).toEqual(['entry-outside']);
    expect(codes(mbr([[7, 0, 10]]))).toEqual(['entry-start']);
    expect(codes(mbr([[7, 10, 0]]))).toEqual(['entry-empty']);
    expect(
      codes(
        mbr(
          [
            [7, 150, 10],
            [0x05, 100, 500],
          ],
          (view) => ebr(view, 100, [300, 20]),
        ),
      ),
    ).toEqual(['entries-overlap']);
    expect(codes(mbr([[0x42, 10, 50]]))).toEqual(['dynamic-volumes']);
  });

  it('refuses sector sizes that it does not read', () => {
    expect(readPartitionTable(bufferSource(new Uint8Array(4096), 520))).toMatchObject({
      ok: false,
      problems: [{ code: 'sector-size' }],
    });
    expect(readPartitionTable(bufferSource(new Uint8Array(100), 512))).toMatchObject({
      ok: false,
      problems: [{ code: 'sector-count' }],
    });
  });
});

/**
 * Plans a conversion and a layout on whatever was read: none may throw, and no write may meet a partition that is to
 * stay. Gives how many plans there were.
 */
function plansSafely(table: PartitionTable, source: SectorSource): number {
  const random = seeded(1);
  let plans = 0;
  for (const target of ['gpt', 'mbr'] as const) {
    const plan = planConversion(source, target, { random, resolutions: [{ kind: 'no-efi' }] });
    if (!plan.ok) continue;
    plans += 1;
    for (const { startLba } of plan.value.writes)
      for (const one of plan.value.after.partitions)
        if (startLba >= one.startLba && startLba < one.startLba + one.sectorCount)
          throw new Error(`sector ${startLba} is written inside partition ${one.number}`);
  }
  const layout = planLayout(table, { kind: 'room', sizeBytes: 1024 ** 2 });
  return layout.ok ? plans + 1 : plans;
}

describe('laws of tables', () => {
  it('reads back what it wrote, without a finding, in both schemes and sector sizes', () => {
    for (const disk of [gptDisk, mbrDisk])
      fc.assert(
        fc.property(disk, ({ table, source }) => {
          const back = read(source);
          expect(inTheTable(back)).toEqual([]);
          expect(said(back)).toEqual(said(table));
          // Writing what is there changes nothing.
          const again = encodeTable(back, source);
          expect(
            again.ok &&
              again.value.every(
                ({ startLba, bytes }) =>
                  Buffer.compare(bytes, source.read(startLba, bytes.length / source.sectorSizeBytes)) === 0,
              ),
          ).toBe(true);
        }),
        { numRuns: 150 },
      );
  });

  it('reads GUIDs as they are written, of the version that is random', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1 }), (seed) => {
        const guid = newGuid(seeded(seed));
        expect(guid).toMatch(/^[0-9A-F]{8}-[0-9A-F]{4}-4[0-9A-F]{3}-[89AB][0-9A-F]{3}-[0-9A-F]{12}$/);
        expect(parseGuid(`{${guid.toLowerCase()}}`)).toEqual({ ok: true, value: guid });
      }),
    );
  });

  it('never throws, never loops, never reads without bound, and plans nothing over a living partition: 100,000 inputs', () => {
    const random = seeded(20261125);
    const pick = (max: number) =>
      ((random(4)[0] ?? 0) * 0x1000000 +
        (random(1)[0] ?? 0) * 0x10000 +
        (random(1)[0] ?? 0) * 256 +
        (random(1)[0] ?? 0)) %
      max;
    const samples = fc
      .sample(
        fc
          .oneof(gptDisk, mbrDisk)
          .filter(
            ({ source: { sectorCount, sectorSizeBytes } }) =>
              sectorCount * sectorSizeBytes < (sectorSizeBytes === 512 ? 400_000 : 1_000_000),
          ),
        { numRuns: 200, seed: 7 },
      )
      .map(({ source, table }) => {
        const target = table.scheme === 'gpt' ? 'mbr' : 'gpt';
        const { plan } = takeRemedies(source, target, { random: seeded(9) }, [{ kind: 'no-efi' }]);
        const bytes = whole(source);
        return {
          bytes,
          // Damaged, read and repaired again: a hundred thousand copies would take longer than the reading.
          damaged: bytes.slice(),
          sectorSizeBytes: source.sectorSizeBytes,
          writes: plan?.writes ?? [],
        };
      });
    let findings = 0;
    const seen = { gpt: 0, mbr: 0, none: 0 };
    const sizes = { 512: 0, 4096: 0 };
    let interrupted = 0;
    let planned = 0;
    let hit = samples[0];
    const hits: { readonly at: number; readonly length: number }[] = [];
    const damage = (at: number, written: Uint8Array): void => {
      hit?.damaged.set(written, at);
      hits.push({ at, length: written.length });
    };
    const repair = (): void => {
      for (const { at, length } of hits.splice(0)) hit?.damaged.set(hit.bytes.subarray(at, at + length), at);
    };
    for (let round = 0; round < 100_000; round += 1) {
      const kind = round % 5;
      const sample = samples[pick(samples.length)];
      if (!sample) throw new Error('no sample');
      repair();
      hit = sample;
      const { sectorSizeBytes } = sample;
      let bytes: Uint8Array;
      if (kind === 0) bytes = random(sectorSizeBytes * (1 + pick(3)));
      else {
        bytes = sample.damaged.subarray(
          0,
          kind === 1 ? sectorSizeBytes * (1 + pick(40)) : sample.damaged.length,
        );
        if (kind === 4 && sample.writes.length > 0) {
          // A conversion that broke off after any of its writes, before anything else was damaged.
          interrupted += 1;
          for (const write of sample.writes.slice(0, 1 + pick(sample.writes.length)))
            damage(write.startLba * sectorSizeBytes, write.bytes);
        }
        // Bytes of the structures are hit far more often than chance would.
        const places = [
          446,
          454,
          458,
          470,
          510,
          sectorSizeBytes + 12,
          sectorSizeBytes + 24,
          sectorSizeBytes + 40,
          sectorSizeBytes + 72,
          sectorSizeBytes + 80,
          sectorSizeBytes + 84,
          2 * sectorSizeBytes + 32,
          2 * sectorSizeBytes + 40,
          bytes.length - sectorSizeBytes + 72,
        ];
        for (let count = 0; count < 1 + pick(6); count += 1) {
          const at =
            (kind === 2 ? pick(bytes.length) : (places[pick(places.length)] ?? 0) + pick(8)) % bytes.length;
          damage(at, Uint8Array.of(pick(256)));
        }
      }
      let sectorsRead = 0;
      const source = bufferSource(bytes, sectorSizeBytes);
      const table = readPartitionTable({
        ...source,
        sectorCount: kind === 0 ? 1 + pick(1000) : source.sectorCount,
        read: (lba, count) => {
          sectorsRead += count;
          return source.read(lba, count);
        },
      });
      if (!table.ok) continue;
      findings += table.value.findings.length;
      seen[table.value.scheme] += 1;
      sizes[sectorSizeBytes === 512 ? 512 : 4096] += 1;
      if (round % 20 === 3 || round % 20 === 4) planned += plansSafely(table.value, source);
      // 128 partitions of some 80 KiB, two tables, a chain: never more, whatever the numbers say.
      if (sectorsRead * sectorSizeBytes > 24_000_000)
        throw new Error(`round ${round} read ${sectorsRead} sectors`);
    }
    expect(findings).toBeGreaterThan(50_000);
    expect(interrupted).toBeGreaterThan(10_000);
    expect(planned).toBeGreaterThan(500);
    expect(Math.min(seen.gpt, seen.mbr, seen.none)).toBeGreaterThan(5000);
    expect(Math.min(...Object.values(sizes))).toBeGreaterThan(8000);
  }, 300_000);
});
