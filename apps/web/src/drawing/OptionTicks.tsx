import type { Candidate } from '@ulvane/core/decide';

type OptionTicksProps = {
  readonly options: readonly Pick<Candidate, 'status' | 'title'>[];
  readonly width: number;
};

const maxStep = 9;

/** A tick an option: tall where it is possible, dotted where it waits for a fact, short where it is not possible. */
export function OptionTicks({ options, width }: OptionTicksProps) {
  const count = (status: Candidate['status']) => options.filter((one) => one.status === status).length;
  const name = `${count('allowed')} possible, ${count('undecided')} wait, ${count('excluded')} not possible`;
  // Where there are many they stand closer, down to a bar.
  const step = Math.min(maxStep, (width - 4) / Math.max(1, options.length));
  return (
    <svg className="ticks" width={width} height="18" viewBox={`0 0 ${width} 18`} role="img" aria-label={name}>
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
