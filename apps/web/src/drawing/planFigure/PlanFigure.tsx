import { printBytes } from '@ulvane/core/quantity';
import { stageTitles } from '@ulvane/core/record';
import type { PlanDisk, Step } from '@ulvane/core/runbook';
import { useId } from 'react';
import { useWidth } from '../flow/useWidth';
import { shortened } from '../flow/flowScale';
import { DiskBands, DiskTexts } from './DiskBands';
import {
  axisHeight,
  copiesPath,
  diskHeight,
  gap,
  heightOfCopy,
  labelWidth,
  planScale,
  rowHeight,
  type PlanScale,
} from './planScale';

export type CopyRow = {
  readonly id: string;
  readonly name: string;
  /** Gigabytes of 1000³. */
  readonly size: string;
  /** Good copies: before the first step, then after each. */
  readonly counts: readonly number[];
};

type PlanFigureProps = {
  readonly disk: PlanDisk | undefined;
  readonly steps: readonly Pick<Step, 'id' | 'stage'>[];
  readonly rows: readonly CopyRow[];
  readonly lineIndex: number | null;
  /** After how many steps the state is read. */
  readonly at: number;
};

/** So many letters go beside a row of copies. */
const labelLetters = 15;

/**
 * The whole move as a timetable: right one step after the other, down the disk to scale and below it the copies of each
 * data set. Every vertical cut is the state after one step.
 */
export function PlanFigure({ disk, steps, rows, lineIndex, at }: PlanFigureProps) {
  const id = useId();
  const [frame, width] = useWidth<HTMLDivElement>(430);
  const scale = planScale(disk ?? { sectorCount: 1 }, steps.length, width - 2);
  const top = axisHeight + (disk ? diskHeight + gap : 8);
  const height = top + rows.length * rowHeight + 4;
  const { x } = scale;
  const copyPixels = heightOfCopy(Math.max(1, ...rows.flatMap(({ counts }) => counts)));
  const lineX = lineIndex === null ? undefined : x(lineIndex + 0.5);
  return (
    <div ref={frame}>
      <svg
        className="plan-figure"
        width={width}
        height={height}
        role="img"
        aria-label={`Disk and copies after each of ${steps.length} steps; the table below says the same`}
      >
        <Axis steps={steps} scale={scale} at={at} />
        {disk && (
          <>
            <text x="0" y={axisHeight + 14} className="b">
              Disk {shortened(disk.called, 9)}
            </text>
            <text x="0" y={axisHeight + 30}>
              {printBytes(disk.sectorCount * disk.sectorSizeBytes, 'decimal')}
            </text>
            <text x="0" y={axisHeight + 46}>
              first byte
            </text>
            <text x="0" y={axisHeight + 60}>
              at the top
            </text>
            <text x="0" y={axisHeight + diskHeight} className="s">
              sizes in GB
            </text>
            <DiskBands id={id} disk={disk} scale={scale} steps={steps.length} />
          </>
        )}
        {lineX !== undefined && (
          <g className="the-line-mark">
            <path
              d={`M${lineX - 2.5} ${axisHeight - 26}V${height}M${lineX + 2.5} ${axisHeight - 26}V${height}`}
            />
            {disk && (
              <>
                <rect x={lineX - 30} y={axisHeight + diskHeight + 7} width="60" height="18" />
                <text x={lineX} y={axisHeight + diskHeight + 20} textAnchor="middle">
                  The Line
                </text>
              </>
            )}
          </g>
        )}
        <g className="reading-line">
          <path d={`M${x(at)} ${axisHeight - 6}V${height}`} />
          <path
            d={`M${x(at) - 6} ${axisHeight - 12}H${x(at) + 6}L${x(at)} ${axisHeight - 5}Z`}
            className="head"
          />
        </g>
        {disk && <DiskTexts disk={disk} scale={scale} steps={steps.length} />}
        {rows.map(({ id: key, name, size, counts }, index) => {
          const base = top + (index + 1) * rowHeight - 6;
          const here = counts[at] ?? 0;
          const min = Math.min(...counts);
          return (
            <g key={key}>
              <text x={labelWidth - 8} y={base} textAnchor="end">
                {shortened(name, labelLetters - size.length)} {size}
              </text>
              <path d={`M${labelWidth} ${base}H${width}`} className="copies-base" />
              <path
                d={copiesPath(counts, base, copyPixels, scale)}
                className={min < 1 ? 'copies alarm' : 'copies'}
              />
              <text x={Math.min(x(at) + 6, width - 10)} y={base - 1} className="b small">
                {here}
              </text>
            </g>
          );
        })}
      </svg>
    </div>
  );
}

/** Steps by number, and their stages as brackets above. */
function Axis({
  steps,
  scale: { x, columnWidth },
  at,
}: Pick<PlanFigureProps, 'steps' | 'at'> & { readonly scale: PlanScale }) {
  const stages = steps.flatMap(({ stage }, index) =>
    steps[index - 1]?.stage === stage
      ? []
      : [
          {
            stage,
            from: index,
            until: index + steps.slice(index).filter((one) => one.stage === stage).length,
          },
        ],
  );
  const every = columnWidth > 18 ? 1 : steps.length > 40 ? 10 : 5;
  return (
    <g>
      {stages.map(({ stage, from, until }) => {
        const left = x(from) + 1;
        const right = x(until) - 1;
        const room = Math.floor((right - left) / 6.2);
        return (
          <g key={stage}>
            <path d={`M${left} 20V16H${right}V20`} className="bracket" />
            {room >= 3 && (
              <text x={(left + right) / 2} y="12" textAnchor="middle" className="s small">
                {shortened(stageTitles[stage], room)}
              </text>
            )}
          </g>
        );
      })}
      {steps.map(({ id }, index) => {
        const number = index + 1;
        const isRead = number === at;
        const isShown = isRead || number === 1 || number % every === 0;
        const isNear = !isRead && Math.abs(number - at) * columnWidth < 16;
        return (
          <g key={id}>
            <path d={`M${x(number)} ${axisHeight - 6}V${axisHeight - 1}`} className="tick" />
            {isShown && !isNear && (
              <text
                x={x(number)}
                y={axisHeight - 12}
                textAnchor={number === steps.length ? 'end' : 'middle'}
                className={isRead ? 'b small' : 's small'}
              >
                {number}
              </text>
            )}
          </g>
        );
      })}
    </g>
  );
}
