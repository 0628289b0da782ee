import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { copyTime, learntCopyTime, learntSentence, type MeasuredCopy } from '../../src/backup';

const drive = { link: 'usb3', medium: 'spinning', serial: 'AB-12 34' } as const;
/** 79.2 GB in few files: 79 200 MB ÷ 110 MB/s = 12 min. */
const amount = { sizeBytes: 79_200_000_000, fileCount: 0 };
const timed = (minutes: number, change: Partial<MeasuredCopy> = {}): MeasuredCopy => ({
  at: '2026-03-02T10:00:00.000Z',
  serial: 'ab1234',
  source: 'solid-state',
  link: 'usb3',
  medium: 'spinning',
  ...amount,
  minutes,
  ...change,
});
const learnt = (measured: readonly MeasuredCopy[]) => learntCopyTime(amount, 'solid-state', drive, measured);

describe('copy times of a house', () => {
  it('are the starting values where nothing was timed, nothing like it, or nothing that took time', () => {
    const start = copyTime(amount, 'solid-state', drive);
    expect(start.minutes.likely).toBeCloseTo(12, 6);
    for (const measured of [
      [],
      [timed(60, { serial: 'other', link: 'usb2' })],
      [timed(60, { serial: 'other', medium: 'stick' })],
      [timed(1)],
    ])
      expect(learnt(measured).minutes).toEqual(start.minutes);
    expect(learntSentence(learnt([]).from)).toBe('No copy like it was timed in this house yet.');
  });

  it('follow one copy half way: worked by hand', () => {
    // Four times as long as calculated; with the starting value as one more, the root of four.
    const { minutes, from } = learnt([timed(48)]);
    expect(minutes.likely).toBeCloseTo(24, 6);
    expect(from).toEqual({ copies: 1, sameDrive: true });
    // Until there are three the range holds both: what was calculated and what was seen.
    const start = copyTime(amount, 'solid-state', drive).minutes;
    expect(minutes.low).toBe(start.low);
    expect(minutes.high).toBe(Math.max(start.high, 24));
  });

  it('go by this very drive before others of its kind, however its serial was read', () => {
    const others = Array.from({ length: 9 }, () => timed(120, { serial: 'other' }));
    expect(learnt(others).from).toEqual({ copies: 9, sameDrive: false });
    expect(learnt([...others, timed(12)]).minutes.likely).toBeCloseTo(12, 6);
    expect(learnt([timed(12, { serial: '' })]).from.sameDrive).toBe(false);
  });

  it('come nearer with each copy, and never leave what was seen and calculated', () => {
    let nearer = 0;
    fc.assert(
      fc.property(
        fc.double({ min: 0.25, max: 6, noNaN: true }),
        fc.integer({ min: 1, max: 30 }),
        (slower, count) => {
          const likely = (copies: number) =>
            learnt(Array.from({ length: copies }, () => timed(12 * slower))).minutes.likely;
          const off = (minutes: number) => Math.abs(Math.log(minutes / (12 * slower)));
          expect(off(likely(count + 1))).toBeLessThanOrEqual(off(likely(count)) + 1e-9);
          expect(likely(count)).toBeGreaterThanOrEqual(Math.min(12, 12 * slower) - 1e-9);
          expect(likely(count)).toBeLessThanOrEqual(Math.max(12, 12 * slower) + 1e-9);
          nearer += 1;
        },
      ),
      { numRuns: 200 },
    );
    expect(nearer).toBe(200);
  });

  it('have a range that holds about eight of ten of the copies that follow', () => {
    // A house whose drive is slower by some factor, each copy with chance of its own: seeded, so that it is always the same.
    let state = 20260302;
    const random = () => {
      state = (state * 1664525 + 1013904223) % 4294967296;
      return (state + 0.5) / 4294967296;
    };
    const normal = () => Math.sqrt(-2 * Math.log(random())) * Math.cos(2 * Math.PI * random());
    let held = 0;
    const rounds = 2000;
    for (let round = 0; round < rounds; round += 1) {
      const slower = Math.exp(0.4 * normal());
      const next = () => timed(12 * slower * Math.exp(0.25 * normal()));
      const { minutes } = learnt(Array.from({ length: 6 }, next));
      const { minutes: actual } = next();
      if (actual >= minutes.low && actual <= minutes.high) held += 1;
    }
    expect(held / rounds).toBeGreaterThan(0.74);
    expect(held / rounds).toBeLessThan(0.92);
  });
});
