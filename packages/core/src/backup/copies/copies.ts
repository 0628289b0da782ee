import type { HouseRules } from '../../rules/houseRules';
import type { RouteDefinition } from '../../route/definition';
import type { Copy, DataSet, Destination } from '../scope/dataSet';
import { copyGrades, gradeOf, whyGradeFails, type CopyGrade } from './grade';
import { riskOf, type Risk } from '../scope/scope';

/** One verified copy of a data set, and whether it counts. */
export type CountedCopy = {
  readonly destinationId: string;
  readonly grade: CopyGrade;
  /** Null when it counts. */
  readonly because: string | null;
};

export type CopiesOfDataSet = {
  readonly dataSetId: string;
  readonly risk: Risk;
  readonly copies: readonly CountedCopy[];
  /** Copies that count by house rules. */
  readonly verified: number;
  /** Destinations that are to take it and count. */
  readonly planned: number;
  readonly needed: number;
  /** Set while none of the copies that count is compared in full, although one has to be. */
  readonly lacksComparison: boolean;
  /** What is short, as a sentence part; null when the data set has all that it needs. */
  readonly short: string | null;
};

/** Whether a copy on a destination counts: one on a cloud only where the house rule says so. */
export function copyCounts(
  { kind }: Pick<Destination, 'kind'>,
  { cloudCopyCounts }: Pick<HouseRules, 'cloudCopyCounts'>,
): boolean {
  return kind !== 'cloud' || cloudCopyCounts;
}

/**
 * Copies of each data set against those needed before the Line. A route that erases nothing needs one all the same.
 * Of what is erased one copy is compared in full and none is only stated, unless house rules lower that.
 */
export function copiesOf(
  dataSets: readonly DataSet[],
  destinations: readonly Destination[],
  copies: readonly Copy[],
  writesOver: RouteDefinition['writesOver'],
  houseRules: HouseRules,
): readonly CopiesOfDataSet[] {
  return dataSets.map((dataSet) => {
    const risk = riskOf(dataSet, writesOver);
    const own = destinations.flatMap((destination): CountedCopy[] => {
      const copy = copies.find(
        ({ dataSetId, destinationId }) => dataSetId === dataSet.id && destinationId === destination.id,
      );
      if (!copy) return [];
      const grade = gradeOf(copy);
      const because = copyCounts(destination, houseRules)
        ? whyGradeFails(grade, risk, houseRules)
        : 'in a cloud: does not count';
      return [{ destinationId: destination.id, grade, because }];
    });
    const counting = own.filter(({ because }) => because === null);
    const needed = risk === 'at-risk' ? houseRules.copiesBeforeLine : 1;
    const lacksComparison =
      risk === 'at-risk' &&
      houseRules.copyProof === 'compared' &&
      !counting.some(({ grade }) => grade === 'compared');
    const short =
      counting.length < needed
        ? `${counting.length} of ${needed}`
        : lacksComparison
          ? 'none compared in full'
          : null;
    return {
      dataSetId: dataSet.id,
      risk,
      copies: own,
      verified: counting.length,
      planned: destinations.filter(
        (destination) => destination.takes.includes(dataSet.id) && copyCounts(destination, houseRules),
      ).length,
      needed,
      lacksComparison,
      short,
    };
  });
}

/** The copies that count, of all data sets: what custody is made from. */
export function countingCopies(
  copies: readonly Copy[],
  status: readonly Pick<CopiesOfDataSet, 'dataSetId' | 'copies'>[],
): readonly Copy[] {
  return copies.filter(({ dataSetId, destinationId }) =>
    status
      .find((line) => line.dataSetId === dataSetId)
      ?.copies.some((one) => one.destinationId === destinationId && one.because === null),
  );
}

/** The grade that holds for all of them: the best copy of each data set, and of these the weakest. */
export function weakestProof(status: readonly Pick<CopiesOfDataSet, 'copies'>[]): CopyGrade {
  const best = status.map(({ copies }) =>
    copyGrades.findIndex((grade) => copies.some((copy) => copy.because === null && copy.grade === grade)),
  );
  return copyGrades[Math.max(...best)] ?? 'stated';
}
