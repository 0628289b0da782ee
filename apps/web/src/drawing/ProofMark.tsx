import type { LineProof } from '@ulvane/core/record';

type Mark = LineProof | 'planned' | 'differs';

const words: Record<Mark, string> = {
  compared: 'compared in full',
  sampled: 'sampled',
  stated: 'stated by hand',
  measured: 'measured',
  decision: 'decided',
  planned: 'planned',
  differs: 'differs',
};

const cells = [0, 1, 2, 3, 4];

/**
 * How something was found to be so: five full cells = compared, one of five = sampled, a pen stroke on a dashed line =
 * stated, ruler ticks = measured; a broken cell differs, an outline is planned.
 * @param label read out instead of the mark's own words; an empty one says that the words are beside it
 */
export function ProofMark({
  mark,
  struck = false,
  label = words[mark],
}: {
  readonly mark: Mark;
  /** It was found for an earlier state, and counts no more. */
  readonly struck?: boolean;
  readonly label?: string;
}) {
  return (
    <svg
      className={`proof-mark ${mark}`}
      viewBox="0 0 30 12"
      width="30"
      height="12"
      {...(label === '' ? { 'aria-hidden': true } : { role: 'img', 'aria-label': label })}
    >
      {struck ? <g opacity="0.45">{shapeOf(mark)}</g> : shapeOf(mark)}
      {struck && <path d="M0 6H30" stroke="currentColor" strokeWidth="2" />}
    </svg>
  );
}

function shapeOf(mark: Mark) {
  switch (mark) {
    case 'compared':
    case 'sampled':
      return cells.map((cell) => (
        <rect
          key={cell}
          x={cell * 6 + 0.5}
          y="1.5"
          width="4"
          height="9"
          fill={mark === 'compared' || cell === 0 ? 'currentColor' : 'none'}
          stroke="currentColor"
        />
      ));
    case 'stated':
      return (
        <>
          <path d="M0 11H29" stroke="currentColor" strokeDasharray="2 2" fill="none" />
          <path d="M2 8c3-8 5-8 4-2s3 2 5-1 3 3 5 0 3 2 5 0 3-3 6-1" stroke="currentColor" fill="none" />
        </>
      );
    case 'measured':
      return (
        <path d="M0.5 11H29.5M1 11V3M8 11V6M15 11V3M22 11V6M29 11V3" stroke="currentColor" fill="none" />
      );
    case 'decision':
      return <path d="M4 11L12 6L26 2M12 6L26 10" stroke="currentColor" fill="none" />;
    case 'differs':
      return (
        <>
          <rect x="0.5" y="1.5" width="11" height="9" fill="none" stroke="currentColor" />
          <path d="M15 1l-2 4 3 2-2 4" stroke="currentColor" fill="none" />
          <rect
            x="17.5"
            y="1.5"
            width="11"
            height="9"
            fill="none"
            stroke="currentColor"
            strokeDasharray="2 2"
          />
        </>
      );
    case 'planned':
      return (
        <rect x="0.5" y="1.5" width="28" height="9" fill="none" stroke="currentColor" strokeDasharray="2 2" />
      );
  }
}
