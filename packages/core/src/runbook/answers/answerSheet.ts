import { releaseTitle } from '../../catalogue/find';
import type { PageKind } from '../../catalogue/installerPage';
import type { RequirementKind } from '../../catalogue/requirement';
import { printCount } from '../../quantity/count';
import { diskMark } from '../../survey/disk';
import { diskToWrite } from '../diskToWrite';
import { withDiskWork, type RunbookInput } from '../input';
import type { PlanStates } from '../planStates';
import type { AnsweredPage } from './answer';
import { isInPlace } from '../machineOf';
import { type AnswerMaker, type Whose } from './context';
import { diskAnswers, isByHand } from './diskAnswers';
import { handPartitions, type HandPartitions } from './handPartitions';
import { setUpAnswers } from './setUpAnswers';

/** A waived check; the recipe is null where nobody has noted one for this release. */
export type SkippedCheck = { readonly check: RequirementKind; readonly recipe: string | null };

/** Every page of the installer with its answer, in the installer's own order. */
export type AnswerSheet = {
  readonly title: string;
  readonly pages: readonly AnsweredPage[];
  /** The page at which the plan's Line is crossed; null where the Line is elsewhere, or the installer has no such page. */
  readonly line: {
    readonly page: number;
    /** What the page does that cannot be brought back. */
    readonly does: string;
    /** The step at which it is crossed in Ulvane. */
    readonly stepId: string;
    readonly stepNumber: number;
    /** What has to be done there first. */
    readonly first: string;
  } | null;
  /** The first page that is asked while files are copied, or at the first start; null where all come before. */
  readonly meanwhileFrom: number | null;
  readonly firstStartFrom: number | null;
  /** Waiting minutes of the copying, likely. */
  readonly copyMinutes: number;
  /** What to make and to leave, where that is done by hand. */
  readonly hand: HandPartitions | null;
  /** Checks that were waived, with how this installer is told to skip each, before its first page that checks. */
  readonly skips: readonly SkippedCheck[];
};

const makers: Readonly<Record<PageKind, AnswerMaker>> = { ...diskAnswers, ...setUpAnswers };

/** Kinds of pages at which an installer may begin to write, the latest first. */
const writes: readonly PageKind[] = ['partitions', 'disk', 'upgrade-or-custom'];

/**
 * The installer's pages filled in from decision, house rules, survey and vault. Undefined where the plan installs
 * nothing. A page whose fact is unknown says which, and how it is found out; no secret is on the sheet itself.
 */
export function answerSheet(input: RunbookInput, states: PlanStates, whose: Whose): AnswerSheet | undefined {
  const given = withDiskWork(input);
  const { release } = given;
  const steps = states.steps.map(({ step }) => step);
  const installs = states.steps.some(({ operators }) =>
    operators.some(({ op }) => op === 'install' || op === 'install-over' || op === 'upgrade'),
  );
  if (!release || !installs) return undefined;
  const hand = handPartitions(given, states);
  const asked = isInPlace(given.route) ? release.pages.filter(({ onUpgrade }) => onUpgrade) : release.pages;
  const seen = new Map<PageKind, number>();
  const pages = asked.map((page): AnsweredPage => {
    const count = (seen.get(page.kind) ?? 0) + 1;
    seen.set(page.kind, count);
    const answer = makers[page.kind]({ input: given, release, page, hand, steps, whose });
    return {
      ...answer,
      id: count === 1 ? page.kind : `${page.kind}-${count}`,
      kind: page.kind,
      name: page.name,
      when: page.when,
      needsNetwork: page.needsNetwork,
    };
  });
  const first = (when: AnsweredPage['when']) => {
    const index = pages.findIndex((page) => page.when === when);
    return index < 0 ? null : index;
  };
  return {
    title: releaseTitle(release),
    pages,
    line: lineAmong(given, states, pages, hand),
    meanwhileFrom: first('while-copying'),
    firstStartFrom: first('first-start'),
    copyMinutes: release.installMinutes.likely,
    hand: hand && isByHand({ input: given, hand }) ? hand : null,
    skips: given.waivers.map((check) => {
      const requirement = release.requirements.find(({ kind }) => kind === check);
      return { check, recipe: (requirement && 'skip' in requirement && requirement.skip) || null };
    }),
  };
}

/** Where the plan's Line lies among the pages; null where it is crossed before the installer runs. */
function lineAmong(
  input: RunbookInput,
  { runbook, steps }: PlanStates,
  pages: readonly AnsweredPage[],
  hand: HandPartitions | undefined,
): AnswerSheet['line'] {
  const { lineIndex, gates } = runbook;
  const started = steps.findIndex(({ operators }) =>
    operators.some(
      (operator) =>
        operator.op === 'upgrade' ||
        (operator.op === 'start' && (operator.what === 'installer' || operator.what === 'installer-inside')),
    ),
  );
  if (lineIndex === null || started < 0 || lineIndex < started) return null;
  const kinds: readonly PageKind[] = isInPlace(input.route) ? ['upgrade-or-custom'] : writes;
  const page = kinds.map((kind) => pages.findIndex((one) => one.kind === kind)).find((index) => index >= 0);
  if (page === undefined) return null;
  const target = diskToWrite(input);
  const goes = hand?.deleted.map(({ label, number }) => label || `partition ${number}`) ?? [];
  const does = isInPlace(input.route)
    ? 'replaces the present system'
    : goes.length > 0
      ? `deletes ${goes.join(', ')}`
      : 'writes to the disk';
  return {
    page,
    does: `Page ${page + 1} ${does}.`,
    stepId: runbook.steps[lineIndex]?.id ?? '',
    stepNumber: lineIndex + 1,
    first: `${printCount(gates.length, 'gate')}, ${
      target ? `disk ${diskMark(target)}` : 'the disk'
    } by serial number and size`,
  };
}
