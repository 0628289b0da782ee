const width = 150;
const teeth = 16;
const depth = 9;

/** The cut of a code: sixteen teeth for its first sixteen characters, from left to right. */
function cut(code: string): readonly (readonly [x: number, y: number])[] {
  return Array.from({ length: teeth }, (_none, index) => {
    const height = Number.parseInt(code[index] ?? '0', 16) / 15;
    return [
      [(index * width) / teeth, height * depth],
      [((index + 1) * width) / teeth, height * depth],
    ] as const;
  }).flat();
}

const pointsOf = (points: readonly (readonly [number, number])[]) =>
  points.map(([x, y]) => `${x.toFixed(1)},${y.toFixed(1)}`).join(' ');

type PieceProps = {
  /** The code of the line before: the upper edge is cut to fit it. Null: the beginning, a plain edge. */
  readonly above: string | null;
  /** The code of this line: the lower edge. */
  readonly below: string;
  readonly label: string;
  readonly look: 'line' | 'fold' | 'unproved' | 'misfit';
};

/** One piece of the rod: it meets the one above only where both codes are the same. */
export function RodPiece({ above, below, label, look }: PieceProps) {
  return (
    <div className={`rod-piece ${look}`} aria-hidden="true">
      {above !== null && (
        <svg
          className="rod-edge upper"
          viewBox={`0 0 ${width} ${depth + 1}`}
          width={width}
          height={depth + 1}
        >
          <polygon points={`0,${depth + 1} ${pointsOf(cut(above))} ${width},${depth + 1}`} />
          <polyline points={pointsOf(cut(above))} />
        </svg>
      )}
      <span className="mono">{label}</span>
      <svg className="rod-edge lower" viewBox={`0 0 ${width} ${depth + 1}`} width={width} height={depth + 1}>
        <polygon points={`0,0 ${pointsOf(cut(below))} ${width},0`} />
        <polyline points={pointsOf(cut(below))} />
      </svg>
    </div>
  );
}

/** @example shortCode('534dfee9…') // '534d fee9' */
export function shortCode(code: string): string {
  return `${code.slice(0, 4)} ${code.slice(4, 8)}`;
}
