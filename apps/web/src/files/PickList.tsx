import type { ListKind } from '@ulvane/core/manifest';
import { printCount } from '@ulvane/core/quantity';
import { proxy } from 'comlink';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { DropPlace } from '../shell/DropPlace';
import type { ListReading } from '../workers/files.worker';
import { startFilesWork } from './filesWork';

export type TakenList = Extract<ListReading, { ok: true }> & { readonly kind: ListKind };

type PickListProps = { readonly onRead: (list: TakenList | undefined) => void };

const titles = { 'checksum-list': 'a checksum list', bag: 'a bag’s manifest', csv: 'a CSV list' } as const;

/** The list that was picked, and the papers of its bag that came with it. */
type Given = { readonly file: File | undefined; readonly papers: readonly File[] };

type Reading = { readonly share: number; readonly stop: () => void };

/** A list that was made elsewhere is read in a worker: what was put right is told, what is wrong refused by line. */
export function PickList({ onRead }: PickListProps) {
  const [{ file, papers }, setGiven] = useState<Given>({ file: undefined, papers: [] });
  const [unfit, setUnfit] = useState<string>();
  const [reading, setReading] = useState<Reading>();
  const [found, setFound] = useState<ListReading & { readonly kind: ListKind }>();
  const read = async (picked: File, papers: readonly File[] = [], below?: string) => {
    setGiven({ file: picked, papers });
    setFound(undefined);
    onRead(undefined);
    const { remote, end } = startFilesWork();
    setReading({
      share: 0,
      stop: () => {
        end();
        setReading(undefined);
      },
    });
    const known = await remote.kindOf(picked);
    const kind = known.ok ? known.value : 'checksum-list';
    const list = known.ok
      ? await remote.readList(
          picked,
          kind,
          below,
          proxy((share: number) => setReading((now) => now && { ...now, share })),
        )
      : known;
    const disagreeing =
      list.ok && papers.length > 0 ? await remote.checkBag([picked, ...papers], list.summary.fileCount) : [];
    const answer: ListReading = disagreeing.length > 0 ? { ok: false, problems: disagreeing } : list;
    end();
    setReading(undefined);
    setFound({ ...answer, kind });
    if (answer.ok) onRead({ ...answer, kind });
  };
  const take = (picked: readonly File[]) => {
    setUnfit(undefined);
    const [only] = picked;
    const manifest = picked.find(({ name }) => /^manifest-sha256\.txt$/i.test(name));
    if (picked.length === 1 && only) void read(only);
    else if (manifest)
      void read(
        manifest,
        picked.filter((one) => one !== manifest),
      );
    else setUnfit('Several files: choose one list, or the files of one bag, with manifest-sha256.txt.');
  };
  const root =
    found && !found.ok ? found.problems.find(({ code }) => code === 'common-folder')?.path : undefined;
  return (
    <>
      <DropPlace label="List of files" title="Drop a list here" pick="Pick a list" multiple onFiles={take}>
        <p className="small-print mb-0 mt-1">
          A checksum list (SHA-256, two spaces, path), a bag’s manifest-sha256.txt (RFC 8493), or a CSV whose
          first row names the columns: path, bytes, time, sha256. The other papers of a bag may come with its
          manifest: they are compared with one another.
        </p>
      </DropPlace>
      {unfit !== undefined && (
        <p className="notice mt-2" role="alert">
          {unfit}
        </p>
      )}
      {reading && (
        <div className="mt-2">
          <progress max={1} value={reading.share} className="w-100" aria-label="Share of the list read" />
          <Button size="sm" variant="quiet" className="mt-2" onClick={reading.stop}>
            Stop
          </Button>
        </div>
      )}
      {found?.ok && (
        <div className="mt-2" role="status">
          <p className="mb-1">
            {file?.name} is {titles[found.kind]}:{' '}
            <strong>{printCount(found.summary.fileCount, 'file')}</strong>
            {found.summary.withoutDigest > 0 &&
              `, ${found.summary.withoutDigest.toLocaleString('en')} of them without a checksum`}
            {found.summary.withoutSize > 0 &&
              (found.summary.withoutSize === found.summary.fileCount
                ? ', without sizes'
                : `, ${found.summary.withoutSize.toLocaleString('en')} without a size`)}
            .
          </p>
          {papers.length > 0 && (
            <p className="small-print mb-0">
              The bag’s papers agree with one another: {[file, ...papers].map((one) => one?.name).join(', ')}.
            </p>
          )}
          {found.notes.map(({ code, sentence }) => (
            <p key={code} className="small-print mb-0">
              {sentence}
            </p>
          ))}
        </div>
      )}
      {found && !found.ok && (
        <div className="notice mt-2" role="alert">
          <p className="mb-1">{file?.name} cannot be imported as it is. Nothing was recorded.</p>
          <ul className="mb-1">
            {found.problems.slice(0, 12).map(({ path, sentence }) => (
              <li key={path + sentence}>{sentence}</li>
            ))}
          </ul>
          {found.problems.length > 12 && <p className="mb-1">and {found.problems.length - 12} more</p>}
          {root !== undefined && file && (
            <Button size="sm" onClick={() => void read(file, papers, root)}>
              Read it as relative to {root}
            </Button>
          )}
        </div>
      )}
    </>
  );
}
