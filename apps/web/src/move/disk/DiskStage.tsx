import { diskOfDecision } from '@ulvane/core/record';
import { systemDisk, valueOf } from '@ulvane/core/survey';
import { useState } from 'react';
import Form from 'react-bootstrap/Form';
import { Link } from 'react-router';
import { DiskSheet } from '../DiskSheet';
import { useOpenMove } from '../MoveContext';
import { DiskWorkbench } from './DiskWorkbench';

/** The disks of the device: the one that the route writes to, to be worked on, and the others, not to be touched. */
export function DiskStage() {
  const { move } = useOpenMove();
  const disks = valueOf(move.facts, 'disks') ?? [];
  const target = move.decision ? diskOfDecision(move) : systemDisk(disks);
  const others = disks.filter((disk) => disk !== target);
  const [kind, setKind] = useState<'layout' | 'convert'>(() =>
    move.diskPlan?.work.kind === 'layout' || target?.scheme === 'gpt' ? 'layout' : 'convert',
  );
  return (
    <>
      <div className="page-head">
        <h2>Disk</h2>
        <span className="soft">
          what is done to its table, before it is done ·{' '}
          <Link to={`/moves/${move.reference}/prepare`}>back to Prepare</Link>
        </span>
        {target && (
          <div className="d-flex gap-3 ms-auto no-print" role="radiogroup" aria-label="What is done">
            <Form.Check
              type="radio"
              id="disk-layout"
              name="disk-kind"
              label="Layout"
              checked={kind === 'layout'}
              onChange={() => setKind('layout')}
            />
            <Form.Check
              type="radio"
              id="disk-convert"
              name="disk-kind"
              label="Scheme: MBR or GPT"
              checked={kind === 'convert'}
              onChange={() => setKind('convert')}
            />
          </div>
        )}
      </div>
      {!target && (
        <p className="notice">
          Which disk is to be written cannot be told from the survey.{' '}
          <Link to={`/moves/${move.reference}/survey`}>
            Mark the system partition among the disks on Survey.
          </Link>
        </p>
      )}
      {target && (
        <>
          <DiskWorkbench key={`${target.name} ${kind}`} disk={target} kind={kind} />
        </>
      )}
      {others.map((disk) => (
        <DiskSheet key={disk.name} disk={disk} untouched />
      ))}
    </>
  );
}
