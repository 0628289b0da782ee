import type { FittedPart } from '../../machine/state';
import type { StepMaker } from '../input';
import { presentDiskId } from '../machineOf';
import { partsToFit } from '../partsToFit';

const opened =
  'Mains out, battery out where it can be, static strap on, as the maker’s manual shows; otherwise a qualified person opens the case.';

/** What shows that a part is fitted, and what to beware of. */
const words: Readonly<Record<FittedPart, { readonly success: string; readonly caution: string }>> = {
  memory: {
    success: 'The firmware’s first page shows the new amount, and so does the survey, taken again.',
    caution: opened,
  },
  disk: {
    success:
      'The survey, taken again, names the new disk: its serial number and size are the ones that count from here on. The old disk is labelled and kept.',
    caution: `${opened} Where the present system stays, it is copied onto the new disk first.`,
  },
  adapter: {
    success: 'The adapter’s light is on, and the survey, taken again, names it.',
    caution: 'One whose driver comes with the release: look before it is bought.',
  },
};

/** The id of the step that fits a part. */
export const fitStepId = (part: FittedPart) => `fit:${part}`;

export const fitParts: StepMaker = (input) =>
  partsToFit(input).map(({ part, fix, sentence }) => ({
    id: fitStepId(part),
    words: () => ({ title: fix.action, why: sentence, ...words[part] }),
    handsOn: {
      low: fix.handsOnMinutes / 2,
      likely: fix.handsOnMinutes,
      high: fix.handsOnMinutes * 2,
    },
    cost: fix.cost,
    operators: () => [{ op: 'fit-part', part, disk: presentDiskId(input) }],
  }));
