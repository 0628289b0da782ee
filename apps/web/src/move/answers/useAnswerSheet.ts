import { api } from '@ulvane/contract';
import { isClosed, readAnswerSheet } from '@ulvane/core/record';
import { tickOf, type AnswerSheet } from '@ulvane/core/runbook';
import { useMemo } from 'react';
import { useChange } from '../../api/useMove';
import { useMay } from '../../api/useSession';
import { useOpenMove } from '../MoveContext';

/** A line of the sheet: its id, and the words that a tick is given for. */
type Line = { readonly id: string; readonly name: string; readonly words: string };

/** The answer sheet of the open move, which of its lines are ticked, and how one is ticked. */
export function useAnswerSheet() {
  const { view, move, house } = useOpenMove();
  const { change, error, forgetError } = useChange(view);
  const may = useMay();
  const sheet: AnswerSheet | undefined = useMemo(() => readAnswerSheet(move, house), [move, house]);
  return {
    sheet,
    error,
    forgetError,
    canTick: may.write && !isClosed(move),
    tickOf: (line: Line) => tickOf(move.answers, line),
    tick: (line: Line, ticked: boolean) =>
      change(api.tickAnswer, { page: line.id, answer: line.words, ticked }),
  };
}

export type AnswerTicks = Pick<ReturnType<typeof useAnswerSheet>, 'canTick' | 'tick' | 'tickOf'>;
