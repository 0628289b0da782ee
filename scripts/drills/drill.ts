import type { World } from './world';

/** How much is done: the short form runs with the tests. */
export type Size = 'short' | 'whole';

export type Outcome = {
  /** What was measured, in one line. */
  readonly figures: string;
  /** What did not hold, a sentence each; none when the drill was passed. */
  readonly faults: readonly string[];
};

export type Drill = {
  readonly name: string;
  readonly run: (world: World, size: Size) => Promise<Outcome>;
};

/** The fault, unless it holds. */
export function unless(holds: boolean, fault: string): readonly string[] {
  return holds ? [] : [fault];
}

/**
 * The fault of something that came too late. The short form runs on busy machines: it judges only whether
 * it came at all, and leaves times to the whole form.
 * @param ms Infinity when it never came
 */
export function unlessWithin(size: Size, ms: number, limitMs: number, fault: string): readonly string[] {
  return unless(size === 'whole' ? ms <= limitMs : Number.isFinite(ms), fault);
}
