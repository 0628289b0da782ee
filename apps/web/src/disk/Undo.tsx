import type { WritesFile } from '@ulvane/core/disk';
import { brokenSentence, readJson, type Problem } from '@ulvane/core/outcome';
import { useRef, useState } from 'react';
import Button from 'react-bootstrap/Button';
import { diskWorker } from './diskWorker';
import { DownloadLink } from './DownloadLink';
import { ProblemList } from './ProblemList';
import { TableRead } from './TableRead';
import { textOfFile } from '../shell/textOfFile';

type UndoProps = {
  readonly name: string;
  /** The capsule that the move keeps of this disk. */
  readonly kept: WritesFile | null;
};

type Undone = Extract<
  Awaited<ReturnType<ReturnType<typeof diskWorker>['undo']>>,
  { readonly ok: true }
>['value'];

/** Takes an undo capsule to the image that is open: refused where the disk is another or was changed since. */
export function Undo({ name, kept }: UndoProps) {
  const input = useRef<HTMLInputElement>(null);
  const [problems, setProblems] = useState<readonly Problem[]>([]);
  const [undone, setUndone] = useState<Undone>();
  const undo = async (document: unknown) => {
    const outcome = await diskWorker().undo(document);
    setProblems(outcome.ok ? [] : outcome.problems);
    setUndone(outcome.ok ? outcome.value : undefined);
  };
  const take = async (file: File) => {
    const text = readJson(await textOfFile(file));
    if (text.ok) await undo(text.value);
    else setProblems([{ code: 'not-json', path: '', sentence: brokenSentence(file.name, text.broken) }]);
  };
  return (
    <section className="sheet">
      <h2>Undo a conversion</h2>
      <p className="mb-2">
        A capsule holds the old sectors. Taken to the converted image, it gives the disk back as it was, to
        the byte.
      </p>
      <input
        ref={input}
        type="file"
        accept=".json,application/json"
        className="visually-hidden"
        tabIndex={-1}
        aria-label="Undo capsule"
        onChange={({ target }) => {
          const [file] = target.files ?? [];
          if (file) void take(file);
          target.value = '';
        }}
      />
      <span className="d-flex gap-2">
        <Button size="sm" variant="quiet" onClick={() => input.current?.click()}>
          Pick a capsule
        </Button>
        {kept && (
          <Button size="sm" variant="quiet" onClick={() => void undo(kept)}>
            Use the one saved with the move
          </Button>
        )}
      </span>
      <ProblemList problems={problems} />
      {undone && (
        <div className="mt-2">
          <p role="status" className="mb-1">
            Undone: {undone.places} places hold their old sectors again.
          </p>
          <TableRead table={undone.table} name={name} />
          {undone.image && (
            <DownloadLink content={undone.image} name={`${name}-undone.img`}>
              Save the restored image
            </DownloadLink>
          )}
        </div>
      )}
    </section>
  );
}
