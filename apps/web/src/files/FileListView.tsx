import { api, type ListFormat } from '@ulvane/contract';
import type { FileListHead } from '@ulvane/core/backup';
import { printBytes, printCount } from '@ulvane/core/quantity';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import Modal from 'react-bootstrap/Modal';
import useSWR from 'swr';
import { addressOf, call } from '../api/call';
import { keys } from '../api/keys';
import { Loading } from '../shell/Loading';
import { Problem } from '../shell/Problem';

type FileListViewProps = {
  readonly reference: string;
  readonly list: FileListHead;
  readonly title: string;
  readonly onClose: () => void;
};

const pageRows = 200;

const exports: readonly { readonly format: ListFormat; readonly title: string }[] = [
  { format: 'checksum-list', title: 'Checksum list' },
  { format: 'bag-manifest', title: 'Bag: manifest-sha256.txt' },
  { format: 'bag-info', title: 'bag-info.txt' },
  { format: 'bag-declaration', title: 'bagit.txt' },
  { format: 'bag-tag-manifest', title: 'tagmanifest-sha256.txt' },
  { format: 'csv', title: 'CSV' },
];

/** A list of files, a page at a time; searched, and exported. */
export function FileListView({ reference, list, title, onClose }: FileListViewProps) {
  const [starts, setStarts] = useState<readonly number[]>([-1]);
  const [search, setSearch] = useState('');
  const after = starts.at(-1) ?? -1;
  const params = { reference, listId: list.id };
  const { data, error } = useSWR(keys.files(list.id, after, search), () =>
    call(api.files, { params, query: { after, limit: pageRows, search } }),
  );
  const last = data?.files.at(-1)?.ordinal;
  return (
    <Modal show onHide={onClose} size="xl" scrollable aria-labelledby="file-list-view">
      <Modal.Header closeButton>
        <Modal.Title id="file-list-view" as="h2">
          {title}: {printCount(list.fileCount, 'file')}
        </Modal.Title>
      </Modal.Header>
      <Modal.Body>
        <div className="d-flex gap-2 align-items-center flex-wrap mb-2">
          <Form.Control
            size="sm"
            style={{ maxWidth: '18rem' }}
            type="search"
            aria-label="Search in paths"
            placeholder="Search in paths"
            value={search}
            onChange={({ target }) => {
              setSearch(target.value);
              setStarts([-1]);
            }}
          />
          <span className="soft">Export:</span>
          {exports.map((one) => (
            <a
              key={one.format}
              className="btn btn-quiet btn-sm"
              href={addressOf(api.exportFileList, { params, query: { format: one.format } })}
              download
            >
              {one.title}
            </a>
          ))}
        </div>
        <Problem error={error} />
        {!data && error === undefined && <Loading what="the files" />}
        {data && (
          <table className="table">
            <thead>
              <tr>
                <th scope="col">Path</th>
                <th scope="col" className="number">
                  Bytes
                </th>
                <th scope="col">SHA-256</th>
              </tr>
            </thead>
            <tbody>
              {data.files.map(({ ordinal, path, sizeBytes, sha256, trouble }) => (
                <tr key={ordinal}>
                  <td className="mono path">{path}</td>
                  <td className="number">
                    {sizeBytes === null ? 'unknown' : printBytes(sizeBytes, 'decimal')}
                  </td>
                  <td className="mono small-print">
                    {sha256 ?? (trouble ?? 'unknown').replaceAll('-', ' ')}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
        {data?.files.length === 0 && <p className="empty">No path has that in it.</p>}
      </Modal.Body>
      <Modal.Footer>
        <Button
          size="sm"
          variant="quiet"
          disabled={starts.length < 2}
          onClick={() => setStarts(starts.slice(0, -1))}
        >
          Earlier
        </Button>
        <Button
          size="sm"
          variant="quiet"
          disabled={last === undefined || (data?.files.length ?? 0) < pageRows}
          onClick={() => last !== undefined && setStarts([...starts, last])}
        >
          Later
        </Button>
        <Button onClick={onClose}>Close</Button>
      </Modal.Footer>
    </Modal>
  );
}
