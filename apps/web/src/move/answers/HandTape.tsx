import type { HandPartition, HandPartitions } from '@ulvane/core/runbook';
import { useWidth } from '../../drawing/flow/useWidth';

const top = 17;
const barHeight = 22;
/** So many pixels one letter takes. */
const letter = 7;

/** The disk after the partition page, to scale: kept solid, made dashed, starts in the box's unit above. */
export function HandTape({ disk, made, kept }: Pick<HandPartitions, 'disk' | 'made' | 'kept'>) {
  const [frame, width] = useWidth<HTMLDivElement>(518);
  const x = (bytes: number) => (bytes / disk.sizeBytes) * (width - 2) + 1;
  const all = [...made, ...kept].toSorted((a, b) => a.startBytes - b.startBytes);
  const wide = all.filter(({ sizeBytes }) => x(sizeBytes) - x(0) >= 14);
  const narrow = all.filter((one) => !wide.includes(one));
  let lastTick = -Infinity;
  const ticks = wide.filter(({ startBytes, start }) => {
    const at = x(startBytes);
    if (at - lastTick < (start.length + 1) * letter || at > width - start.length * letter) return false;
    lastTick = at;
    return true;
  });
  return (
    <div ref={frame}>
      <svg
        className="hand-tape"
        width={width}
        height={narrow.length > 0 ? 56 : 42}
        role="img"
        aria-label={`Disk ${disk.called} after the partition page, to scale; the tables below say the same`}
      >
        <rect x=".75" y={top} width={Math.max(0, width - 1.5)} height={barHeight} className="outline" />
        {all.map((one) => (
          <Part key={`${one.number} ${one.startBytes}`} one={one} x={x} />
        ))}
        {ticks.map(({ start, startBytes }) => (
          <g key={start}>
            <path d={`M${x(startBytes)} ${top - 6}V${top}`} className="tick" />
            <text x={x(startBytes)} y={top - 8} textAnchor={x(startBytes) < 24 ? 'start' : 'middle'}>
              {start}
            </text>
          </g>
        ))}
        {narrow.length > 0 && (
          <text x="0" y={top + barHeight + 14} className="soft-text">
            Too narrow to number:{' '}
            {narrow.map(({ number, format }) => `${number} ${format === 'yes' ? 'new' : 'kept'}`).join(', ')}
          </text>
        )}
      </svg>
    </div>
  );
}

function Part({ one, x }: { readonly one: HandPartition; readonly x: (bytes: number) => number }) {
  const left = x(one.startBytes);
  const width = Math.max(2, x(one.startBytes + one.sizeBytes) - left);
  const words = [
    `${one.number} ${one.label}, ${one.format === 'yes' ? 'new' : 'kept'}`,
    `${one.number}`,
  ].find((text) => text.length * letter <= width);
  return (
    <g>
      <rect
        x={left}
        y={top + 1}
        width={width - 1}
        height={barHeight - 2}
        className={one.format === 'yes' ? 'made' : 'kept'}
      />
      {words !== undefined && (
        <text x={left + width / 2} y={top + 15} textAnchor="middle" className="b">
          {words}
        </text>
      )}
    </g>
  );
}
