import type { ProblemCode } from '../../outcome/problemCodes';
import { checkPlanned } from '../layout/checkPlanned';
import type { Random } from '../table/guid';
import type { PartitionTable } from '../table/partitionTable';
import {
  rememberedOf,
  type ConversionOptions,
  type ConversionOutcome,
  type Obstacle,
  type Resolution,
} from './conversion';
import { layOutAnew, leadingOn } from './leadingOn';
import { toGpt } from './toGpt';
import { toMbr } from './toMbr';

/**
 * Plans the change of a disk's scheme from its table alone, as a survey knows it: the table afterwards and what is
 * done, without the sectors to write. The table afterwards was written and read again.
 * @returns the plan, or every obstacle at once, each with what would change it
 */
export function planTableConversion(
  before: PartitionTable,
  target: 'gpt' | 'mbr',
  options: ConversionOptions,
): ConversionOutcome {
  if (before.scheme === target)
    return refused(
      `already-${target}`,
      `The disk is ${target.toUpperCase()} already: nothing is to be converted.`,
    );
  if (before.scheme === 'none')
    return refused(
      'no-table',
      'There is no partition table on this disk that could be converted: lay it out new instead.',
      before.findings
        .filter(({ weight }) => weight !== 'note')
        .map(({ code, path, sentence }) => ({ code, path, sentence, remedies: [] })),
    );
  const planWith = (resolutions: readonly Resolution[], random: Random) =>
    (target === 'gpt' ? toGpt : toMbr)(before, { ...options, resolutions, random });
  const chosen = options.resolutions ?? [];
  const planned = planWith(chosen, options.random);
  if (!planned.ok)
    return { ok: false, problems: leadingOn(planned.problems, chosen, (more) => planWith(more, noRandom)) };
  const checked = checkPlanned(planned.after);
  if (!checked.ok)
    return {
      ok: false,
      problems: checked.problems.map((problem) => ({ ...problem, remedies: [], otherwise: layOutAnew })),
    };
  const { operations, notes } = planned;
  const after = { ...checked.value, findings: [] };
  return {
    ok: true,
    value: {
      target,
      before,
      after,
      writes: [],
      operations,
      remembered: rememberedOf(before),
      notes,
    },
  };
}

/** Which GUIDs come out does not matter where only obstacles are asked for. */
const noRandom: Random = (byteCount) => new Uint8Array(byteCount);

function refused(code: ProblemCode, sentence: string, more: readonly Obstacle[] = []): ConversionOutcome {
  return {
    ok: false,
    problems: [{ code, path: '', sentence, remedies: [], otherwise: layOutAnew }, ...more],
  };
}
