import type { Candidate, DecideInput, WhatWouldChange } from '@ulvane/core/decide';
import { wrap, type Remote } from 'comlink';
import memoizeOne from 'memoize-one';
import pLimit from 'p-limit';
import type { ChangeText, ChoiceWork } from './choice.worker';
import { useAnswer } from './useAnswer';

let remote: Remote<ChoiceWork> | undefined;

/** One worker for the page; it is started when it is first asked. */
function choiceWork(): Remote<ChoiceWork> {
  remote ??= wrap<ChoiceWork>(new Worker(new URL('./choice.worker.ts', import.meta.url), { type: 'module' }));
  return remote;
}

const line = pLimit(1);

/** Facts change faster than this is worked out: only the newest question waits, and all who ask it share one answer. */
const newest = memoizeOne((input: DecideInput) => {
  line.clearQueue();
  return line(() => choiceWork().whatWouldChange(input));
});

/** Which single fact would change the advice; undefined while it is being worked out. */
export function useWhatWouldChange(input: DecideInput): WhatWouldChange | undefined {
  return useAnswer(input, () => newest(input));
}

/** The smallest change that allows each of the candidates; undefined while it is being worked out. */
export function useSmallestChanges(
  input: DecideInput,
  candidates: readonly Candidate[],
): readonly (ChangeText | null)[] | undefined {
  return useAnswer(candidates, () =>
    choiceWork().smallestChanges(
      input,
      candidates.map(({ routeId, releaseId }) => ({ routeId, releaseId })),
    ),
  );
}
