import type { HouseRules } from '../../rules/houseRules';
import { printCount } from '../../quantity/count';
import type { CopyCheck } from './check';
import type { Risk } from '../scope/scope';

/** How a copy was checked: every file compared here, a random sample of them, or only stated by hand; best first. */
export const copyGrades = ['compared', 'sampled', 'stated'] as const;
export type CopyGrade = (typeof copyGrades)[number];

/** How anything was found to be so: the grades of a copy, and what was read from the device itself. */
export const proofs = [...copyGrades, 'measured'] as const;
export type Proof = (typeof proofs)[number];

/** A sample that holds every file is a full comparison. */
export function gradeOf({ check }: { readonly check?: CopyCheck | undefined }): CopyGrade {
  if (check === undefined) return 'stated';
  return check.method === 'full' || check.files >= check.ofFiles ? 'compared' : 'sampled';
}

/**
 * Why a copy of this grade does not count; null when it counts. What a route keeps needs a statement only; of what it
 * erases, a copy has to be compared or sampled, unless the house rule says that a statement is enough.
 */
export function whyGradeFails(
  grade: CopyGrade,
  risk: Risk,
  { copyProof }: Pick<HouseRules, 'copyProof'>,
): string | null {
  return risk === 'at-risk' && grade === 'stated' && copyProof !== 'stated'
    ? 'stated only: not enough'
    : null;
}

/** Reading form of a grade with its numbers, for one copy. */
export function describeGrade({ check }: { readonly check?: CopyCheck | undefined }): string {
  if (check === undefined) return 'stated by hand';
  if (check.method === 'full') return `compared, ${printCount(check.files, 'file')}`;
  return `sampled, ${check.files.toLocaleString('en')} of ${printCount(check.ofFiles, 'file')}`;
}

/** How many copies there are of each grade. @example countGrades(copies) // '2 compared, 1 stated' */
export function countGrades(copies: readonly { readonly check?: CopyCheck | undefined }[]): string {
  return copyGrades
    .map((grade) => [copies.filter((copy) => gradeOf(copy) === grade).length, grade] as const)
    .filter(([count]) => count > 0)
    .map(([count, grade]) => `${count} ${grade}`)
    .join(', ');
}
