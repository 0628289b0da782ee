import { printCount } from '@ulvane/core/quantity';
import { api, type HouseView } from '@ulvane/contract';
import { catalogueLimitBytes, type EntryChange } from '@ulvane/core/catalogue';
import { brokenSentence, readJson } from '@ulvane/core/outcome';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Modal from 'react-bootstrap/Modal';
import { useSWRConfig } from 'swr';
import { DropPlace } from '../shell/DropPlace';
import { call } from '../api/call';
import { keys, manyKeys } from '../api/keys';
import { Problem } from '../shell/Problem';
import { ChangedFields } from './EntryHistory';
import { textOfFile } from '../shell/textOfFile';

type Document = { readonly format: string; readonly [key: string]: unknown };
type Preview = { readonly document: Document; readonly changes: readonly EntryChange[] };

const isDocument = (json: unknown): json is Document =>
  typeof json === 'object' && json !== null && 'format' in json && typeof json.format === 'string';

/** Takes a catalogue in from a file, after showing what that would change. */
export function ImportCatalogue({
  house,
  onClose,
}: {
  readonly house: HouseView;
  readonly onClose: () => void;
}) {
  const { mutate } = useSWRConfig();
  const [error, setError] = useState<unknown>();
  const [unfit, setUnfit] = useState<string>();
  const [preview, setPreview] = useState<Preview>();

  const read = async (file: File) => {
    setError(undefined);
    setUnfit(undefined);
    setPreview(undefined);
    if (file.size > catalogueLimitBytes) return setUnfit(`${file.name} is larger than a catalogue (8 MiB).`);
    const text = readJson(await textOfFile(file));
    if (!text.ok) return setUnfit(brokenSentence(file.name, text.broken));
    const json = text.value;
    if (!isDocument(json)) return setUnfit(`${file.name} is JSON, but not a catalogue: it has no “format”.`);
    const document = json;
    try {
      const { changes } = await call(api.previewCatalogue, { body: document });
      setPreview({ document, changes });
    } catch (problem) {
      setError(problem);
    }
  };
  const take = async () => {
    if (!preview) return;
    try {
      const next = await call(api.importCatalogue, {
        body: { version: house.catalogueVersion, document: preview.document },
      });
      await mutate(keys.house, next, { revalidate: false });
      await mutate(manyKeys.catalogueHistory);
      onClose();
    } catch (problem) {
      setError(problem);
    }
  };
  return (
    <Modal show onHide={onClose} size="lg" aria-labelledby="import-catalogue">
      <Modal.Header closeButton>
        <Modal.Title id="import-catalogue" as="h2">
          Import a catalogue
        </Modal.Title>
      </Modal.Header>
      <Modal.Body>
        <DropPlace
          label="Catalogue file"
          title="Drop a catalogue here"
          pick="Pick a file"
          onFiles={([file]) => void (file && read(file))}
        >
          <p className="small-print mb-0 mt-1">
            It replaces the present catalogue. First you see what would change.
          </p>
        </DropPlace>
        <div className="mt-2">
          <Problem error={error} />
          {unfit !== undefined && (
            <p className="notice" role="alert">
              {unfit}
            </p>
          )}
          {preview && (
            <>
              <p aria-live="polite">
                {preview.changes.length === 0
                  ? 'It is the catalogue that is here: nothing would change.'
                  : `${printCount(preview.changes.length, 'entry')} would change:`}
              </p>
              <ul className="check-rows preview-changes">
                {preview.changes.map((change) => (
                  <li key={`${change.kind} ${change.id}`}>
                    <strong>{change.title}</strong>, {change.kind}: {change.what}
                    <ChangedFields fields={[...change.fields]} />
                  </li>
                ))}
              </ul>
            </>
          )}
        </div>
      </Modal.Body>
      <Modal.Footer>
        <Button variant="quiet" onClick={onClose}>
          Cancel
        </Button>
        <Button disabled={!preview || preview.changes.length === 0} onClick={() => void take()}>
          Import
        </Button>
      </Modal.Footer>
    </Modal>
  );
}
