import {
  decide,
  smallestChange,
  whatWouldChange,
  type Candidate,
  type DecideInput,
} from '@ulvane/core/decide';
import { expose } from 'comlink';

/** What the page is told of a smallest change: its remedies carry functions, which stay here. */
export type ChangeText = {
  readonly sentence: string;
  readonly handsOnMinutes: number;
  readonly cost: number;
};

const work = {
  whatWouldChange: (input: DecideInput) => whatWouldChange(input, decide(input)),
  /** One answer for each candidate, in their order; null where nothing that can be changed would do. */
  smallestChanges: (
    input: DecideInput,
    candidates: readonly Pick<Candidate, 'routeId' | 'releaseId'>[],
  ): readonly (ChangeText | null)[] =>
    candidates.map((candidate) => {
      const change = smallestChange(input, candidate);
      return change
        ? { sentence: change.sentence, handsOnMinutes: change.handsOnMinutes, cost: change.cost }
        : null;
    }),
};

export type ChoiceWork = typeof work;

expose(work);
