import { api } from '@ulvane/contract';
import {
  proposeDataSets,
  saveFlow,
  scopeNotices,
  slugOf,
  usedPartitions,
  type ChecklistLine,
  type DataSet,
  type NextOnSave,
} from '@ulvane/core/backup';
import { printBothUnits } from '@ulvane/core/quantity';
import { readCopies, isClosed } from '@ulvane/core/record';
import { isEmptyDevice } from '@ulvane/core/survey';
import { custodyNow } from '@ulvane/core/runbook';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { Link } from 'react-router';
import { useChange } from '../../api/useMove';
import { useMay } from '../../api/useSession';
import { Problem } from '../../shell/Problem';
import { useOpenMove } from '../MoveContext';
import { CustodyChart } from '../../drawing/CustodyChart';
import { SaveFlowFigure } from '../../drawing/saveFlow/SaveFlowFigure';
import { AskedList } from './AskedList';
import { Checklist } from './Checklist';
import { CopiesTable } from './CopiesTable';
import { DataSetDialog, emptyDataSet } from './DataSetDialog';
import { Destinations } from './Destinations';
import { NextStep } from './NextStep';
import { NothingToSave } from './NothingToSave';
import { PackDialog } from './PackDialog';

/** Where the data of a line lie, as far as it says so. */
const placeOf = (data: ChecklistLine['data']) =>
  data && { place: data.place, path: data.path, sizeBytes: data.sizeBytes };

/** What is at risk, where it goes, whether it fits, and which copies are verified. */
export function SaveStage() {
  const { view, move, houseRules } = useOpenMove();
  const { status, counting, uncounted } = readCopies(move, houseRules);
  const { change, error, forgetError } = useChange(view);
  const may = useMay();
  const [editing, setEditing] = useState<DataSet>();
  const [packing, setPacking] = useState(false);
  const [asked, setAsked] = useState<NextOnSave['act']>();
  const open = may.write && !isClosed(move);
  const { dataSets, destinations, decision } = move;
  const proposed = proposeDataSets(move.folders, move.facts, dataSets);
  const short = status.filter((line) => line.short !== null);
  const flow = saveFlow({ ...move, status });
  const used = usedPartitions(move.facts);
  const notices = scopeNotices(dataSets, move.facts);
  const setAll = (sets: readonly DataSet[]) => change(api.setDataSets, { dataSets: [...sets] });
  const keep = (dataSet: DataSet) =>
    setAll(
      dataSets.some(({ id }) => id === dataSet.id)
        ? dataSets.map((other) => (other.id === dataSet.id ? dataSet : other))
        : [...dataSets, dataSet],
    );
  const act = (next: NextOnSave['act']) => {
    if (next.kind === 'name-sets') void setAll([...dataSets, ...proposed]);
    else if (next.kind === 'add-set') setEditing(emptyDataSet);
    else if (next.kind === 'pack') setPacking(true);
    else if (next.kind !== 'none') setAsked(next);
  };

  return (
    <>
      {!decision && (
        <p className="notice">
          No route is chosen, so everything counts as at risk.{' '}
          <Link to={`/moves/${move.reference}/decide`}>Choose one on Decide.</Link>
        </p>
      )}
      <Problem error={error} onClose={forgetError} />
      <NextStep flow={flow} status={status} onAct={open ? act : undefined} />
      {(flow.boxes.length > 0 || flow.disks.length > 0) && (
        <section className="sheet">
          <div className="page-head">
            <h2>Where the data is, and where its copies go</h2>
          </div>
          <SaveFlowFigure flow={flow} destinations={destinations} />
        </section>
      )}
      <section className="sheet" id="copies">
        <div className="page-head">
          <h2>Data sets and their copies</h2>
          <span className="soft">
            {dataSets.length === 0
              ? ''
              : short.length === 0
                ? 'every one has the copies it needs'
                : `${short.length} of ${dataSets.length} short of copies`}
          </span>
          {open && (
            <span className="ms-auto d-flex gap-2">
              {proposed.length > 0 && (
                <Button size="sm" onClick={() => void setAll([...dataSets, ...proposed])}>
                  Add {proposed.length} from the survey
                </Button>
              )}
              {dataSets.length > 0 && move.destinations.length > 0 && (
                <Button size="sm" variant="quiet" onClick={() => setPacking(true)}>
                  Pack
                </Button>
              )}
              <Button
                size="sm"
                variant={proposed.length > 0 ? 'quiet' : 'primary'}
                onClick={() => setEditing(emptyDataSet)}
              >
                Add a data set
              </Button>
            </span>
          )}
        </div>
        {dataSets.length === 0 ? (
          <NothingToSave />
        ) : (
          <CopiesTable
            status={status}
            onEdit={open ? setEditing : undefined}
            onJoin={open ? (id) => void change(api.joinDataSet, {}, { id }) : undefined}
            onRemove={open ? (id) => void setAll(dataSets.filter((dataSet) => dataSet.id !== id)) : undefined}
          />
        )}
        {notices.length > 0 && (
          <ul className="check-rows mt-2">
            {notices.map(({ sentence, blocks }) => (
              <li key={sentence}>
                {blocks && <strong>Not safe yet: </strong>}
                {sentence}
              </li>
            ))}
          </ul>
        )}
        {used.length > 0 && (
          <p className="small-print mt-2 mb-0">
            Used on the disks:{' '}
            {used.map(({ title, usedBytes }) => `${title} ${printBothUnits(usedBytes)}`).join('; ')}. In the
            data sets: {printBothUnits(dataSets.reduce((sum, { sizeBytes }) => sum + sizeBytes, 0))}. What is
            the rest?
          </p>
        )}
      </section>
      <Destinations adding={asked?.kind === 'add-destination'} onAdded={() => setAsked(undefined)} />
      {!isEmptyDevice(move.facts) && (
        <Checklist
          onAdd={({ id, name, kind, data }) =>
            setEditing({ ...emptyDataSet, ...placeOf(data), id, name, kind })
          }
        />
      )}
      {move.plan && dataSets.length > 0 && (
        <section className="sheet">
          <h2>Where every file is, step by step</h2>
          <CustodyChart
            runbook={move.plan.runbook}
            dataSets={dataSets}
            uncounted={uncounted}
            now={custodyNow(move.plan.runbook.steps, move.signatures, dataSets, counting)}
          />
        </section>
      )}
      {asked && asked.kind !== 'none' && 'dataSetId' in asked && (
        <AskedList asked={asked} onClose={() => setAsked(undefined)} />
      )}
      {packing && <PackDialog status={status} onClose={() => setPacking(false)} />}
      {editing && (
        <DataSetDialog
          dataSet={editing}
          onClose={() => setEditing(undefined)}
          onKeep={async (dataSet) => {
            const withId =
              dataSet.id === ''
                ? { ...dataSet, id: slugOf(dataSet.name, new Set(dataSets.map(({ id }) => id))) }
                : dataSet;
            return keep(withId);
          }}
          error={error}
        />
      )}
    </>
  );
}
