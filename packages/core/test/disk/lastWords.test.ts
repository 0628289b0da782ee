import { describe, expect, it } from 'vitest';
import { planConversion, type PartitionTable, type TablePartition } from '../../src/disk';
import { contentOf } from '../../src/disk/content/content';
import { attributesOf } from '../../src/disk/content/ntfsRecords';
import { changedIdentifiers } from '../../src/disk/convert/identifiers';
import { encodeGptEntries } from '../../src/disk/table/gptHeader';
import { shrinkBox } from '../../src/disk/sizeBox';
import { partition } from '../fixtures/conversions';
import { gpt, mbr, mebibyte, mib } from '../fixtures/smallDisks';
import { seeded } from '../fixtures/disks';

/** Words and edges that samples of planted mistakes went past. */

describe('a shrink box', () => {
  it('that cannot say so little names the least that it accepts', () => {
    const box = shrinkBox(100 * mebibyte, 98 * mebibyte, 'GiB');
    const [problem] = box.ok ? [] : box.problems;
    expect(problem?.code).toBe('less-than-the-box');
    // Two places behind the point: a hundredth of 1,073,741,824 bytes.
    expect(problem?.sentence).toContain('accepts no less than 10.2 MiB: use one in MiB');
  });
});

describe('runs of clusters', () => {
  /** One attribute whose value is outside the record, with these bytes as its runs. */
  const runsOf = (...bytes: readonly number[]) => {
    const view = new DataView(new ArrayBuffer(1024));
    view.setUint16(20, 56, true);
    view.setUint32(56, 0x80, true);
    view.setUint32(60, 128, true);
    view.setUint8(64, 1);
    view.setUint16(56 + 32, 64, true);
    bytes.forEach((byte, index) => view.setUint8(56 + 64 + index, byte));
    view.setUint32(56 + 128, 0xffffffff, true);
    return attributesOf(view)[0]?.runs;
  };
  it('end at a zero, and at a head that no file system writes', () => {
    // Eight clusters from 5, then four more from 3 before: 2.
    expect(runsOf(0x11, 8, 5, 0x11, 4, 0xfd, 0, 0x11, 9, 9)).toEqual([
      { cluster: 5, clusters: 8 },
      { cluster: 2, clusters: 4 },
    ]);
    expect(runsOf(0x11, 8, 5, 0x10, 1, 1)).toEqual([{ cluster: 5, clusters: 8 }]);
    // A length of seven bytes, and a distance of seven.
    expect(runsOf(0x11, 8, 5, 0x17, 1, 1, 1, 1, 1, 1, 1, 1)).toHaveLength(1);
    expect(runsOf(0x11, 8, 5, 0x71, 1, 1, 1, 1, 1, 1, 1, 1)).toHaveLength(1);
    expect(runsOf(0x11, 8, 5, 0x16, 1, 0, 0, 0, 0, 0, 4)).toEqual([
      { cluster: 5, clusters: 8 },
      { cluster: 9, clusters: 1 },
    ]);
    // Without a distance it is a hole.
    expect(runsOf(0x01, 8)).toEqual([{ cluster: undefined, clusters: 8 }]);
  });
});

describe('what a conversion says of types', () => {
  it('names the new one, or its number where it has no name', () => {
    const before = mbr(
      partition(1, mib, 10 * mib, { label: 'A' }),
      partition(2, 20 * mib, 10 * mib, { label: 'B' }),
    );
    const after = (typeCode: string): readonly TablePartition[] =>
      before.partitions.map((one) => (one.number === 1 ? { ...one, typeCode } : one));
    const types = (typeCode: string) =>
      changedIdentifiers(before, after(typeCode), 'mbr').filter((sentence) =>
        sentence.startsWith('Types follow'),
      );
    expect(types('0x07')).toEqual([]);
    expect(types('0x83')).toEqual(['Types follow what is in them: partition 1 (A) becomes “system files”.']);
    expect(types('0xF9')).toEqual(['Types follow what is in them: partition 1 (A) becomes “0xF9”.']);
  });
});

describe('beyond what MBR can name', () => {
  const table = (more: Partial<TablePartition>): PartitionTable => ({
    ...gpt(partition(1, 2048, 2 ** 32 - 2048 + 6, more)),
    sectorCount: 2 ** 33,
    lastUsableLba: 2 ** 33 - 34,
  });
  const problem = (more: Partial<TablePartition>) => {
    const plan = planConversion(table(more), 'mbr', { random: seeded(47) });
    return plan.ok ? undefined : plan.problems.find(({ code }) => code === 'beyond-2-tib');
  };
  it('a partition is shrunk, or the reason says why it is not', () => {
    const small = problem({ content: contentOf('ntfs', 'DATA', 10 ** 9, undefined) });
    expect(small?.remedies).toHaveLength(1);
    expect(small && 'otherwise' in small).toBe(false);
    const unknown = problem({});
    expect(unknown?.remedies).toEqual([]);
    expect(unknown?.otherwise).toContain('is not recognised');
  });
});

describe('names in a GPT', () => {
  it('are cut at 36 units, and write nothing behind themselves', () => {
    const entries = (name: string) =>
      encodeGptEntries(
        [{ ...partition(1, 40, 10), kind: 'entry', typeCode: 'EBD0A0A2-B9E5-4433-87C0-68B6B72699C7', name }],
        2,
        128,
      );
    const units = (bytes: Uint8Array, from: number, count: number) => {
      const view = new DataView(bytes.buffer, bytes.byteOffset);
      return Array.from({ length: count }, (_unused, index) => view.getUint16(from + index * 2, true));
    };
    expect(units(entries('Pier'), 56, 6)).toEqual(
      [...'Pier'].map((letter) => letter.charCodeAt(0)).concat([0, 0]),
    );
    const long = entries('x'.repeat(40));
    expect(units(long, 56, 36).every((unit) => unit === 120)).toBe(true);
    // The second entry begins there, and is empty.
    expect(units(long, 128, 4)).toEqual([0, 0, 0, 0]);
  });
});
