import { useEffect, useRef, useState } from 'react';

type HoldButtonProps = {
  readonly label: string;
  readonly disabled: boolean;
  /** How long it has to be held, milliseconds. */
  readonly forMilliseconds?: number;
  readonly onHeld: () => void;
};

/** A button that does nothing unless it is held: a pointer pressed on it, or the Space bar; letting go empties it. */
export function HoldButton({ label, disabled, forMilliseconds = 2000, onHeld }: HoldButtonProps) {
  const [holding, setHolding] = useState(false);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const release = () => {
    clearTimeout(timer.current);
    setHolding(false);
  };
  const hold = () => {
    if (disabled || holding) return;
    setHolding(true);
    timer.current = setTimeout(() => {
      setHolding(false);
      onHeld();
    }, forMilliseconds);
  };
  useEffect(() => () => clearTimeout(timer.current), []);
  return (
    <div className="hold">
      <button
        type="button"
        className={`hold-button${holding ? ' holding' : ''}`}
        style={{ '--hold': `${forMilliseconds}ms` } as Record<string, string>}
        disabled={disabled}
        aria-describedby="hold-how"
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          hold();
        }}
        onPointerUp={release}
        onPointerCancel={release}
        onBlur={release}
        onKeyDown={(event) => {
          if (event.key !== ' ') return;
          event.preventDefault();
          // A key that repeats is one that is held.
          if (!event.repeat) hold();
        }}
        onKeyUp={(event) => event.key === ' ' && release()}
      >
        <span className="hold-fill" aria-hidden="true" />
        <span className="hold-label">{label}</span>
      </button>
      <p id="hold-how" className="hold-ruler small-print">
        <span>let go before 2 s: not crossed</span>
        <span>2 s: recorded</span>
      </p>
    </div>
  );
}
