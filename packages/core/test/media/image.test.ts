import { createHash } from 'node:crypto';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  checksumGroups,
  downloadMinutes,
  judgeImage,
  measuredLine,
  mediumWay,
  releasesOfImage,
  wayFault,
} from '../../src/media';
import { releaseOf } from '../fixtures/shop';

const published = { imageBytes: 3, imageSha256: createHash('sha256').update('abc').digest('hex') };
// FIPS 180-2, appendix B.1: the digest of “abc”.
const abc = 'ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad';

describe('an image', () => {
  it('is good when bytes and checksum are the published ones', () => {
    expect(judgeImage({ bytes: 3, sha256: abc, signature: 'none-published' }, published)).toMatchObject({
      state: 'good',
      groupsAgree: 16,
    });
  });

  it('is judged by its bytes first: a broken download says how much is missing', () => {
    const large = { imageBytes: 13_870_000_000, imageSha256: abc };
    expect(judgeImage({ bytes: 13_839_000_000, sha256: abc, signature: 'agrees' }, large)).toEqual({
      state: 'differs',
      sentence: '31.0 MB shorter than published. Fetch it again, do not write it.',
      groupsAgree: 16,
    });
    expect(judgeImage({ bytes: 4, sha256: null, signature: 'agrees' }, published).sentence).toBe(
      '1 B longer than published. Fetch it again, do not write it.',
    );
  });

  it('is not taken on trust: without a checksum, with another one or a wrong signature', () => {
    const judged = (sha256: string | null, signature: 'agrees' | 'differs' | 'not-checked') =>
      judgeImage({ bytes: 3, sha256, signature }, published).state;
    expect(judged(null, 'agrees')).toBe('not-compared');
    expect(judged(abc.replace(/^ba/, 'bb'), 'agrees')).toBe('differs');
    expect(judged(abc, 'differs')).toBe('differs');
    expect(judged(abc, 'not-checked')).toBe('good');
    expect(judgeImage({ bytes: 3, sha256: abc, signature: 'agrees' }, undefined).state).toBe(
      'not-in-catalogue',
    );
  });

  it('that differs in any one figure agrees in fifteen groups of sixteen', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 63 }), fc.integer({ min: 1, max: 15 }), (at, by) => {
        const figure = ((Number.parseInt(abc.charAt(at), 16) + by) % 16).toString(16);
        const sha256 = abc.slice(0, at) + figure + abc.slice(at + 1);
        expect(judgeImage({ bytes: 3, sha256, signature: 'agrees' }, published)).toMatchObject({
          state: 'differs',
          groupsAgree: 15,
        });
        expect(checksumGroups(sha256).join('')).toBe(sha256);
      }),
    );
  });

  it('is matched with the catalogue by its checksum, else by its bytes', () => {
    const [a, b, c] = [
      { id: 'a', ...published },
      { id: 'b', imageBytes: 3, imageSha256: '0'.repeat(64) },
      { id: 'c', imageBytes: 9, imageSha256: '1'.repeat(64) },
    ];
    expect(releasesOfImage([a, b, c], { bytes: 3, sha256: abc })).toEqual([a]);
    expect(releasesOfImage([a, b, c], { bytes: 3, sha256: null })).toEqual([a, b]);
    expect(releasesOfImage([a, b, c], { bytes: 7, sha256: '2'.repeat(64) })).toEqual([]);
  });
});

describe('a line', () => {
  it('of 20 Mbit/s carries 6 GB in 40 minutes, and less surely one that is not known', () => {
    expect(downloadMinutes(6_000_000_000, 20)).toEqual({ low: 40 / 1.2, likely: 40, high: 80 });
    expect(downloadMinutes(6_000_000_000, null)).toEqual({ low: 8, likely: 16, high: 80 });
  });

  it('is measured by the median of the downloads', () => {
    // 2.5 GB in 1000 s are 20 Mbit/s.
    const at = (megabits: number) => ({ bytes: 2_500_000_000, seconds: 20_000 / megabits });
    expect(measuredLine([])).toBeNull();
    expect(measuredLine([at(20)])).toBe(20);
    expect(measuredLine([at(5), at(22), at(20)])).toBe(20);
    expect(measuredLine([at(10), at(20), at(30), at(40)])).toBe(25);
  });
});

describe('how a stick is made', () => {
  const corvel = releaseOf('corvel-10-business');
  const saltbush = releaseOf('saltbush-full');
  const asked = { waivers: [], mode: 'uefi' as const };

  it('is as the house does it, where that can do the job', () => {
    for (const [stickTool, way] of [
      ['official', 'makers-tool'],
      ['image-writer', 'image-writer'],
      ['by-hand', 'by-hand'],
    ] as const)
      expect(mediumWay({ release: corvel, ...asked }, { stickTool })).toEqual({ way, because: null });
  });

  it('is another way where it cannot, with the reason', () => {
    expect(mediumWay({ release: saltbush, ...asked }, { stickTool: 'official' })).toEqual({
      way: 'image-writer',
      because: 'Saltbush Desktop 6 Full has no tool of its maker’s',
    });
    expect(mediumWay({ release: corvel, ...asked, waivers: ['tpm'] }, { stickTool: 'official' })).toEqual({
      way: 'image-writer',
      because: 'the maker’s tool cannot leave checks out',
    });
    expect(wayFault('by-hand', { release: corvel, ...asked, mode: 'unknown' })).toContain('not known');
    expect(wayFault('by-hand', { release: releaseOf('harrow-5'), ...asked })).toContain(
      'is not made by hand',
    );
  });
});
