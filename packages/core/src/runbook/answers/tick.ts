import { z } from 'zod';
import { InstantSchema } from '../../quantity/daySchema';
import { answerText, type AnsweredPage } from './answer';
import type { AnswerSheet, SkippedCheck } from './answerSheet';
import type { HandPartition } from './handPartitions';

/** A line of the answer sheet that was done at the bench, and the words that it was ticked for. */
export const AnswerTickSchema = z.strictObject({
  /** A page by its id, a partition as `made:3`, something to compare as `check:end`. */
  page: z.string().trim().min(1).max(60),
  answer: z.string().max(2000),
  at: InstantSchema,
  by: z.string().min(1),
});

type AnswerTick = z.infer<typeof AnswerTickSchema>;

/** Something on the sheet that can be ticked. */
type SheetLine = { readonly id: string; readonly name: string; readonly words: string };

export const pageLine = (page: AnsweredPage, index: number): SheetLine => ({
  id: page.id,
  name: `Page ${index + 1}, ${page.name}`,
  words: answerText(page),
});

const formats = { delete: 'delete', yes: 'make', never: 'leave' } as const;

export const partitionLine = (row: HandPartition): SheetLine => ({
  id: `${formats[row.format]}:${row.number}`,
  name: `Partition ${row.number}, ${formats[row.format]}`,
  words: [row.label, row.start, row.size, row.fileSystem, row.mountPoint ?? 'none'].join(', '),
});

export const checkLine = ({
  id,
  sentence,
}: {
  readonly id: string;
  readonly sentence: string;
}): SheetLine => ({
  id: `check:${id}`,
  name: 'Compared',
  words: sentence,
});

export const skipLine = ({ check, recipe }: SkippedCheck): SheetLine => ({
  id: `skip:${check}`,
  name: `Check of ${check.replaceAll('-', ' ')} skipped`,
  words: recipe ?? 'not known',
});

/** Everything that can be ticked on a sheet, each once. */
export function sheetLines({ pages, hand, skips }: AnswerSheet): readonly SheetLine[] {
  return [
    ...skips.map(skipLine),
    ...pages.map(pageLine),
    ...(hand
      ? [...[...hand.deleted, ...hand.made, ...hand.kept].map(partitionLine), ...hand.checks.map(checkLine)]
      : []),
  ];
}

/** The tick of a line; one that was given for other words does not count. */
export function tickOf(ticks: readonly AnswerTick[], { id, words }: SheetLine): AnswerTick | undefined {
  return ticks.find(({ page, answer }) => page === id && answer === words);
}
