import Button from 'react-bootstrap/Button';
import { isRunning, type BatchRun } from './useBatchRun';

type BatchProgressProps = {
  readonly run: Pick<BatchRun<unknown>, 'kind' | 'total' | 'done' | 'state'>;
  /** What is gone through: “rows”, “files”. */
  readonly what: string;
  readonly onStop: () => void;
};

/** How far a long run is, and the way to stop it. */
export function BatchProgress({ run, what, onStop }: BatchProgressProps) {
  const { done, total, state, kind } = run;
  return (
    <div className="d-flex gap-2 align-items-center mb-2">
      <progress max={total} value={done} className="flex-grow-1" aria-label={`${what} gone through`} />
      <span role="status">
        {done} of {total} {what} {kind === 'dry' ? 'checked' : 'imported'}
        {state === 'stopped' && ', stopped'}
        {state === 'waiting' && ': the server is busy, and is asked again in a moment'}
      </span>
      {isRunning(run) && (
        <Button size="sm" variant="quiet" onClick={onStop}>
          Stop
        </Button>
      )}
    </div>
  );
}
