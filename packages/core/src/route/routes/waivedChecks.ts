import type { RouteContext, RouteDefinition } from '../definition';
import { requirementsMetOrWaived } from '../rules/requirements';
import { cleanSystemPartition } from './cleanSystemPartition';
import { cleanWholeDisk } from './cleanWholeDisk';
import { inPlaceUpgrade } from './inPlaceUpgrade';

/** Only where something is there to waive; without that the route underneath is the way. */
const somethingToWaive = ({ target }: RouteContext) =>
  target?.assessment.judgements.some(
    ({ verdict, consequence }) =>
      verdict === 'waivable' || (verdict === 'fixable' && consequence !== undefined),
  ) ?? false;

const loses = ['promised updates', 'what each waived check stands for'];
const cautions = [
  'Every check is waived one by one, with its consequence, and owner and organisation agree in writing.',
  'The maker may stop fixes any day: note who looks, and how often.',
];

/** The route underneath, but that the installer is told to skip checks. */
function waived(
  underneath: RouteDefinition,
  own: Pick<RouteDefinition, 'id' | 'title' | 'about'>,
): RouteDefinition {
  return {
    ...underneath,
    ...own,
    concerns: (context) => underneath.concerns(context) && somethingToWaive(context),
    rules: underneath.rules.map((rule) => (rule.id === 'requirements-met' ? requirementsMetOrWaived : rule)),
    loses: [...underneath.loses, ...loses],
    cautions: [...underneath.cautions, ...cautions],
    ...(underneath.whenEmpty && {
      whenEmpty: {
        loses: [...underneath.whenEmpty.loses, ...loses],
        cautions: [...underneath.whenEmpty.cautions, ...cautions],
      },
    }),
    steps: underneath.steps.flatMap((kind) =>
      kind === 'record-licence' ? ['record-consents', kind] : [kind],
    ),
    terms: { ...underneath.terms, dataRisk: underneath.terms.dataRisk - 0.05 },
    houseRuleProfile: { ...underneath.houseRuleProfile, belowMinimum: 'waive' },
    consent: ['owner', 'organisation'],
  };
}

export const waivedUpgrade = waived(inPlaceUpgrade, {
  id: 'waived-upgrade',
  title: 'Upgrade with waived checks',
  about: 'Hardware below the stated minimum is upgraded in place; the installer is told to skip its checks.',
});

export const waivedClean = waived(cleanWholeDisk, {
  id: 'waived-clean',
  title: 'Clean install with waived checks',
  about: 'Hardware below the stated minimum gets a clean install; the installer is told to skip its checks.',
});

export const waivedSystemPartition = waived(cleanSystemPartition, {
  id: 'waived-system-partition',
  title: 'Waived checks, system partition only',
  about:
    'Hardware below the stated minimum: only the system partition is formatted, the data partitions stay; the installer is told to skip its checks.',
});
