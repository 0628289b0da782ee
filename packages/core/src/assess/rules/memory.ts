import { printApart, printBytes } from '../../quantity/bytes';
import { valueOf } from '../../survey/facts';
import { fixable, meets, short, type RequirementRule } from '../judgement';
import { unknownFact } from '../unknown';

/** Firmware and graphics keep part of the memory for themselves: a fitted 4 GiB reads as about 3.8. */
const reservedShare = 0.07;

/** The fewest bytes that count as the memory asked for. @example enoughMemoryBytes(4 * 1024 ** 3) // 3994319586 */
export function enoughMemoryBytes(minimumBytes: number): number {
  return Math.ceil(minimumBytes * (1 - reservedShare));
}

export const memory: RequirementRule<'memory'> = {
  kind: 'memory',
  reads: ['memoryBytes', 'maker', 'model'],
  judge: (requirement, { facts, model }) => {
    const has = valueOf(facts, 'memoryBytes');
    const needs = printBytes(requirement.minimumBytes, 'binary');
    if (has === undefined) return unknownFact('memoryBytes', `${needs} are needed`);
    const reads = printApart(has, [requirement.minimumBytes], 'binary');
    if (has >= enoughMemoryBytes(requirement.minimumBytes))
      return meets(
        has < requirement.minimumBytes
          ? `${reads} of memory, which ${needs} fitted read as once the firmware has its part; ${needs} are needed.`
          : `${reads} of memory; ${needs} are needed.`,
      );
    if (model && model.memoryCeilingBytes >= requirement.minimumBytes)
      return fixable(
        `${reads} of memory; ${needs} are needed, and the ${model.model} takes up to ${printBytes(model.memoryCeilingBytes, 'binary')}.`,
        {
          id: `memory-${requirement.minimumBytes}`,
          action: `Fit memory to ${needs}`,
          handsOnMinutes: 20,
          cost: 35,
          part: { kind: 'memory', sizeBytes: requirement.minimumBytes },
        },
        requirement,
      );
    if (model)
      return short(
        `${reads} of memory; ${needs} are needed, and the ${model.model} takes no more than ${printBytes(model.memoryCeilingBytes, 'binary')}.`,
        requirement,
      );
    return {
      verdict: 'unknown',
      sentence: `${reads} of memory; ${needs} are needed. Whether the board takes more is not known.`,
      howToFind: 'Add the model to the catalogue, with what its maker’s manual says the board takes.',
    };
  },
  fix: ({ minimumBytes }) => ({ memoryBytes: minimumBytes }),
};
