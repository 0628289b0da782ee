import { printBytes, type UnitFamily } from '@ulvane/core/quantity';
import { ticks } from 'd3-array';
import { flowHeight, tapeWidth } from './flowScale';

type FlowTapeProps = { readonly bytes: number; readonly unit: UnitFamily; readonly side: 'left' | 'right' };

/** A measuring tape from the first byte to the last: GB at the left, GiB at the right. */
export function FlowTape({ bytes, unit, side }: FlowTapeProps) {
  const base = unit === 'decimal' ? 1000 : 1024;
  const power = base ** Math.max(1, Math.floor(Math.log(bytes) / Math.log(base) - 0.15));
  const large = ticks(0, bytes / power, 6).filter((tick) => tick > 0);
  const step = (large[1] ?? 2) - (large[0] ?? 1);
  const small = Array.from({ length: Math.floor(bytes / power / (step / 10)) + 1 }, (_none, index) => index);
  const y = (value: number) => ((value * power) / bytes) * flowHeight;
  const inner = side === 'left' ? tapeWidth : 0;
  const inward = side === 'left' ? -1 : 1;
  const name = printBytes(power, unit).split(/\s/).at(-1);
  return (
    <g className="flow-tape">
      <rect x="0.5" y="0.5" width={tapeWidth - 1} height={flowHeight - 1} />
      <path
        d={small
          .map((index) => {
            const length = index % 10 === 0 ? 15 : index % 5 === 0 ? 10 : 5;
            return `M${inner} ${y((index * step) / 10)}h${inward * length}`;
          })
          .join('')}
      />
      {large
        .filter((tick) => y(tick) > 24)
        .map((tick) => (
          <text
            key={tick}
            x={side === 'left' ? 3 : tapeWidth - 3}
            y={Math.min(flowHeight - 4, y(tick) - 2)}
            textAnchor={side === 'left' ? 'start' : 'end'}
          >
            {tick}
          </text>
        ))}
      <text
        x={side === 'left' ? 3 : tapeWidth - 3}
        y="14"
        textAnchor={side === 'left' ? 'start' : 'end'}
        className="strong"
      >
        {name}
      </text>
    </g>
  );
}
