import { api, type MoveView } from '@ulvane/contract';
import type { DataSet, Destination, FileListRole } from '@ulvane/core/backup';
import { describeSample, sampleSizeFor } from '@ulvane/core/manifest';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import Modal from 'react-bootstrap/Modal';
import Tab from 'react-bootstrap/Tab';
import Tabs from 'react-bootstrap/Tabs';
import { call, upload } from '../api/call';
import { useTakeView } from '../api/useMove';
import { Problem } from '../shell/Problem';
import type { FoundFile } from './hashRun';
import { HashProgressView } from './HashProgressView';
import { PickFolder } from './PickFolder';
import { PickList, type TakenList } from './PickList';
import { useFolderReading } from './useFolderReading';

type FileListDialogProps = {
  readonly view: MoveView;
  readonly dataSet: DataSet;
  readonly role: FileListRole;
  /** The destination that the copy lies on. */
  readonly destination?: Destination;
  /** For copies: the list to draw a sample from, and its length. */
  readonly before?: { readonly id: string; readonly fileCount: number };
  readonly onClose: () => void;
};

const titles: Readonly<Record<FileListRole, (dataSet: string, destination: string) => string>> = {
  before: (dataSet) => `${dataSet}: every file, as it is on the device`,
  copy: (dataSet, destination) => `${dataSet}: the copy on ${destination}`,
  after: (dataSet) => `${dataSet}: what came back`,
};

const actions: Readonly<Record<FileListRole, string>> = {
  before: 'Record the list',
  copy: 'Record and compare',
  after: 'Record and compare',
};

/** Reads a folder, or imports a list; records it, and compares it where there is something to compare with. */
export function FileListDialog({ view, dataSet, role, destination, before, onClose }: FileListDialogProps) {
  const takeView = useTakeView();
  const reading = useFolderReading();
  const [taken, setTaken] = useState<TakenList>();
  const [sampled, setSampled] = useState(false);
  const [sampleSize, setSampleSize] = useState(() =>
    before ? Math.max(1, sampleSizeFor(before.fileCount, Math.ceil(before.fileCount / 100), 0.95)) : 1,
  );
  const [drawnFrom, setDrawnFrom] = useState<number>();
  const [busy, setBusy] = useState(false);
  const [sent, setSent] = useState(0);
  const [error, setError] = useState<unknown>();
  const { progress, run } = reading;
  const ready = taken !== undefined || progress?.state === 'finished';

  const found = async (files: readonly FoundFile[]) => {
    setTaken(undefined);
    setDrawnFrom(undefined);
    if (!sampled || !before) return reading.start(files);
    try {
      const { files: drawn } = await call(api.drawSample, {
        params: { reference: view.move.reference, listId: before.id },
        query: { size: sampleSize },
      });
      const there = new Map(files.map((file) => [file.path, file]));
      setDrawnFrom(before.fileCount);
      reading.start(
        drawn.map(({ path }) => there.get(path) ?? { path, file: null, sizeBytes: 0, modifiedMs: null }),
      );
    } catch (problem) {
      setError(problem);
    }
    return undefined;
  };

  const record = async () => {
    const body = taken?.lines ?? run?.list();
    if (!body) return;
    setBusy(true);
    setSent(0);
    setError(undefined);
    const params = { reference: view.move.reference };
    try {
      const recorded = await upload(
        api.takeFileList,
        {
          params,
          query: {
            version: view.version,
            dataSetId: dataSet.id,
            role,
            destinationId: destination?.id ?? '',
            source: taken?.kind ?? 'hashed',
            sampledFrom: drawnFrom ?? 0,
          },
        },
        body,
        setSent,
      );
      await takeView(recorded);
      const { version } = recorded;
      if (role === 'copy' && destination)
        await takeView(
          await call(api.compareCopy, {
            params,
            body: { version, dataSetId: dataSet.id, destinationId: destination.id },
          }),
        );
      if (role === 'after')
        await takeView(await call(api.reconcile, { params, body: { version, dataSetId: dataSet.id } }));
      onClose();
    } catch (problem) {
      setError(problem);
    } finally {
      setBusy(false);
    }
  };

  return (
    <Modal show onHide={onClose} size="lg" backdrop="static" aria-labelledby="file-list-title">
      <Modal.Header closeButton>
        <Modal.Title id="file-list-title" as="h2">
          {titles[role](dataSet.name, destination?.name ?? '')}
        </Modal.Title>
      </Modal.Header>
      <Modal.Body>
        <Problem error={error} />
        {dataSet.part && (
          <p className="notice">
            This is a part: {dataSet.part.places.slice(0, 6).join(', ')}
            {dataSet.part.places.length > 6 && ` and ${dataSet.part.places.length - 6} more`}.
          </p>
        )}
        <Tabs defaultActiveKey="folder" className="mb-2">
          <Tab eventKey="folder" title="Read a folder">
            {role === 'copy' && before && !progress && (
              <div className="mb-2">
                <Form.Check
                  type="radio"
                  id="every-file"
                  name="how-much"
                  label="Every file"
                  checked={!sampled}
                  onChange={() => setSampled(false)}
                />
                <Form.Check
                  type="radio"
                  id="a-sample"
                  name="how-much"
                  label="A sample, drawn at random"
                  checked={sampled}
                  onChange={() => setSampled(true)}
                />
                {sampled && (
                  <div className="ms-4">
                    <Form.Control
                      size="sm"
                      type="number"
                      min={1}
                      max={before.fileCount}
                      style={{ maxWidth: '9rem' }}
                      aria-label="Files in the sample"
                      value={sampleSize}
                      onChange={({ target }) =>
                        setSampleSize(Math.min(before.fileCount, Math.max(1, Number(target.value) || 1)))
                      }
                    />
                    <p className="small-print mb-0">
                      {describeSample(before.fileCount, sampleSize).sentence}
                    </p>
                    <p className="caution mb-0">
                      of what the route erases, at least one copy is compared in full before the Line.
                    </p>
                  </div>
                )}
              </div>
            )}
            {!progress && (
              <PickFolder label={`Folder of ${dataSet.name}`} onFound={(files) => void found(files)} />
            )}
            {progress && run && <HashProgressView run={run} progress={progress} />}
            {progress?.state === 'stopped' && (
              <Button size="sm" variant="quiet" className="mt-2" onClick={reading.forget}>
                Begin again
              </Button>
            )}
          </Tab>
          <Tab eventKey="list" title="Import a list">
            <PickList onRead={setTaken} />
          </Tab>
        </Tabs>
      </Modal.Body>
      <Modal.Footer>
        <Button variant="quiet" onClick={onClose} disabled={busy}>
          Cancel
        </Button>
        <Button onClick={() => void record()} disabled={!ready || busy}>
          {!busy ? actions[role] : sent < 1 ? `Sending, ${Math.floor(sent * 100)} % …` : 'Recording …'}
        </Button>
      </Modal.Footer>
    </Modal>
  );
}
