import { api, type DriveView } from '@ulvane/contract';
import { fileSystems } from '@ulvane/core/catalogue';
import { printBothUnits, printBytes } from '@ulvane/core/quantity';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { Link } from 'react-router';
import { call } from '../api/call';
import { useDrives } from '../api/useDrives';
import { useMay } from '../api/useSession';
import { CompareLists } from '../files/CompareLists';
import { Loading } from '../shell/Loading';
import { Problem } from '../shell/Problem';
import { DriveDialog } from './DriveDialog';
import { kindNames, linkNames } from './words';

/** Backup drives and sticks of the house: what they hold now, until when, and what is free. */
export function DrivesView() {
  const { drives, error, mutate } = useDrives();
  const may = useMay();
  const [editing, setEditing] = useState<DriveView | 'new'>();
  const [refusal, setRefusal] = useState<unknown>();
  const remove = async ({ id, name, version }: DriveView) => {
    if (!window.confirm(`Remove ${name} from the inventory?`)) return;
    setRefusal(undefined);
    try {
      await mutate(await call(api.removeDrive, { params: { id }, body: { version } }), { revalidate: false });
    } catch (problem) {
      setRefusal(problem);
    }
  };
  return (
    <>
      <div className="page-head">
        <h1>Drives</h1>
        <span className="soft">what backups are on them, and what is free</span>
        {may.write && (
          <Button size="sm" className="ms-auto" onClick={() => setEditing('new')}>
            Add a drive
          </Button>
        )}
      </div>
      <Problem error={error} />
      <Problem error={refusal} onClose={() => setRefusal(undefined)} />
      {!drives && error === undefined && <Loading what="the drives" />}
      {drives?.length === 0 && (
        <p className="empty">
          No drive yet. Add the backup drives with their serials: two that look alike are told apart by them.
        </p>
      )}
      {drives && drives.length > 0 && (
        <section className="sheet table-scroll">
          <table className="table">
            <thead>
              <tr>
                <th scope="col">Label</th>
                <th scope="col">Serial</th>
                <th scope="col">Formatted</th>
                <th scope="col">On it now</th>
                <th scope="col" className="number">
                  Free
                </th>
                <th scope="col">Health</th>
                {may.write && (
                  <th scope="col">
                    <span className="visually-hidden">Change</span>
                  </th>
                )}
              </tr>
            </thead>
            <tbody>
              {drives.map((drive) => (
                <tr key={drive.id}>
                  <th scope="row">
                    {drive.name}
                    <div className="small-print">
                      {kindNames[drive.kind]}, {linkNames[drive.link]}
                      {drive.purpose === 'installer' && '; for installers, never a backup'}
                    </div>
                    {drive.note !== '' && <div className="small-print">{drive.note}</div>}
                  </th>
                  <td className="mono serial">{drive.serial || 'not noted'}</td>
                  <td>
                    {printBothUnits(drive.capacityBytes)}
                    <div className="small-print">
                      {fileSystems.find(({ id }) => id === drive.fileSystem)?.name}
                    </div>
                  </td>
                  <td>
                    <Contents drive={drive} />
                    {drive.otherBytes > 0 && (
                      <div className="small-print">other things: {printBothUnits(drive.otherBytes)}</div>
                    )}
                  </td>
                  <td className="number">
                    {printBothUnits(drive.freeBytes)}
                    <Share drive={drive} />
                  </td>
                  <td>{drive.health === 'good' ? 'good' : <strong>{drive.health}</strong>}</td>
                  {may.write && (
                    <td className="number">
                      <button
                        type="button"
                        className="btn-plain"
                        onClick={() => setEditing(drive)}
                        aria-label={`Change ${drive.name}`}
                      >
                        Change
                      </button>{' '}
                      <button
                        type="button"
                        className="btn-plain"
                        onClick={() => void remove(drive)}
                        aria-label={`Remove ${drive.name}`}
                      >
                        Remove
                      </button>
                    </td>
                  )}
                </tr>
              ))}
            </tbody>
          </table>
        </section>
      )}
      <CompareLists />
      {editing !== undefined && (
        <DriveDialog
          drive={editing === 'new' ? undefined : editing}
          onKept={() => void mutate()}
          onClose={() => setEditing(undefined)}
        />
      )}
    </>
  );
}

const shownMoves = 3;

/** What moves have on a drive: a few in full, more of them summed up and to be opened. */
function Contents({ drive: { contents } }: { readonly drive: DriveView }) {
  if (contents.length === 0) return <span className="soft">nothing of a move</span>;
  const lines = contents.map(({ reference, label, sizeBytes, keepUntil, grades }) => (
    <li key={reference + label}>
      <Link to={`/moves/${reference}/save`}>{reference}</Link> {printBytes(sizeBytes, 'decimal')}
      <span className="small-print">
        {keepUntil === null ? ', no last day noted' : `, until ${keepUntil}`}; {grades || 'no copy recorded'}
      </span>
    </li>
  ));
  if (contents.length <= shownMoves) return <ul className="list-unstyled mb-0">{lines}</ul>;
  const [next] = contents.flatMap(({ keepUntil }) => keepUntil ?? []).sort();
  return (
    <details>
      <summary>
        {contents.length} moves,{' '}
        {printBytes(
          contents.reduce((sum, { sizeBytes }) => sum + sizeBytes, 0),
          'decimal',
        )}
        {next !== undefined && `; next to be wiped ${next}`}
      </summary>
      <ul className="list-unstyled mb-0">{lines}</ul>
    </details>
  );
}

/** How full a drive is, as a bar; the numbers beside it say the same. */
function Share({ drive }: { readonly drive: DriveView }) {
  const taken = 1 - drive.freeBytes / drive.capacityBytes;
  return (
    <svg className="drive-share" viewBox="0 0 100 6" preserveAspectRatio="none" aria-hidden="true">
      <rect width="100" height="6" fill="none" stroke="var(--rule)" />
      <rect width={taken * 100} height="6" fill="var(--go)" />
    </svg>
  );
}
