import { fixOf } from '../../assess/assess';
import { worstVerdict, type Verdict } from '../../assess/judgement';
import {
  allows,
  excludes,
  targetOf,
  undecided,
  type Remedy,
  type RouteContext,
  type RouteRule,
  type RuleFinding,
} from '../definition';

export const requirementsMet: RouteRule = {
  id: 'requirements-met',
  reads: [],
  judge: (context) => judgeRequirements(context, { waiving: false, besides: [] }),
  remedies: requirementRemedies,
};

/** As `requirementsMet`, but that the installer is told to skip the checks that it lets itself be told to skip. */
export const requirementsMetOrWaived: RouteRule = {
  id: 'requirements-met-or-waived',
  reads: [],
  judge: (context) => judgeRequirements(context, { waiving: true, besides: [] }),
  remedies: requirementRemedies,
};

/** As `requirementsMetOrWaived`, without asking whether the maker supports the model: that is what the patch is for. */
export const requirementsBesideTheModel: RouteRule = {
  id: 'requirements-beside-the-model',
  reads: [],
  judge: (context) => judgeRequirements(context, { waiving: true, besides: ['model-range'] }),
  remedies: requirementRemedies,
};

function requirementRemedies(context: RouteContext): readonly Remedy[] {
  const { release, assessment } = targetOf(context);
  return assessment.judgements.flatMap((judgement) => {
    const fix = fixOf(judgement, release, context);
    return fix ? [fix] : [];
  });
}

function judgeRequirements(
  context: RouteContext,
  { waiving, besides }: { readonly waiving: boolean; readonly besides: readonly string[] },
): RuleFinding {
  const judgements =
    besides.length === 0
      ? targetOf(context).assessment.judgements
      : targetOf(context).assessment.judgements.filter(({ rule }) => !besides.includes(rule));
  const of = (verdict: Verdict) => judgements.filter((judgement) => judgement.verdict === verdict);
  const sentences = (verdict: Verdict) =>
    of(verdict)
      .map(({ sentence }) => sentence)
      .join(' ');
  const verdict = besides.length === 0 ? targetOf(context).assessment.verdict : worstVerdict(judgements);
  switch (verdict) {
    case 'meets':
      return allows('Every requirement is met.');
    case 'fixable':
      return allows(
        `Met after ${of('fixable').reduce((sum, { fix }) => sum + (fix?.handsOnMinutes ?? 0), 0)} minutes of fixes: ${of(
          'fixable',
        )
          .map(({ fix }) => fix?.action)
          .join('; ')}.`,
      );
    case 'waivable':
      return waiving
        ? allows(`Below the stated minimum, to be waived one by one: ${sentences('waivable')}`)
        : excludes(`Below the stated minimum, without a waiver: ${sentences('waivable')}`);
    case 'fails':
      return excludes(sentences('fails'));
    case 'unknown':
      return undecided(
        sentences('unknown'),
        of('unknown')[0]?.howToFind ?? '',
        of('unknown').flatMap(({ facts }) => facts),
      );
  }
}
