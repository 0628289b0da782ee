import type { Candidate, DecideInput, WhatWouldChange } from '@ulvane/core';
import { wrap, type Remote } from 'comlink';
import { useEffect, useState } from 'react';
import type { ChangeText, ChoiceWork } from './choice.worker';

let remote: Remote<ChoiceWork> | undefined;

/** One worker for the page; it is started when it is first asked. */
function choiceWork(): Remote<ChoiceWork> {
  remote ??= wrap<ChoiceWork>(new Worker(new URL('./choice.worker.ts', import.meta.url), { type: 'module' }));
  return remote;
}

/** What the work gives once it is done; the last answer for other questions is never shown. */
function useAnswer<T>(question: object, ask: () => Promise<T>): T | undefined {
  const [answer, setAnswer] = useState<{ readonly to: object; readonly value: T }>();
  useEffect(() => {
    let wanted = true;
    void ask().then((value) => {
      if (wanted) setAnswer({ to: question, value });
    });
    return () => {
      wanted = false;
    };
    // `ask` is made anew with each question.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [question]);
  return answer?.to === question ? answer.value : undefined;
}

/** Which single fact would change the advice; undefined while it is being worked out. */
export function useWhatWouldChange(input: DecideInput): WhatWouldChange | undefined {
  return useAnswer(input, () => choiceWork().whatWouldChange(input));
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
