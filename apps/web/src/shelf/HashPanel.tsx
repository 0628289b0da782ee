import { api, type ShelfView } from '@ulvane/contract';
import { releaseTitle, type Catalogue, type Release } from '@ulvane/core/catalogue';
import { FileEntrySchema } from '@ulvane/core/manifest';
import { checksumGroups, judgeImage, releasesOfImage, signatureStates } from '@ulvane/core/media';
import { printBytes } from '@ulvane/core/quantity';
import { useEffect, useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { call } from '../api/call';
import { useSession } from '../api/useSession';
import { HashProgressView } from '../files/HashProgressView';
import type { HashProgress, HashRun } from '../files/hashRun';
import { Problem } from '../shell/Problem';
import { useDay } from '../shell/useDay';

type HashPanelProps = {
  readonly file: File;
  readonly run: HashRun;
  readonly progress: HashProgress;
  readonly shelf: ShelfView;
  readonly catalogue: Catalogue;
  readonly onAgain: () => void;
  readonly onKept: () => void;
  readonly onClose: () => void;
};

/** The checksum of the one file that was read; null where it could not be. */
async function checksumIn(run: HashRun): Promise<string | null> {
  const [line] = (await run.list().text()).split('\n');
  const entry = FileEntrySchema.safeParse(JSON.parse(line ?? 'null'));
  return entry.success ? entry.data.sha256 : null;
}

/** An image file being hashed under the published checksum; the calculated one appears when the whole file is read. */
export function HashPanel({
  file,
  run,
  progress,
  shelf,
  catalogue,
  onAgain,
  onKept,
  onClose,
}: HashPanelProps) {
  const { state } = progress;
  const [found, setFound] = useState<{ readonly run: HashRun; readonly sha256: string | null }>();
  useEffect(() => {
    if (state !== 'finished') return;
    void checksumIn(run).then(
      (sha256) => setFound({ run, sha256 }),
      () => setFound({ run, sha256: null }),
    );
  }, [state, run]);
  const read = found?.run === run ? found : undefined;
  const sha256 = read?.sha256 ?? null;
  const candidates = releasesOfImage(catalogue.releases, { bytes: file.size, sha256 });
  const [first] = candidates;
  const calculated = sha256 === null ? [] : checksumGroups(sha256);
  return (
    <section className="sheet hash-panel" aria-label={`Checksum of ${file.name}`}>
      <h2>
        {file.name} <span className="soft">{printBytes(file.size, 'decimal')}</span>
      </h2>
      {first ? (
        <ChecksumLine
          label={`Published for ${releaseTitle(first)}`}
          groups={checksumGroups(first.imageSha256)}
          against={calculated}
        />
      ) : (
        <p className="mb-1">
          No release of the catalogue publishes an image of {printBytes(file.size, 'decimal')}
          {sha256 !== null && ' or with this checksum'}.
        </p>
      )}
      {read === undefined ? (
        <HashProgressView run={run} progress={progress} />
      ) : sha256 === null ? (
        <p className="notice" role="alert">
          The file could not be read to its end. Is the drive still there?
        </p>
      ) : (
        <>
          <ChecksumLine
            label="Calculated over the whole file"
            groups={calculated}
            against={first ? checksumGroups(first.imageSha256) : []}
          />
          <KeepImage
            key={sha256}
            found={{ bytes: file.size, sha256 }}
            releases={candidates}
            all={catalogue.releases}
            shelf={shelf}
            onKept={() => {
              onKept();
              onClose();
            }}
          />
        </>
      )}
      <div className="d-flex gap-2 mt-2">
        {(state === 'stopped' || (read && sha256 === null)) && (
          <Button size="sm" onClick={onAgain}>
            Try again
          </Button>
        )}
        <Button size="sm" variant="quiet" onClick={onClose}>
          Close
        </Button>
      </div>
    </section>
  );
}

/** A checksum in sixteen groups; a group that differs from its neighbour is struck. */
function ChecksumLine({
  label,
  groups,
  against,
}: {
  readonly label: string;
  readonly groups: readonly string[];
  readonly against: readonly string[];
}) {
  return (
    <div className="checksum-line">
      <span className="soft">{label}</span>
      <span className="mono checksum-groups">
        {groups.map((group, index) => (
          <span
            // Groups may repeat; their place tells them apart.
            key={`${index} ${group}`}
            className={against.length > 0 && against[index] !== group ? 'differs' : ''}
          >
            {group}
          </span>
        ))}
      </span>
    </div>
  );
}

type KeepImageProps = {
  readonly found: { readonly bytes: number; readonly sha256: string };
  readonly releases: readonly Release[];
  readonly all: readonly Release[];
  readonly shelf: ShelfView;
  readonly onKept: () => void;
};

/** What was found, and putting it on the shelf. */
function KeepImage({ found, releases, all, shelf, onKept }: KeepImageProps) {
  const { session } = useSession();
  const today = useDay();
  const offered = releases.length > 0 ? releases : all;
  const [releaseId, setReleaseId] = useState(offered[0]?.id ?? '');
  const [keptWhere, setKeptWhere] = useState('');
  const [minutes, setMinutes] = useState('');
  const [site, setSite] = useState('');
  const [signature, setSignature] = useState<(typeof signatureStates)[number]>('not-checked');
  const [error, setError] = useState<unknown>();
  const [busy, setBusy] = useState(false);
  const release = all.find(({ id }) => id === releaseId);
  const finding = judgeImage({ ...found, signature }, release);
  const same = shelf.images.find(
    (image) => image.releaseId === releaseId && image.keptWhere === keptWhere.trim(),
  );
  const keep = async () => {
    setBusy(true);
    setError(undefined);
    const seconds = Number(minutes.replace(',', '.')) * 60;
    try {
      await call(api.putImage, {
        params: { id: same?.id ?? crypto.randomUUID() },
        body: {
          version: same?.version ?? 0,
          image: {
            releaseId,
            language: same?.language ?? release?.languages[0] ?? 'en',
            ...found,
            keptWhere,
            source: same?.source ?? release?.imageSources[0] ?? '',
            fetchedOn: today,
            by: session?.account?.name ?? '',
            signature: release?.imageSigned === false ? 'none-published' : signature,
            download: seconds > 0 && site.trim() !== '' ? { seconds, site } : (same?.download ?? null),
          },
        },
      });
      onKept();
    } catch (problem) {
      setError(problem);
    } finally {
      setBusy(false);
    }
  };
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        void keep();
      }}
    >
      <p className={finding.state === 'good' ? 'mb-1' : 'notice'} role="status">
        <strong>{finding.sentence}</strong>
      </p>
      <Problem error={error} />
      <div className="keep-image">
        <Form.Group controlId="image-release">
          <Form.Label>Release</Form.Label>
          <Form.Select value={releaseId} onChange={({ target }) => setReleaseId(target.value)}>
            {offered.map((one) => (
              <option key={one.id} value={one.id}>
                {releaseTitle(one)}
              </option>
            ))}
          </Form.Select>
        </Form.Group>
        <Form.Group controlId="image-place">
          <Form.Label>Kept where</Form.Label>
          <Form.Control
            value={keptWhere}
            onChange={({ target }) => setKeptWhere(target.value)}
            required
            maxLength={200}
          />
        </Form.Group>
        {release?.imageSigned !== false && (
          <Form.Group controlId="image-signature">
            <Form.Label>The maker’s signature</Form.Label>
            <Form.Select
              value={signature}
              onChange={({ target }) =>
                setSignature(signatureStates.find((one) => one === target.value) ?? 'not-checked')
              }
            >
              <option value="not-checked">not checked</option>
              <option value="agrees">agrees</option>
              <option value="differs">differs</option>
            </Form.Select>
          </Form.Group>
        )}
        <Form.Group controlId="image-minutes">
          <Form.Label>Download took, minutes</Form.Label>
          <Form.Control
            value={minutes}
            inputMode="decimal"
            onChange={({ target }) => setMinutes(target.value)}
            placeholder="if it was timed"
          />
        </Form.Group>
        <Form.Group controlId="image-site">
          <Form.Label>Over the line of</Form.Label>
          <Form.Control value={site} onChange={({ target }) => setSite(target.value)} maxLength={100} />
        </Form.Group>
        <Button type="submit" disabled={busy}>
          Put it on the shelf
        </Button>
      </div>
    </form>
  );
}
