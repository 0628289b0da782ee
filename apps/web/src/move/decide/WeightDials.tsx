import { termLabels, type HouseRules } from '@ulvane/core/rules';
import { weightLimits, type Choice } from '@ulvane/core/decide';
import { scaleLinear } from 'd3-scale';
import { arc } from 'd3-shape';
import { Fold } from '../../shell/Fold';

type Limit = ReturnType<typeof weightLimits>[number];

const radius = 26;
const toAngle = scaleLinear([0, 10], [-Math.PI / 2, Math.PI / 2]);
const stroke = (from: number, to: number) =>
  arc()({ innerRadius: radius, outerRadius: radius, startAngle: toAngle(from), endAngle: toAngle(to) }) ?? '';

/** In words: where the advice turns, and into what. */
function turnsOf({ lower, upper, below, above }: Limit): string {
  return [
    ...(below ? [`below ${lower?.toFixed(1) ?? ''}: ${below.title}`] : []),
    ...(above ? [`above ${upper?.toFixed(1) ?? ''}: ${above.title}`] : []),
  ].join('; ');
}

/** The weights of the house that could turn the advice: solid while it holds, dotted where another option is first. */
export function WeightDials({
  choice,
  weights,
}: {
  readonly choice: Choice;
  readonly weights: HouseRules['weights'];
}) {
  const limits = weightLimits(choice.candidates, weights);
  const turning = limits
    .filter(({ below, above }) => below !== null || above !== null)
    .toSorted((a, b) => nearness(a) - nearness(b));
  if (turning.length === 0) return <p className="mb-2">No weight of the house changes it by itself.</p>;
  return (
    <>
      <ul className="dials">
        {turning.slice(0, 3).map((limit) => (
          <li key={limit.id}>
            <Dial limit={limit} />
            <span className="dial-now">
              now <b>{limit.weight}</b>
            </span>
            <strong className="d-block">{termLabels[limit.id]}</strong>
            <span>{turnsOf(limit)}</span>
          </li>
        ))}
      </ul>
      {turning.length > 3 && (
        <Fold title={`${turning.length - 3} more weights`}>
          {() => (
            <ul className="check-rows">
              {turning.slice(3).map((limit) => (
                <li key={limit.id}>
                  <strong>{termLabels[limit.id]}</strong> now {limit.weight}; {turnsOf(limit)}
                </li>
              ))}
            </ul>
          )}
        </Fold>
      )}
    </>
  );
}

/** How far the nearest turn lies from the present weight. */
function nearness({ weight, lower, upper }: Limit): number {
  return Math.min(weight - (lower ?? -Infinity), (upper ?? Infinity) - weight);
}

function Dial({ limit }: { readonly limit: Limit }) {
  const { weight, lower, upper } = limit;
  const angle = toAngle(weight);
  return (
    <svg
      width="64"
      height="38"
      viewBox="-32 -30 64 38"
      role="img"
      aria-label={`Weight ${weight} of 10; the advice holds from ${(lower ?? 0).toFixed(1)} to ${(upper ?? 10).toFixed(1)}`}
    >
      <path d={stroke(0, 10)} fill="none" stroke="var(--ink)" strokeWidth="2" strokeDasharray="1.5 3" />
      <path d={stroke(lower ?? 0, upper ?? 10)} fill="none" stroke="var(--ink)" strokeWidth="3.5" />
      <line
        x1="0"
        y1="0"
        x2={Math.sin(angle) * (radius - 5)}
        y2={-Math.cos(angle) * (radius - 5)}
        stroke="var(--go)"
        strokeWidth="2.5"
      />
      <circle r="3.5" fill="var(--go)" />
    </svg>
  );
}
