import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import {
  applyWrites,
  bufferSource,
  encodeTable,
  gptBounds,
  planConversion,
  planLayout,
  planTableFix,
  readPartitionTable,
  recogniseContent,
  undoCapsule,
  type PartitionTable,
  type SectorSource,
  type TablePartition,
} from '../../src/disk';
import { seeded, whole, written } from '../fixtures/disks';
import { imageSource, makeSystem, patchBytes, tool, writeFiles } from '../fixtures/diskTools';

const random = seeded(23);
let folder = '';
const at = (name: string) => join(folder, name);

beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'ulvane-found-'));
  writeFiles(at('files'), seeded(3)(70_000));
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const contentIn = (name: string) => {
  const source = imageSource(at(name), 512);
  return recogniseContent(source, 0, source.sectorCount);
};

function tableOf(source: SectorSource): PartitionTable {
  const table = readPartitionTable(source);
  if (!table.ok) throw new Error(table.problems[0]?.sentence);
  return table.value;
}

describe('how a file system was left', () => {
  it('ntfs: in order, with its check scheduled, and with a system asleep in it', () => {
    makeSystem('ntfs', at('n.img'), 'PIER', at('files'), 20 * 1024 ** 2);
    expect(contentIn('n.img')?.left).toBeUndefined();
    // Its own repair tool asks for a check at the next start.
    tool('ntfsfix', [at('n.img')]);
    expect(contentIn('n.img')).toMatchObject({ kind: 'ntfs', label: 'PIER', left: 'unclean' });
    tool('ntfsfix', ['-d', at('n.img')]);
    expect(contentIn('n.img')?.left).toBeUndefined();
    writeFileSync(at('awake'), new Uint8Array(40_000));
    tool('ntfscp', [at('n.img'), at('awake'), 'hiberfil.sys']);
    expect(contentIn('n.img')?.left, 'a file that is all zero says that it was woken').toBeUndefined();
    writeFileSync(at('asleep'), Buffer.concat([Buffer.from('HIBR'), random(40_000)]));
    tool('ntfscp', [at('n.img'), at('asleep'), 'hiberfil.sys']);
    expect(contentIn('n.img')?.left).toBe('hibernated');
  });

  it('ntfs: finds the file also in a root folder that has blocks of its own', () => {
    makeSystem('ntfs', at('many.img'), 'PIER', at('files'), 20 * 1024 ** 2);
    writeFileSync(at('small'), 'x');
    for (let index = 0; index < 60; index += 1)
      tool('ntfscp', [at('many.img'), at('small'), `z-a-file-with-a-rather-long-name-${index}.txt`]);
    writeFileSync(at('asleep'), Buffer.concat([Buffer.from('hibr'), random(9000)]));
    tool('ntfscp', [at('many.img'), at('asleep'), 'hiberfil.sys']);
    expect(contentIn('many.img')?.left).toBe('hibernated');
  });

  it('ext4, FAT32 and exFAT: by their own marks', () => {
    makeSystem('ext4', at('e.img'), 'PIER', at('files'), 20 * 1024 ** 2);
    expect(contentIn('e.img')?.left).toBeUndefined();
    tool('debugfs', ['-w', '-R', 'set_super_value state 0', at('e.img')]);
    expect(contentIn('e.img')?.left).toBe('unclean');

    makeSystem('fat32', at('f.img'), 'PIER', at('files'), 40 * 1024 ** 2);
    expect(contentIn('f.img')?.left).toBeUndefined();
    // Its table begins behind 32 reserved sectors; the bit is in the last byte of the second entry.
    patchBytes(at('f.img'), 32 * 512 + 7, [0x07]);
    expect(contentIn('f.img')?.left).toBe('unclean');

    makeSystem('exfat', at('x.img'), 'PIER', at('files'), 20 * 1024 ** 2);
    expect(contentIn('x.img')?.left).toBeUndefined();
    patchBytes(at('x.img'), 106, [0x02, 0x00]);
    expect(contentIn('x.img')).toMatchObject({ kind: 'exfat', left: 'unclean' });
  });

  it('swap that a system sleeps in, and a volume that its system encrypts', () => {
    makeSystem('swap', at('s.img'), 'PIER', at('files'), 10 * 1024 ** 2);
    patchBytes(at('s.img'), 4086, [...Buffer.from('S1SUSPEND\0')]);
    expect(contentIn('s.img')).toMatchObject({ kind: 'swap', left: 'hibernated' });
    const locked = new Uint8Array(1024 ** 2);
    locked.set(Buffer.from('\xeb\x58\x90-FVE-FS-', 'latin1'));
    expect(recogniseContent(bufferSource(locked, 512), 0, 2048)?.kind).toBe('encrypted');
  });
});

const mib = 2048;
const size = 64 * mib;

/** A disk of 64 MiB with two NTFS-typed partitions, from 1 and from 20 MiB, of 10 MiB each. */
function mbrDisk(more: Partial<TablePartition> = {}, second: Partial<TablePartition> = {}): SectorSource {
  return written(
    {
      scheme: 'mbr',
      sectorSizeBytes: 512,
      sectorCount: size,
      diskId: 'B0A7D15C',
      partitions: [
        {
          number: 1,
          kind: 'primary',
          startLba: mib,
          sectorCount: 10 * mib,
          typeCode: '0x07',
          active: true,
          ...more,
        },
        {
          number: 2,
          kind: 'primary',
          startLba: 20 * mib,
          sectorCount: 10 * mib,
          typeCode: '0x07',
          ...second,
        },
      ],
      firstUsableLba: 1,
      lastUsableLba: size - 1,
      findings: [],
    },
    bufferSource(new Uint8Array(size * 512), 512),
  );
}

function withBytes(source: SectorSource, offset: number, bytes: Uint8Array): SectorSource {
  const all = whole(source);
  all.set(bytes, offset);
  return bufferSource(all, source.sectorSizeBytes);
}

const problemsOf = (outcome: ReturnType<typeof planConversion>) => (outcome.ok ? [] : outcome.problems);

describe('what stands outside of the partitions', () => {
  it('nothing is found on a plain disk', () => {
    const table = tableOf(mbrDisk());
    expect(table.findings).toEqual([]);
    expect(table.startCode).toBeUndefined();
  });

  it('a loader’s code before the first partition is kept or let go by name, never written over unasked', () => {
    const code = random(20 * 512);
    code.set([1], 0);
    code.set([1], code.length - 1);
    const disk = withBytes(withBytes(mbrDisk(), 512, code), 0, Uint8Array.of(0xfa, 0x33));
    const table = tableOf(disk);
    expect(table.startCode).toBe(true);
    expect(table.outsideUse).toEqual([{ what: 'gap', startLba: 1, sectorCount: 20 }]);
    expect(table.findings).toMatchObject([
      {
        code: 'gap-in-use',
        path: '/lba/1',
        sentence: expect.stringMatching(/^Sectors 1 to 20 before the first/),
      },
    ]);
    const asked = planConversion(disk, 'gpt', { random, resolutions: [{ kind: 'no-efi' }] });
    const [obstacle] = problemsOf(asked);
    expect(obstacle?.code).toBe('loader-in-the-way');
    expect(obstacle?.remedies.map(({ resolution }) => resolution)).toEqual([
      // GPT ends at sector 33; the next whole 4 KiB is 40, and the first partition begins at 2,048.
      { kind: 'make-boot', startLba: 40, sectorCount: 2008 },
      { kind: 'write-over', startLba: 1, sectorCount: 20 },
    ]);
    const legacy = planConversion(disk, 'gpt', {
      random,
      resolutions: [{ kind: 'make-boot', startLba: 40, sectorCount: 2008 }],
    });
    if (!legacy.ok) throw new Error(legacy.problems[0]?.sentence);
    expect(
      legacy.value.after.partitions.map(({ number, startLba, typeCode }) => [number, startLba, typeCode]),
    ).toEqual([
      [3, 40, '21686148-6449-6E6F-744E-656564454649'],
      [1, mib, 'EBD0A0A2-B9E5-4433-87C0-68B6B72699C7'],
      [2, 20 * mib, 'EBD0A0A2-B9E5-4433-87C0-68B6B72699C7'],
    ]);
    expect(legacy.value.notes[0]).toContain('legacy mode after the loader has installed itself again');
    const capsule = undoCapsule(disk, legacy.value.writes);
    const after = applyWrites(disk, legacy.value.writes);
    if (!capsule.ok || !after.ok) throw new Error();
    const back = applyWrites(after.value, capsule.value.writes);
    expect(back.ok && Buffer.compare(whole(back.value), whole(disk))).toBe(0);
  });

  it('says of old start code that it is not used only where there is some and UEFI starts the disk', () => {
    const notes = (disk: SectorSource, resolutions: Parameters<typeof planConversion>[2]['resolutions']) => {
      const outcome = planConversion(disk, 'gpt', { random, ...(resolutions ? { resolutions } : {}) });
      return outcome.ok ? outcome.value.notes.join(' ') : outcome.problems.map(({ code }) => code).join(' ');
    };
    const coded = withBytes(mbrDisk(), 0, Uint8Array.of(0xfa));
    const efi = mbrDiskWithEfi();
    expect(notes(efi, [])).not.toContain('start code');
    expect(notes(withBytes(efi, 0, Uint8Array.of(0xfa)), [])).toContain('no longer used');
    expect(notes(coded, [{ kind: 'no-efi' }])).not.toContain('no longer used');
  });

  it('bytes where GPT keeps its second copy are asked about', () => {
    const disk = withBytes(mbrDisk(), (size - 3) * 512, Uint8Array.of(7));
    const [obstacle] = problemsOf(planConversion(disk, 'gpt', { random, resolutions: [{ kind: 'no-efi' }] }));
    expect(obstacle).toMatchObject({
      code: 'end-in-the-way',
      remedies: [{ resolution: { kind: 'write-over', startLba: size - 3, sectorCount: 1 } }],
    });
  });

  it.each([
    // Version 1.0 stands 8 KiB before the end, on 4 KiB; 0.90 in the last whole 64 KiB but one.
    ['a set’s sign 8 KiB before the end', (size - 16) * 512, [0xfc, 0x4e, 0x2b, 0xa9]],
    ['a controller’s sign in the last sector', (size - 1) * 512, [0xde, 0x11, 0xde, 0x11]],
    ['dynamic volumes’ header', 6 * 512, [...Buffer.from('PRIVHEAD')]],
  ] as const)('%s refuses conversion and layout', (_name, offset, bytes) => {
    const disk = withBytes(mbrDisk(), offset, Uint8Array.from(bytes));
    const table = tableOf(disk);
    expect(table.findings.map(({ code }) => code)).toContain('disk-in-set');
    const conversion = problemsOf(planConversion(disk, 'gpt', { random, resolutions: [{ kind: 'no-efi' }] }));
    expect(conversion.find(({ code }) => code === 'disk-in-set')).toMatchObject({ remedies: [] });
    expect(
      conversion.every(({ remedies, otherwise }) => remedies.length > 0 || otherwise !== undefined),
    ).toBe(true);
    const layout = planLayout(table, { kind: 'room', sizeBytes: 1024 ** 2 });
    expect(!layout.ok && layout.problems.map(({ code }) => code)).toEqual(['disk-in-set']);
  });

  it('two active entries and starts off whole MiB are told, and kept', () => {
    const disk = mbrDisk({ startLba: 63 }, { active: true });
    const table = tableOf(disk);
    expect(table.findings.map(({ code }) => code)).toEqual(['start-off-mib', 'two-active']);
    const plan = planLayout(table, { kind: 'room', sizeBytes: 1024 ** 2 });
    if (!plan.ok) throw new Error();
    const writes = encodeTable(plan.value.after, disk);
    const after = writes.ok ? applyWrites(disk, writes.value) : writes;
    if (!after.ok) throw new Error();
    expect(tableOf(after.value).partitions).toEqual(table.partitions);
  });

  it('an MBR that was made for the other sector size stops every plan', () => {
    // What begins at sector 256 of 4,096 bytes begins at 2,048 of 512.
    const ntfs = new Uint8Array(512);
    ntfs.set([0xeb, 0x52, 0x90, ...Buffer.from('NTFS    ')]);
    new DataView(ntfs.buffer).setUint16(11, 512, true);
    const disk = withBytes(mbrDisk({ startLba: 256, sectorCount: 1280 }), mib * 512, ntfs);
    const table = tableOf(disk);
    expect(table.findings[0]).toMatchObject({ code: 'sector-size-other', weight: 'damage' });
    expect(planLayout(table, { kind: 'room', sizeBytes: 1024 ** 2 }).ok).toBe(false);
  });
});

function mbrDiskWithEfi(): SectorSource {
  const sectorCount = 200 * mib;
  return written(
    {
      scheme: 'mbr',
      sectorSizeBytes: 512,
      sectorCount,
      diskId: 'B0A7D15C',
      partitions: [{ number: 1, kind: 'primary', startLba: mib, sectorCount: 120 * mib, typeCode: '0xEF' }],
      firstUsableLba: 1,
      lastUsableLba: sectorCount - 1,
      findings: [],
    },
    bufferSource(new Uint8Array(sectorCount * 512), 512),
  );
}

describe('what is done inside the systems first', () => {
  const table = (more: Partial<TablePartition>): PartitionTable => ({
    ...tableOf(mbrDisk()),
    partitions: [
      { number: 1, kind: 'primary', startLba: mib, sectorCount: 10 * mib, typeCode: '0x07', ...more },
    ],
  });
  const codes = (
    more: Partial<TablePartition>,
    resolutions: Parameters<typeof planConversion>[2]['resolutions'] = [],
  ) =>
    problemsOf(
      planConversion(table(more), 'gpt', { random, resolutions: [{ kind: 'no-efi' }, ...resolutions] }),
    ).map(({ code }) => code);

  it('a volume that was not closed is checked, one that is encrypted is suspended, both by a word', () => {
    expect(codes({ content: { kind: 'ntfs', left: 'unclean' } })).toEqual(['left-unclean']);
    expect(codes({ content: { kind: 'ntfs', left: 'unclean' } }, [{ kind: 'closed', partition: 1 }])).toEqual(
      [],
    );
    expect(codes({ encrypted: true })).toEqual(['encryption-on']);
    expect(codes({ encrypted: true }, [{ kind: 'suspended', partition: 1 }])).toEqual([]);
  });

  it('a system that is asleep is woken, whatever is said', () => {
    const asleep = { content: { kind: 'ntfs', left: 'hibernated' } } as const;
    expect(codes(asleep, [{ kind: 'closed', partition: 1 }])).toEqual(['left-hibernated']);
    expect(problemsOf(planConversion(table(asleep), 'gpt', { random }))[0]).toMatchObject({ remedies: [] });
    const layout = planLayout(table(asleep), { kind: 'room', sizeBytes: 1024 ** 2 });
    expect(!layout.ok && layout.problems[0]?.code).toBe('left-hibernated');
  });
});

describe('a copy of a GPT written anew', () => {
  const guid = (end: string) => `00000000-0000-4000-8000-00000000000${end}`;
  const partition = (number: number, startLba: number): TablePartition => ({
    number,
    kind: 'entry',
    startLba,
    sectorCount: 100,
    typeCode: 'EBD0A0A2-B9E5-4433-87C0-68B6B72699C7',
    guid: guid(String(number)),
  });
  const gpt = (partitions: readonly TablePartition[]): SectorSource =>
    written(
      {
        scheme: 'gpt',
        sectorSizeBytes: 512,
        sectorCount: 8192,
        diskId: guid('F'),
        partitions,
        ...gptBounds(512, 8192),
        gpt: { entryCount: 128, entrySizeBytes: 128, entriesLba: 2, backupLba: 8191, hybrid: false },
        findings: [],
      },
      bufferSource(new Uint8Array(8192 * 512), 512),
    );
  const one = gpt([partition(1, 2048)]);
  const two = gpt([partition(1, 2048), partition(2, 4096)]);

  it.each([
    ['primary', 8191 * 512],
    ['backup', 512],
  ] as const)(
    'from the %s, whatever was broken in the other, with every state in between whole',
    (from, offset) => {
      const broken = withBytes(one, offset, new Uint8Array(512));
      const plan = planTableFix(broken, from);
      if (!plan.ok) throw new Error(plan.problems[0]?.sentence);
      expect(plan.value.after.findings).toEqual([]);
      for (let done = 0; done <= plan.value.writes.length; done += 1) {
        const state = applyWrites(broken, plan.value.writes.slice(0, done));
        if (!state.ok) throw new Error();
        const read = tableOf(state.value);
        expect(read.findings.filter(({ weight }) => weight === 'damage')).toEqual([]);
        expect(read.partitions.map(({ startLba }) => startLba)).toEqual([2048]);
      }
      const done = applyWrites(broken, plan.value.writes);
      expect(done.ok && Buffer.compare(whole(done.value), whole(one))).toBe(0);
      const other = planTableFix(broken, from === 'primary' ? 'backup' : 'primary');
      expect(!other.ok && other.problems[0]?.code).toBe('copy-not-whole');
    },
  );

  it('is the way on where both copies are whole and differ: each choice gives its own table', () => {
    // The primary of one disk and the backup of the other.
    const tail = whole(two).subarray((8192 - 33) * 512);
    const differ = withBytes(one, (8192 - 33) * 512, tail);
    expect(tableOf(differ).findings.map(({ code }) => code)).toEqual(['gpt-copies-differ']);
    for (const [from, result] of [
      ['primary', one],
      ['backup', two],
    ] as const) {
      const plan = planTableFix(differ, from);
      if (!plan.ok) throw new Error(plan.problems[0]?.sentence);
      const done = applyWrites(differ, plan.value.writes);
      expect(done.ok && Buffer.compare(whole(done.value), whole(result))).toBe(0);
    }
  });

  it('has nothing to do on a whole table', () => {
    const plan = planTableFix(one, 'primary');
    expect(!plan.ok && plan.problems[0]?.code).toBe('nothing-to-fix');
  });

  it('keeps a table of 56 entries as it is, in a layout too', () => {
    const source = written(
      {
        ...tableOf(one),
        gpt: { entryCount: 56, entrySizeBytes: 128, entriesLba: 2, backupLba: 8191, hybrid: false },
        firstUsableLba: 16,
        lastUsableLba: 8176,
      },
      bufferSource(new Uint8Array(8192 * 512), 512),
    );
    const table = tableOf(source);
    expect(table.findings.map(({ code }) => code)).toEqual(['gpt-entry-count']);
    const plan = planLayout(table, { kind: 'room', sizeBytes: 1024 ** 2 });
    if (!plan.ok) throw new Error(plan.problems[0]?.sentence);
    const writes = encodeTable(plan.value.after, source);
    const after = writes.ok ? applyWrites(source, writes.value) : writes;
    expect(after.ok && tableOf(after.value).gpt?.entryCount).toBe(56);
    expect(after.ok && tableOf(after.value).findings.map(({ code }) => code)).toEqual(['gpt-entry-count']);
  });
});
