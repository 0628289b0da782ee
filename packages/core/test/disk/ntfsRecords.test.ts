import { describe, expect, it } from 'vitest';
import { attributesOf } from '../../src/disk/content/ntfsRecords';

/** A file record of 1024 bytes with its first attribute at byte 56 (NTFS file record layout). */
function recordWith(write: (view: DataView, at: number) => void): DataView {
  const view = new DataView(new ArrayBuffer(1024));
  view.setUint16(20, 56, true);
  write(view, 56);
  return view;
}

/** An attribute inside the record: type, length of the whole, then length and place of its value. */
function inside(view: DataView, at: number, type: number, length: number, value: readonly number[]): void {
  view.setUint32(at, type, true);
  view.setUint32(at + 4, length, true);
  view.setUint8(at + 8, 0);
  view.setUint32(at + 16, value.length, true);
  view.setUint16(at + 20, 24, true);
  value.forEach((byte, index) => view.setUint8(at + 24 + index, byte));
}

const end = (view: DataView, at: number) => view.setUint32(at, 0xffffffff, true);

describe('the attributes of a file record', () => {
  it('follow each other until the mark of the end', () => {
    const found = attributesOf(
      recordWith((view, at) => {
        inside(view, at, 0x10, 32, [1, 2]);
        inside(view, at + 32, 0x30, 32, [3]);
        end(view, at + 64);
        inside(view, at + 96, 0x80, 32, [4]);
      }),
    );
    expect(found.map(({ type, value }) => [type, value?.byteLength, value?.getUint8(0)])).toEqual([
      [0x10, 2, 1],
      [0x30, 1, 3],
    ]);
  });

  it('stop where one is shorter than its own head, or goes past the record', () => {
    const short = attributesOf(recordWith((view, at) => inside(view, at, 0x10, 23, [])));
    expect(short).toEqual([]);
    const long = attributesOf(recordWith((view, at) => inside(view, at, 0x10, 1024 - 56 + 1, [1])));
    expect(long).toEqual([]);
    // One that ends with the record is whole.
    expect(attributesOf(recordWith((view, at) => inside(view, at, 0x10, 1024 - 56, [1])))).toHaveLength(1);
    expect(attributesOf(recordWith((view, at) => inside(view, at, 0x10, 24, [])))).toHaveLength(1);
  });

  it('leave out a value that goes past its attribute', () => {
    const beyond = recordWith((view, at) => {
      inside(view, at, 0x10, 32, [1]);
      view.setUint32(at + 16, 9, true);
      end(view, at + 32);
    });
    expect(attributesOf(beyond)).toEqual([]);
    const exact = recordWith((view, at) => {
      inside(view, at, 0x10, 32, [1]);
      view.setUint32(at + 16, 8, true);
      end(view, at + 32);
    });
    expect(attributesOf(exact)).toHaveLength(1);
  });

  it('give the runs of what is elsewhere: lengths, distances forward and back, and holes', () => {
    const runs = recordWith((view, at) => {
      view.setUint32(at, 0x80, true);
      view.setUint32(at + 4, 80, true);
      view.setUint8(at + 8, 1);
      view.setUint16(at + 32, 64, true);
      // 3 clusters from cluster 100; 2 that hold nothing; 4 from 10 before the first: 90; then the end.
      [0x11, 3, 100, 0x01, 2, 0x11, 4, 0xf6, 0].forEach((byte, index) =>
        view.setUint8(at + 64 + index, byte),
      );
      end(view, at + 80);
    });
    expect(attributesOf(runs)).toEqual([
      {
        type: 0x80,
        runs: [
          { cluster: 100, clusters: 3 },
          { cluster: undefined, clusters: 2 },
          { cluster: 90, clusters: 4 },
        ],
      },
    ]);
    expect(attributesOf(undefined)).toEqual([]);
  });
});
