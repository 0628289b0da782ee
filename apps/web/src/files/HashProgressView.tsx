import { printBytes, printMinutes } from '@ulvane/core/quantity';
import Button from 'react-bootstrap/Button';
import type { HashProgress, HashRun } from './hashRun';

type HashProgressViewProps = { readonly run: HashRun; readonly progress: HashProgress };

const words = {
  running: 'Reading',
  paused: 'Paused',
  'drive-gone': 'The drive seems to be gone',
  finished: 'Read',
  stopped: 'Stopped',
} as const;

/** How far the reading is, how fast, how long it still takes; and what could not be read. */
export function HashProgressView({ run, progress }: HashProgressViewProps) {
  const { state, filesDone, filesTotal, bytesDone, bytesTotal, rate, secondsLeft, troubled } = progress;
  const share = bytesTotal > 0 ? bytesDone / bytesTotal : filesTotal > 0 ? filesDone / filesTotal : 1;
  return (
    <>
      <p className="mb-1" role="status">
        <strong>{words[state]}</strong>: {filesDone.toLocaleString('en')} of {filesTotal.toLocaleString('en')}{' '}
        files, {printBytes(bytesDone, 'decimal')} of {printBytes(bytesTotal, 'decimal')}
        {rate > 0 && `, ${printBytes(Math.round(rate), 'decimal')} a second`}
        {state === 'running' && secondsLeft !== null && `, about ${timeLeft(secondsLeft)} left`}.
      </p>
      <progress max={1} value={share} className="w-100" aria-label="Share of bytes read" />
      {state === 'drive-gone' && (
        <p className="notice mt-2" role="alert">
          Ten files in a row were not found any more. Plug the drive in again at the same place, then go on:
          what was missed is read again. Nothing has been recorded yet.
        </p>
      )}
      <div className="d-flex gap-2 mt-2">
        {state === 'running' && (
          <Button size="sm" variant="quiet" onClick={() => run.pause()}>
            Pause
          </Button>
        )}
        {(state === 'paused' || state === 'drive-gone') && (
          <Button size="sm" onClick={() => run.goOn()}>
            Go on
          </Button>
        )}
        {state === 'drive-gone' && (
          <Button size="sm" variant="quiet" onClick={() => run.goOnWithout()}>
            Go on without them
          </Button>
        )}
        {state !== 'finished' && state !== 'stopped' && (
          <Button size="sm" variant="quiet" onClick={() => run.stop()}>
            Stop
          </Button>
        )}
      </div>
      {troubled.length > 0 && (
        <details className="mt-2" open={troubled.length <= 20}>
          <summary>
            {troubled.length.toLocaleString('en')} without a checksum: they could not be read, or changed
            while they were read
          </summary>
          <ul className="mono small-print mb-0">
            {troubled.slice(0, 500).map(({ path, trouble }) => (
              <li key={path}>
                {path} ({trouble.replaceAll('-', ' ')})
              </li>
            ))}
          </ul>
        </details>
      )}
    </>
  );
}

function timeLeft(seconds: number): string {
  return seconds < 60 ? `${Math.ceil(seconds)} s` : printMinutes(seconds / 60);
}
