import { fileKinds } from '@ulvane/core/manifest';
import { useEffect, useRef, useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { Field } from '../shell/Field';
import { compareLists, type ListsCompared } from './compareLists';

/** Two lists of files against each other, without a move: nothing of them leaves the computer. */
export function CompareLists() {
  const [before, setBefore] = useState<File>();
  const [after, setAfter] = useState<File>();
  const [running, setRunning] = useState(false);
  const [found, setFound] = useState<ListsCompared>();
  const [unfit, setUnfit] = useState<string>();
  const csv = useRef<HTMLAnchorElement>(null);
  // The address of the CSV lives as long as the outcome that it is of.
  useEffect(() => {
    if (!found) return;
    const address = URL.createObjectURL(found.csv);
    if (csv.current) csv.current.href = address;
    return () => URL.revokeObjectURL(address);
  }, [found]);
  const compare = async () => {
    if (!before || !after) return;
    setRunning(true);
    setFound(undefined);
    setUnfit(undefined);
    try {
      setFound(await compareLists(before, after));
    } catch (problem) {
      setUnfit(problem instanceof Error ? problem.message : 'The lists could not be compared.');
    } finally {
      setRunning(false);
    }
  };
  const picker = (label: string, onPick: (file: File | undefined) => void) => (
    <div className="col-4">
      <Field label={label}>
        {(ids) => (
          <Form.Control
            {...ids}
            type="file"
            size="sm"
            onChange={({ target }) => onPick((target as HTMLInputElement).files?.[0])}
          />
        )}
      </Field>
    </div>
  );
  return (
    <section className="sheet">
      <h2>Compare two lists</h2>
      <p className="soft mb-1">
        Checksum lists, bags’ manifests or CSV lists, of whatever drive: compared here in the browser.
      </p>
      <div className="row align-items-end">
        {picker('Before', setBefore)}
        {picker('After', setAfter)}
        <div className="col-4 mb-2">
          <Button size="sm" disabled={!before || !after || running} onClick={() => void compare()}>
            {running ? 'Comparing …' : 'Compare'}
          </Button>
        </div>
      </div>
      {unfit !== undefined && (
        <p className="notice" role="alert">
          {unfit}
        </p>
      )}
      {found && (
        <div role="status">
          <p className="mb-1">
            <strong>
              {fileKinds
                .filter((kind) => found.counts[kind] > 0)
                .map(
                  (kind) =>
                    `${found.counts[kind].toLocaleString('en')} ${kind === 'same' ? 'the same' : kind}`,
                )
                .join(', ')}
            </strong>
            {found.first.length > 0 && (
              <>
                {'. '}
                <a ref={csv} href="#csv" download="differences.csv">
                  Every difference as CSV
                </a>
              </>
            )}
          </p>
          <ul className="small-print mb-0">
            {found.first.slice(0, 40).map(({ kind, pathBefore, pathAfter }) => (
              <li key={`${kind} ${pathBefore ?? ''} ${pathAfter ?? ''}`}>
                {kind}: <span className="mono">{pathBefore ?? pathAfter}</span>
                {pathBefore !== null && pathAfter !== null && pathBefore !== pathAfter && (
                  <>
                    {' → '}
                    <span className="mono">{pathAfter}</span>
                  </>
                )}
              </li>
            ))}
          </ul>
        </div>
      )}
    </section>
  );
}
