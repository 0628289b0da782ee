import { printCount, printMinutes } from '@ulvane/core/quantity';
import { leadsBack, reasonsInOneLine, type Candidate, type DecideInput } from '@ulvane/core/decide';
import { routeIds, routes } from '@ulvane/core/route';
import { useState } from 'react';
import { useSmallestChanges } from '../../workers/useChoiceWork';
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
  const byRoute = routeIds
    .map((routeId) => ({ routeId, options: candidates.filter((one) => one.routeId === routeId) }))
    .filter(({ options }) => options.length > 0);
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
          <Ticks options={options} />
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
  const [excluded] = useState(() => options.filter(({ status }) => status === 'excluded'));
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

const tickWidth = 7;

/** A tick an option; where there are many they stand closer, down to a bar. */
function Ticks({ options }: { readonly options: readonly Candidate[] }) {
  const count = (status: Candidate['status']) => options.filter((one) => one.status === status).length;
  const name = `${count('allowed')} possible, ${count('undecided')} wait, ${count('excluded')} not possible`;
  const step = options.length > 16 ? 112 / options.length : tickWidth;
  return (
    <svg className="ticks" width="116" height="18" viewBox="0 0 116 18" role="img" aria-label={name}>
      {options.map(({ status, title }, index) => (
        <line
          key={title}
          x1={2 + index * step}
          x2={2 + index * step}
          y1={status === 'excluded' ? 11 : 3}
          y2="17"
          stroke={status === 'excluded' ? 'var(--soft)' : 'var(--ink)'}
          strokeWidth={Math.min(status === 'excluded' ? 1.5 : 3, step)}
          strokeDasharray={status === 'undecided' ? '2 2' : undefined}
        />
      ))}
    </svg>
  );
}
