import { useRef, useState } from 'react';
import Button from 'react-bootstrap/Button';
import { UnfitFile } from '../api/call';
import { Problem } from '../shell/Problem';
import type { FoundFile } from './hashRun';
import { droppedFiles, pickedFiles } from './walk';

type PickFolderProps = {
  readonly label: string;
  readonly onFound: (files: readonly FoundFile[]) => void;
};

/** A folder is picked, or dropped; its files are found, and nothing of them leaves the computer yet. */
export function PickFolder({ label, onFound }: PickFolderProps) {
  const input = useRef<HTMLInputElement>(null);
  const [over, setOver] = useState(false);
  const [walking, setWalking] = useState<number>();
  const [empty, setEmpty] = useState(false);
  const [fault, setFault] = useState<unknown>();
  const walk = (found: Promise<readonly FoundFile[]>) => {
    setFault(undefined);
    setWalking(0);
    found.then(take, (problem: unknown) => {
      setWalking(undefined);
      setFault(
        problem instanceof DOMException
          ? new UnfitFile(
              'A folder cannot be read: its drive was unplugged, or the browser may not. Pick it again.',
            )
          : problem,
      );
    });
  };
  const take = (files: readonly FoundFile[]) => {
    setWalking(undefined);
    setEmpty(files.length === 0);
    if (files.length > 0) onFound(files);
  };
  return (
    <>
      <div
        className={`drop${over ? ' over' : ''}`}
        onDragOver={(event) => {
          event.preventDefault();
          setOver(true);
        }}
        onDragLeave={() => setOver(false)}
        onDrop={(event) => {
          event.preventDefault();
          setOver(false);
          const entries = Array.from(event.dataTransfer.items, (item) => item.webkitGetAsEntry()).filter(
            (entry) => entry !== null,
          );
          walk(droppedFiles(entries, setWalking));
        }}
      >
        <input
          ref={input}
          type="file"
          className="visually-hidden"
          tabIndex={-1}
          aria-label={label}
          // Not in React's types: the whole folder is picked.
          {...{ webkitdirectory: '' }}
          onChange={({ target }) => {
            if (!target.files) return;
            walk(pickedFiles(target.files, setWalking));
          }}
        />
        <strong>Drop the folder here</strong>{' '}
        <Button size="sm" onClick={() => input.current?.click()}>
          Pick the folder
        </Button>
        <p className="small-print mb-0 mt-1">
          Every file is read in this browser and its SHA-256 computed here. Names, sizes and checksums go to
          Ulvane’s server; the files do not.
        </p>
        <p className="small-print mb-0 mt-1">
          A browser does not see links, access rights, empty folders, or which names have a backslash: where
          these matter, import a checksum list that was made on the device.
        </p>
      </div>
      {walking !== undefined && <p role="status">Looking through the folders: {walking} files so far …</p>}
      <Problem error={fault} />
      {empty && (
        <p className="notice mt-2" role="alert">
          There is no file in that folder: nothing was recorded. Is it the right one?
        </p>
      )}
    </>
  );
}
