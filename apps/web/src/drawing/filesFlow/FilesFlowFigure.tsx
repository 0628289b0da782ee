import type { FilesFlow } from '@ulvane/core/record';
import { useId } from 'react';
import { ribbon } from '../ribbon';
import { stack } from '../stack';

const width = 826;
const leftX = 112;
const boxLeft = 292;
const boxRight = 656;
const rightX = 704;
const bar = 10;
const boxHeight = 30;
const gap = 9;
const thinnest = 2;

type Pieces = readonly { readonly top: number; readonly height: number }[];

/** The pieces of a bar that the bands leave from or come to: to scale, none thinner than can be seen. */
function pieces(counts: readonly number[], top: number, height: number): Pieces {
  const bands = stack(
    counts.filter((count) => count > 0),
    height,
    thinnest,
    0,
  );
  let next = 0;
  return counts.map((count) => {
    if (count === 0) return { top, height: 0 };
    const band = bands[next] ?? { top: 0, height: 0 };
    next += 1;
    return { top: top + band.top, height: band.height };
  });
}

/** Every file before at the left, what became of it in the middle, every file after at the right. */
export function FilesFlowFigure({ flow }: { readonly flow: FilesFlow }) {
  const id = useId();
  const { fates } = flow;
  const sizes = fates.map(({ before, after }) => Math.max(before, after));
  const height = Math.max(170, fates.length * (boxHeight + gap) + 70);
  const boxes = stack(sizes, height, boxHeight, gap);
  const barHeight = Math.min(height - 40, 130);
  const barTop = (height - barHeight) / 2;
  const left = pieces(
    fates.map(({ before }) => before),
    barTop,
    barHeight,
  );
  const right = pieces(
    fates.map(({ after }) => after),
    barTop,
    barHeight,
  );
  const sum = (counts: readonly number[]) =>
    `${counts
      .filter((count) => count > 0)
      .map((count) => count.toLocaleString('en'))
      .join(' + ')}`;
  return (
    <figure className="files-flow mb-0">
      <p className="small-print d-flex justify-content-between mb-1">
        <span>
          {sum(fates.map(({ before }) => before))} = {flow.before.toLocaleString('en')}
        </span>
        <span>
          {sum(fates.map(({ after }) => after))} = {flow.after.toLocaleString('en')}
        </span>
      </p>
      <svg viewBox={`0 -2 ${width} ${height + 6}`} role="img" aria-labelledby={`${id}-title`}>
        <title id={`${id}-title`}>
          {`${flow.sentence}. ${fates.map(({ words, before, after }) => `${Math.max(before, after)} ${words}`).join('; ')}.`}
        </title>
        {fates.map(({ kind, before, after, words }, index) => {
          const box = boxes[index] ?? { top: 0, height: 0 };
          const from = left[index] ?? { top: 0, height: 0 };
          const to = right[index] ?? { top: 0, height: 0 };
          const middle = box.top + box.height / 2;
          return (
            <g key={kind} className={kind}>
              {before > 0 && <path className="band" d={ribbon(leftX + bar, from, boxLeft, box)} />}
              {after > 0 && (
                <path
                  className={`band${before === 0 ? ' begins' : ''}`}
                  d={ribbon(boxRight, box, rightX, to)}
                />
              )}
              <rect x={boxLeft} y={box.top} width={boxRight - boxLeft} height={box.height} />
              <text x={boxLeft + 12} y={middle + 4}>
                <tspan className="name">{Math.max(before, after).toLocaleString('en')}</tspan> {words}
              </text>
              {after === 0 && (
                <>
                  <path className="wall" d={`M${boxRight + 9} ${middle - 9}V${middle + 9}`} />
                  <text x={boxRight + 18} y={middle + 4}>
                    {kind === 'missing' ? 'not on the device' : 'one of each is left'}
                  </text>
                </>
              )}
            </g>
          );
        })}
        <rect className="bar" x={leftX} y={barTop} width={bar} height={barHeight} />
        <rect className="bar" x={rightX} y={barTop} width={bar} height={barHeight} />
        <text x="0" y={barTop + barHeight / 2 - 12}>
          Before
        </text>
        <text x="0" y={barTop + barHeight / 2 + 8} className="total">
          {flow.before.toLocaleString('en')}
        </text>
        <text x={rightX + 18} y={barTop + barHeight / 2 - 12}>
          After
        </text>
        <text x={rightX + 18} y={barTop + barHeight / 2 + 8} className="total">
          {flow.after.toLocaleString('en')}
        </text>
      </svg>
    </figure>
  );
}
