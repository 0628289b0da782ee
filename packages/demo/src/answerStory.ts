import { readAnswerSheet, tickAnswer, type House } from '@ulvane/core/record';
import { pageLine, partitionLine } from '@ulvane/core/runbook';
import type { Recorder } from './recorder';

/** What a technician ticks on the answer sheet until files are copied: the pages so far, and every partition. */
export function tickUntilCopying(recorder: Recorder, technician: string, house: House): void {
  const sheet = readAnswerSheet(recorder.current, house);
  if (!sheet) return;
  const { pages, hand } = sheet;
  const lines = [
    ...pages.flatMap((page, index) => (page.when === 'before-copy' ? [pageLine(page, index)] : [])),
    ...(hand ? [...hand.deleted, ...hand.made, ...hand.kept].map(partitionLine) : []),
  ];
  for (const { id, words } of lines)
    recorder.play(technician, (move, context) =>
      tickAnswer(move, { page: id, answer: words, ticked: true }, context),
    );
}
