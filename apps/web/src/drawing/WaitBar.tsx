import { useId } from 'react';
import { WaitPattern } from './WaitPattern';

/** A wait as a gauge that fills, hatched. @param share 0 to 1 */
export function WaitBar({ share }: { readonly share: number }) {
  const id = useId();
  const full = 214;
  const done = Math.max(0, Math.min(1, share)) * full;
  return (
    <svg
      className="wait-bar"
      viewBox={`0 0 ${full} 16`}
      role="img"
      aria-label={`${Math.round(share * 100)} % of the wait is over`}
    >
      <WaitPattern id={id} />
      <rect x="0.5" y="3.5" width={full - 1} height="9" fill="#fffdf8" stroke="var(--wait)" />
      <rect y="3" width={done} height="10" fill={`url(#${id})`} />
      <path d={`M${done} 0V16`} stroke="var(--ink)" strokeWidth="2" />
    </svg>
  );
}
