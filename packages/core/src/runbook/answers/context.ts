import type { InstallerPage } from '../../catalogue/installerPage';
import type { Release } from '../../catalogue/catalogue';
import { conflictText, setUpConflicts, type SetUpConflict } from '../../route/setUp';
import type { StepKind } from '../../rules/stepTimes';
import { factTexts } from '../../survey/describe';
import type { FactKey } from '../../survey/facts';
import type { StepInput } from '../input';
import type { Step } from '../step';
import type { Answer } from './answer';
import type { HandPartitions } from './handPartitions';

/** Whose move it is, as names on the pages need it. */
export type Whose = { readonly site: string; readonly owner: string; readonly reference: string };

/** All that an answer is made from. */
export type AnswerContext = {
  readonly input: StepInput;
  readonly release: Release;
  readonly page: InstallerPage;
  readonly hand: HandPartitions | undefined;
  readonly steps: readonly Step[];
  readonly whose: Whose;
};

export type AnswerMaker = (context: AnswerContext) => Answer;

/** An answer that waits for a fact. */
export function waitsFor(fact: FactKey): Answer {
  return {
    hand: 'choose',
    pieces: [],
    from: 'survey',
    missing: { fact, howToFind: factTexts[fact].howToFind },
  };
}

/** A step of the runbook as people call it: its number; undefined where the plan has none. */
export function stepNumber(steps: readonly Step[], kind: StepKind): number | undefined {
  const index = steps.findIndex((step) => step.kind === kind);
  return index < 0 ? undefined : index + 1;
}

/** What contradicts the house on this page, in the words of Decide. */
export function cautionOf(
  { input }: AnswerContext,
  ids: readonly SetUpConflict['id'][],
  more = '',
): { readonly caution?: string } {
  const caution = [
    ...setUpConflicts(input.route, input)
      .filter(({ id }) => ids.includes(id))
      .map(conflictText),
    ...(more === '' ? [] : [more]),
  ].join(' ');
  return caution === '' ? {} : { caution };
}
