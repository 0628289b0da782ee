import { api, rowsAtOnce, type ListMapping, type RowOutcome } from '@ulvane/contract';
import { formulaCell, type LetterReading, type Outcome } from '@ulvane/core/outcome';
import type { NumberMark } from '@ulvane/core/quantity';
import {
  firstRowOfSerial,
  guessMapping,
  isListField,
  listFieldLabel,
  listFields,
  marksOfList,
  shownCell,
} from '@ulvane/core/survey';
import { wrap } from 'comlink';
import Papa from 'papaparse';
import { useCallback, useMemo, useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import Modal from 'react-bootstrap/Modal';
import { useSWRConfig } from 'swr';
import { DropPlace } from '../shell/DropPlace';
import { call } from '../api/call';
import { manyKeys } from '../api/keys';
import { useHouse } from '../api/useHouse';
import { Problem } from '../shell/Problem';
import type { ListFile, ListRead, ListWork } from '../workers/list.worker';
import { BatchProgress } from './BatchProgress';
import { isRunning, useBatchRun, type BatchRun } from './useBatchRun';

const listLimitBytes = 32 * 1024 * 1024;
const shownProblems = 100;

type Row = ListFile['rows'][number];

async function readList(file: File, encoding?: string): Promise<Outcome<ListRead>> {
  const worker = new Worker(new URL('../workers/list.worker.ts', import.meta.url), { type: 'module' });
  try {
    return await wrap<ListWork>(worker).read(await file.arrayBuffer(), encoding);
  } finally {
    worker.terminate();
  }
}

/** Imports a list of devices: its columns are matched, it is checked without storing anything, then taken. */
export function ImportList({ onClose }: { readonly onClose: () => void }) {
  const { mutate } = useSWRConfig();
  const [file, setFile] = useState<ListFile>();
  const [unfit, setUnfit] = useState<string>();
  const [letters, setLetters] = useState<{ file: File; readings: readonly LetterReading[] }>();
  const [mapping, setMapping] = useState<ListMapping>({});
  const { house } = useHouse();
  const marks = useMemo(
    () => (file ? marksOfList(columnsOf(file), house?.houseRules.writtenNumbers ?? 'either') : {}),
    [file, house],
  );
  const firstRows = useMemo(() => firstRowOfSerial(file?.rows ?? [], mapping), [file, mapping]);
  const send = useCallback(
    async (rows: readonly Row[], dryRun: boolean) =>
      (
        await call(api.takeRows, {
          body: { dryRun, mapping, marks, rows: rows.map((row) => onlyMapped(row, mapping, firstRows)) },
        })
      ).outcomes,
    [mapping, marks, firstRows],
  );
  const { run, error, start, stop, forget } = useBatchRun<Row, RowOutcome>(rowsAtOnce, send);

  const read = async (picked: File, encoding?: string) => {
    setUnfit(undefined);
    setLetters(undefined);
    forget();
    if (picked.size > listLimitBytes) return setUnfit(`${picked.name} has more than 32 MiB: split it.`);
    const opened = await readList(picked, encoding);
    if (!opened.ok) return setUnfit(opened.problems[0]?.sentence);
    if (opened.value.kind === 'letters') return setLetters({ file: picked, readings: opened.value.readings });
    const { list } = opened.value;
    if (list.rows.length === 0)
      return setUnfit(`${picked.name} has no rows: the first line names the columns, devices follow.`);
    const last = await call(api.listMapping).then(
      (answer) => answer.mapping,
      () => ({}),
    );
    setMapping({ ...guessMapping(list.headers), ...remembered(last, list.headers) });
    setFile(list);
  };
  const hasSerial = Object.values(mapping).includes('serial');
  const chosen = Object.values(mapping).filter(isListField);
  const doubled = chosen.find((field, index) => chosen.indexOf(field) !== index);
  const running = run !== undefined && isRunning(run);
  const take = async () => {
    if (!file) return;
    await start(file.rows, 'real');
    await mutate(manyKeys.moveLists);
  };

  return (
    <Modal show onHide={onClose} size="xl" backdrop="static" aria-labelledby="import-list">
      <Modal.Header closeButton>
        <Modal.Title id="import-list" as="h2">
          Import devices
        </Modal.Title>
      </Modal.Header>
      <Modal.Body>
        {!file && (
          <DropPlace
            label="Device list"
            title="Drop a CSV file here"
            pick="Pick a file"
            onFiles={([picked]) => void (picked && read(picked))}
          >
            <p className="small-print mb-0 mt-1">
              One device a row, the first row names the columns. A serial that is known is updated, never
              doubled: the same list can be imported again.
            </p>
          </DropPlace>
        )}
        {unfit !== undefined && (
          <p className="notice mt-2" role="alert">
            {unfit}
          </p>
        )}
        {letters && !file && (
          <Letters readings={letters.readings} onChoose={(encoding) => void read(letters.file, encoding)} />
        )}
        {file && (
          <>
            {file.problems.length > 0 && (
              <p className="notice">
                {file.problems.slice(0, 3).join(' ')}
                {file.problems.length > 3 && ` And ${file.problems.length - 3} more.`}
              </p>
            )}
            {!run && <Columns file={file} mapping={mapping} marks={marks} onChange={setMapping} />}
            {!run && doubled !== undefined && (
              <p className="notice" role="alert">
                Two columns are read as {listFieldLabel(doubled)}: choose one of them, and leave the other
                out.
              </p>
            )}
            <Problem error={error} />
            {run && <BatchProgress run={run} what="rows" onStop={stop} />}
            {run && !running && <Outcomes run={run} />}
          </>
        )}
      </Modal.Body>
      <Modal.Footer>
        {run?.kind === 'real' && !running ? (
          <Button onClick={onClose}>Close</Button>
        ) : (
          <>
            {run && !running && (
              <Button variant="quiet" onClick={forget}>
                Back to the columns
              </Button>
            )}
            <Button variant="quiet" onClick={onClose} disabled={running}>
              Cancel
            </Button>
            {!run && (
              <Button
                disabled={!file || !hasSerial || doubled !== undefined}
                onClick={() => file && void start(file.rows, 'dry')}
              >
                Check {file ? `${file.rows.length} rows` : 'it'}
              </Button>
            )}
            {run?.kind === 'dry' && run.state === 'finished' && (
              <Button
                onClick={() => void take()}
                disabled={counted(run, 'new') + counted(run, 'updated') === 0}
              >
                Import {counted(run, 'new') + counted(run, 'updated')} devices
              </Button>
            )}
          </>
        )}
        {file && !hasSerial && <span className="small-print">Say which column holds the serial.</span>}
      </Modal.Footer>
    </Modal>
  );
}

type LettersProps = {
  readonly readings: readonly LetterReading[];
  readonly onChoose: (encoding: string) => void;
};

/** Asks how the letters of a file read that does not say so itself. */
function Letters({ readings, onChoose }: LettersProps) {
  return (
    <section aria-labelledby="letters">
      <h3 id="letters">Which of these is spelt right?</h3>
      <p className="soft">
        The file does not say how its letters with accents are written. Nothing is imported before you choose.
      </p>
      <table className="table">
        <caption className="visually-hidden">Ways to read the letters</caption>
        <tbody>
          {readings.map(({ encoding, name, sample }) => (
            <tr key={encoding}>
              <th scope="row">
                {name} <span className="soft">({encoding})</span>
              </th>
              <td>
                {sample.map((line) => (
                  <div key={line}>{line}</div>
                ))}
              </td>
              <td>
                <Button size="sm" variant="quiet" onClick={() => onChoose(encoding)}>
                  Spelt right as {name}
                </Button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="small-print">
        None of them: save the list in the spreadsheet as “CSV UTF-8” and import that.
      </p>
    </section>
  );
}

/** What was matched last time, for the columns that are here again. */
function remembered(last: ListMapping, headers: readonly string[]): ListMapping {
  return Object.fromEntries(Object.entries(last).filter(([header]) => headers.includes(header)));
}

const columnsOf = ({ headers, rows }: ListFile) =>
  Object.fromEntries(headers.map((header) => [header, rows.map(({ cells }) => cells[header] ?? '')]));

/** A row as it is sent: the columns that are taken, and the earlier row of the same serial, if there is one. */
function onlyMapped({ row, cells }: Row, mapping: ListMapping, firstRows: ReadonlyMap<number, number>) {
  const earlier = firstRows.get(row);
  return {
    row,
    cells: Object.fromEntries(Object.entries(cells).filter(([header]) => isListField(mapping[header] ?? ''))),
    ...(earlier === undefined ? {} : { sameAsRow: earlier }),
  };
}

const counted = (run: BatchRun<RowOutcome>, outcome: RowOutcome['outcome']) =>
  run.results.filter((result) => result.outcome === outcome).length;

type ColumnsProps = {
  readonly file: ListFile;
  readonly mapping: ListMapping;
  readonly marks: Readonly<Record<string, NumberMark>>;
  readonly onChange: (mapping: ListMapping) => void;
};

function Columns({ file, mapping, marks, onChange }: ColumnsProps) {
  return (
    <table className="table">
      <thead>
        <tr>
          <th scope="col">Column</th>
          <th scope="col">Is</th>
          <th scope="col">First rows</th>
        </tr>
      </thead>
      <tbody>
        {file.headers.map((header) => (
          <tr key={header}>
            <th scope="row">{header}</th>
            <td>
              <Form.Select
                size="sm"
                aria-label={`Column ${header} is`}
                value={mapping[header] ?? ''}
                onChange={({ target }) =>
                  onChange({ ...mapping, [header]: isListField(target.value) ? target.value : '' })
                }
              >
                <option value="">left out</option>
                {listFields.map((field) => (
                  <option key={field} value={field}>
                    {listFieldLabel(field)}
                  </option>
                ))}
              </Form.Select>
            </td>
            <td className="soft">
              {file.rows
                .slice(0, 3)
                .map(({ cells }) => cells[header] ?? '')
                .filter((cell) => cell !== '')
                .map((cell) => shownCell(mapping[header] ?? '', cell, header, marks[header] ?? 'either'))
                .join(' · ')}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Outcomes({ run }: { readonly run: BatchRun<RowOutcome> }) {
  const refused = run.results.filter(({ outcome }) => outcome === 'refused');
  const lines = refused.flatMap(({ row, problems }) =>
    problems.map(({ path, sentence }) => ({ row, column: path, sentence })),
  );
  const will = run.kind === 'dry' ? 'would be ' : '';
  return (
    <>
      <p>
        {counted(run, 'new')} {will}new, {counted(run, 'updated')} {will}updated, {counted(run, 'unchanged')}{' '}
        unchanged, <strong>{refused.length} refused</strong>.
        {run.kind === 'real' &&
          run.state === 'stopped' &&
          ' The import was stopped: import the same list again for the rest.'}
      </p>
      {lines.length > 0 && (
        <>
          <table className="table refusals">
            <caption className="visually-hidden">Rows that are refused</caption>
            <thead>
              <tr>
                <th scope="col" className="number">
                  Row
                </th>
                <th scope="col">Column</th>
                <th scope="col">Why</th>
              </tr>
            </thead>
            <tbody>
              {lines.slice(0, shownProblems).map(({ row, column, sentence }) => (
                <tr key={`${row} ${column} ${sentence}`}>
                  <td className="number">{row}</td>
                  <td>{column}</td>
                  <td>{sentence}</td>
                </tr>
              ))}
            </tbody>
          </table>
          {lines.length > shownProblems && <p className="soft">and {lines.length - shownProblems} more</p>}
          <a
            className="btn btn-quiet btn-sm"
            download="refused-rows.csv"
            href={`data:text/csv;charset=utf-8,${encodeURIComponent(Papa.unparse(lines, { escapeFormulae: formulaCell }))}`}
          >
            Refused rows as CSV
          </a>
        </>
      )}
    </>
  );
}
