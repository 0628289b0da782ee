import { fail } from '../../outcome/outcome';
import { answerSheet, type AnswerSheet } from '../../runbook/answers/answerSheet';
import { sheetLines } from '../../runbook/answers/tick';
import { planStates } from '../../runbook/planStates';
import type { Move } from '../move';
import { runbookInput, type House } from '../reading';
import { changed, refuseWhenDone, type CommandContext, type CommandOutcome } from './command';

/** The answer sheet of a move as it would be planned now; undefined where nothing is installed, or no plan can be made. */
export function readAnswerSheet(move: Move, house: House): AnswerSheet | undefined {
  const input = runbookInput(move, house);
  const states = input && planStates(input);
  return input && states?.ok ? answerSheet(input, states.value, move) : undefined;
}

/**
 * Ticks a line of the answer sheet as done at the bench, or withdraws that. Refused where the sheet says something else
 * by now: what was ticked would not be what is written there.
 */
export function tickAnswer(
  move: Move,
  { page, answer, ticked }: { readonly page: string; readonly answer: string; readonly ticked: boolean },
  context: CommandContext,
): CommandOutcome {
  const closed = refuseWhenDone(move);
  if (closed) return closed;
  const sheet = readAnswerSheet(move, context);
  const line = sheet && sheetLines(sheet).find(({ id }) => id === page);
  if (!line)
    return fail(
      'no-such-page',
      '/page',
      'The answer sheet has no such line any more: reload the page, and read what it says now.',
    );
  if (line.words !== answer)
    return fail(
      'answer-changed',
      '/answer',
      `${line.name} says something else by now: ${line.words}. Compare it with what was entered, then tick it.`,
    );
  const rest = move.answers.filter((tick) => tick.page !== page);
  return ticked
    ? changed(
        { ...move, answers: [...rest, { page, answer, at: context.now, by: context.actor.name }] },
        'answer-ticked',
        `${line.name}: entered. ${answer}`,
      )
    : changed({ ...move, answers: rest }, 'answer-unticked', `${line.name}: not entered after all.`);
}
