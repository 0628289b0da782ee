import { api, surveysAtOnce, type FileOutcome } from '@ulvane/contract';
import { surveyLimitBytes } from '@ulvane/core/survey';
import { useCallback, useState } from 'react';
import Button from 'react-bootstrap/Button';
import Modal from 'react-bootstrap/Modal';
import { useSWRConfig } from 'swr';
import { DropPlace } from '../shell/DropPlace';
import { call } from '../api/call';
import { manyKeys } from '../api/keys';
import { Problem } from '../shell/Problem';
import { BatchProgress } from './BatchProgress';
import { isRunning, useBatchRun } from './useBatchRun';
import { textOfFile } from '../shell/textOfFile';

/** Imports many survey files: what each would do is shown first. */
export function ImportSurveys({ onClose }: { readonly onClose: () => void }) {
  const { mutate } = useSWRConfig();
  const [files, setFiles] = useState<readonly File[]>([]);
  const [tooLarge, setTooLarge] = useState<readonly string[]>([]);
  const send = useCallback(async (batch: readonly File[], dryRun: boolean) => {
    const read = await Promise.all(
      batch.map(async (file) => ({ name: file.name, text: await textOfFile(file) })),
    );
    return (await call(api.takeSurveys, { body: { dryRun, files: read } })).outcomes;
  }, []);
  const { run, error, start, stop } = useBatchRun<File, FileOutcome>(surveysAtOnce, send);
  const pick = (picked: readonly File[]) => {
    setTooLarge(picked.filter(({ size }) => size > surveyLimitBytes).map(({ name }) => name));
    const fit = picked.filter(({ size }) => size <= surveyLimitBytes);
    setFiles(fit);
    if (fit.length > 0) void start(fit, 'dry');
  };
  const running = run !== undefined && isRunning(run);
  const usable = run?.results.filter(({ outcome }) => outcome !== 'refused').length ?? 0;
  const take = async () => {
    await start(files, 'real');
    await mutate(manyKeys.moveLists);
  };
  return (
    <Modal show onHide={onClose} size="lg" backdrop="static" aria-labelledby="import-surveys">
      <Modal.Header closeButton>
        <Modal.Title id="import-surveys" as="h2">
          Import surveys
        </Modal.Title>
      </Modal.Header>
      <Modal.Body>
        {!run && (
          <DropPlace
            label="Survey files"
            title="Drop survey files here"
            pick="Pick files"
            multiple
            onFiles={pick}
          >
            <p className="small-print mb-0 mt-1">
              Each goes to the open move of its serial, or starts a new one. Nothing is stored until you say
              so.
            </p>
          </DropPlace>
        )}
        <Problem error={error} />
        {tooLarge.length > 0 && (
          <p className="notice" role="alert">
            Larger than a survey (1 MiB) and left out: {tooLarge.join(', ')}.
          </p>
        )}
        {run && <BatchProgress run={run} what="files" onStop={stop} />}
        {run && (
          <table className="table">
            <thead>
              <tr>
                <th scope="col">File</th>
                <th scope="col">Device</th>
                <th scope="col">{run.kind === 'dry' ? 'Would be' : 'Was'}</th>
              </tr>
            </thead>
            <tbody>
              {run.results.map(({ name, device, outcome, reference, problems }, index) => (
                <tr key={`${index} ${name}`}>
                  <th scope="row">{name}</th>
                  <td>{device}</td>
                  <td>
                    {outcome} {reference}
                    {problems[0] && <span className="small-print d-block">{problems[0].sentence}</span>}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </Modal.Body>
      <Modal.Footer>
        {run?.kind === 'real' && !running ? (
          <Button onClick={onClose}>Close</Button>
        ) : (
          <>
            <Button variant="quiet" onClick={onClose} disabled={running}>
              Cancel
            </Button>
            <Button disabled={run?.state !== 'finished' || usable === 0} onClick={() => void take()}>
              Import {usable} of {files.length}
            </Button>
          </>
        )}
      </Modal.Footer>
    </Modal>
  );
}
