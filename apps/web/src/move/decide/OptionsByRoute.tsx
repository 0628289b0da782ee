import { printCount, printMinutes } from '@ulvane/core/quantity';
import { leadsBack, reasonsInOneLine, type Candidate, type DecideInput } from '@ulvane/core/decide';
import { routeIds, routes } from '@ulvane/core/route';
import { useMemo, useState } from 'react';
import { useSmallestChanges } from '../../workers/useChoiceWork';
import { OptionTicks } from '../../drawing/OptionTicks';
import { CandidateCard } from './CandidateCard';
import { Fold } from '../../shell/Fold';

type OptionsByRouteProps = {
  readonly input: DecideInput;
  readonly candidates: readonly Candidate[];
  /** How many stand above, side by side. */
  readonly shownAbove: number;
  readonly isChosen: (candidate: Candidate) => boolean;
  readonly onChoose: ((candidate: Candidate) => void) | undefined;
  /** What is excluded may be chosen by a lead alone. */
  readonly mayChooseExcluded: boolean;
};

/** Every option, a line a route: what can be done there, the best of it, and why the others cannot. */
export function OptionsByRoute({ candidates, shownAbove, ...rest }: OptionsByRouteProps) {
  // The same lists until something is decided anew: what would change them is worked out once.
  const byRoute = useMemo(
    () =>
      routeIds
        .map((routeId) => ({ routeId, options: candidates.filter((one) => one.routeId === routeId) }))
        .filter(({ options }) => options.length > 0),
    [candidates],
  );
  return (
    <section className="options-by-route" aria-labelledby="all-options">
      <h2 id="all-options">
        {printCount(candidates.length - shownAbove, 'more option')}, by route{' '}
        <span className="soft">tall tick: possible; dotted: waits for a fact; short: not possible</span>
      </h2>
      {byRoute.map(({ routeId, options }) => (
        <RouteLine key={routeId} options={options} title={routes[routeId].title} {...rest} />
      ))}
    </section>
  );
}

type RouteLineProps = Omit<OptionsByRouteProps, 'candidates' | 'shownAbove'> & {
  readonly title: string;
  readonly options: readonly Candidate[];
};

function RouteLine({ title, options, ...rest }: RouteLineProps) {
  const [best] = options;
  const possible = options.filter(({ status }) => status === 'allowed');
  const others = options.filter(({ status }) => status !== 'allowed');
  return (
    <Fold
      className="route-fold"
      title={
        <span className="route-line">
          <strong>{title}</strong>
          <OptionTicks options={options} width={116} />
          <span>
            {best && possible.length > 0 && (
              <>
                {best.releaseId === null ? '' : `${best.title.replace(`${title} to `, '')}: `}
                {printMinutes(best.handsOnMinutes)} hands-on{best.cost > 0 && `, ${best.cost} to pay`}
                {possible.length > 1 && `; ${possible.length - 1} more`}
              </>
            )}
          </span>
          <span>
            {others.length > 0 && (
              <>
                <strong>{possible.length > 0 ? `${others.length} more:` : `${others.length}:`}</strong>{' '}
                because {reasonsInOneLine(others)}
              </>
            )}
          </span>
        </span>
      }
    >
      {() => <RouteOptions options={options} {...rest} />}
    </Fold>
  );
}

function RouteOptions({
  input,
  options,
  isChosen,
  onChoose,
  mayChooseExcluded,
}: Omit<RouteLineProps, 'title'>) {
  const [all, setAll] = useState(false);
  const excluded = useMemo(() => options.filter(({ status }) => status === 'excluded'), [options]);
  const changes = useSmallestChanges(input, excluded);
  const back = options.filter((one) => leadsBack(one) && !isChosen(one));
  const shown = all ? options : options.filter((one) => !back.includes(one));
  return (
    <div className="route-options">
      {shown.map((candidate) => (
        <CandidateCard
          key={candidate.title}
          candidate={candidate}
          isChosen={isChosen(candidate)}
          change={changes?.[excluded.indexOf(candidate)]}
          onChoose={
            onChoose && !isChosen(candidate) && (candidate.status !== 'excluded' || mayChooseExcluded)
              ? () => onChoose(candidate)
              : undefined
          }
        />
      ))}
      {back.length > 0 && (
        <button type="button" className="btn-plain mb-2" onClick={() => setAll(!all)}>
          {all
            ? 'Without older and ended releases'
            : `Show ${printCount(back.length, 'older or ended release')}`}
        </button>
      )}
    </div>
  );
}
