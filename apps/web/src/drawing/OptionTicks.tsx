import type { Candidate } from '@ulvane/core/decide';

type OptionTicksProps = {
  readonly options: readonly Pick<Candidate, 'status' | 'title'>[];
  readonly width: number;
  /** So many of those that wait, the first of them, are held by a bracket with these words. */
  readonly bracket?: { readonly count: number; readonly words: string };
};

const maxStep = 9;

/** A tick an option: tall where it is possible, dotted where it waits for a fact, short where it is not possible. */
export function OptionTicks({ options, width, bracket }: OptionTicksProps) {
  const count = (status: Candidate['status']) => options.filter((one) => one.status === status).length;
  const name = `${count('allowed')} possible, ${count('undecided')} wait, ${count('excluded')} not possible`;
  // Where there are many they stand closer, down to a bar.
  const step = Math.min(maxStep, (width - 4) / Math.max(1, options.length));
  const from = options.findIndex(({ status }) => status === 'undecided');
  const held = bracket && bracket.count > 0 && from >= 0 ? bracket : undefined;
  const left = 1 + from * step;
  const right = 3 + (from + (held?.count ?? 0) - 1) * step;
  const height = bracket ? 40 : 18;
  return (
    <svg
      className="ticks"
      width={width}
      height={height}
      viewBox={`0 0 ${width} ${height}`}
      role="img"
      aria-label={held ? `${name}; ${held.words}` : name}
    >
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
      {held && (
        <g className="ticks-bracket">
          <path d={`M${left} 20V24H${right}V20`} />
          {/* To the right of the bracket where there is room, else to its left. */}
          <text
            x={right < width * 0.6 ? right + 6 : left - 6}
            y="33"
            textAnchor={right < width * 0.6 ? 'start' : 'end'}
          >
            {held.words}
          </text>
        </g>
      )}
    </svg>
  );
}
