type HandsBarProps = {
  readonly handsOnMinutes: number;
  readonly waitingMinutes: number;
  /** The minutes that the whole width stands for; longer ones are cut off with a notch. */
  readonly fullMinutes: number;
};

/** Time drawn as hands-on (solid) and waiting (hatched). */
export function HandsBar({ handsOnMinutes, waitingMinutes, fullMinutes }: HandsBarProps) {
  const scale = 100 / fullMinutes;
  const hands = Math.min(100, handsOnMinutes * scale);
  const wait = Math.min(100 - hands, waitingMinutes * scale);
  return (
    <svg
      className="hands-bar"
      width="100%"
      height="10"
      viewBox="0 0 100 10"
      preserveAspectRatio="none"
      role="img"
      aria-label={`${Math.round(handsOnMinutes)} minutes hands-on, ${Math.round(waitingMinutes)} minutes waiting`}
    >
      <rect x="0" y="0" width={hands} height="10" fill="var(--ink)" />
      {wait > 0 && (
        <>
          <rect x={hands} y="0" width={wait} height="10" fill="#f7e9cf" />
          {Array.from({ length: Math.ceil(wait / 3.4) }, (_unused, index) => (
            <line
              key={index}
              x1={hands + index * 3.4}
              y1="10"
              x2={Math.min(hands + wait, hands + index * 3.4 + 2)}
              y2="0"
              stroke="var(--wait)"
              strokeWidth="1.3"
              vectorEffect="non-scaling-stroke"
            />
          ))}
          <rect
            x={hands}
            y="0"
            width={wait}
            height="10"
            fill="none"
            stroke="var(--wait)"
            strokeWidth="1.2"
            vectorEffect="non-scaling-stroke"
          />
        </>
      )}
    </svg>
  );
}
