import { api, type DriveView, type ImageView } from '@ulvane/contract';
import type { MediumContent } from '@ulvane/core/backup';
import { findRelease, type Catalogue } from '@ulvane/core/catalogue';
import { printBytes, printBothUnits } from '@ulvane/core/quantity';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Modal from 'react-bootstrap/Modal';
import { call } from '../api/call';
import { useMay, useSession } from '../api/useSession';
import { useNow } from '../api/useNow';
import { ProofMark } from '../drawing/ProofMark';
import { Problem } from '../shell/Problem';
import { useDay } from '../shell/useDay';
import { ReadBack } from './ReadBack';
import { gradeOfContent, startWords } from './words';
import { WriteMedium } from './WriteMedium';

type MediumDialogProps = {
  readonly medium: DriveView;
  readonly catalogue: Catalogue;
  readonly images: readonly ImageView[];
  readonly onKept: () => void;
  readonly onClose: () => void;
};

/** What is on a medium, how that is known, and what is done with it. */
export function MediumDialog({ medium, catalogue, images, onKept, onClose }: MediumDialogProps) {
  const may = useMay();
  const { session } = useSession();
  const today = useDay();
  const now = useNow(60_000);
  const [error, setError] = useState<unknown>();
  const [busy, setBusy] = useState(false);
  const [task, setTask] = useState<'write' | number>();
  const by = session?.account?.name ?? '';
  const keep = async (holds: readonly MediumContent[]) => {
    setBusy(true);
    setError(undefined);
    const { id, version, contents: _contents, freeBytes: _freeBytes, ...drive } = medium;
    try {
      await call(api.putDrive, {
        params: { id },
        body: { version, drive: { ...drive, holds: [...holds], seenOn: today } },
      });
      onKept();
      onClose();
    } catch (problem) {
      setError(problem);
    } finally {
      setBusy(false);
    }
  };
  const check = (at: number, result: 'compared' | 'differs') =>
    void keep(
      medium.holds.map((content, index) =>
        index === at ? { ...content, check: { result, at: now, by } } : content,
      ),
    );
  return (
    <Modal show onHide={onClose} size="lg" aria-labelledby="medium-title">
      <Modal.Header closeButton>
        <Modal.Title id="medium-title" as="h2">
          {medium.name} <span className="mono soft">{medium.serial}</span>
        </Modal.Title>
      </Modal.Header>
      <Modal.Body>
        <Problem error={error} />
        <p className="soft">
          {printBothUnits(medium.capacityBytes)}
          {medium.seenOn === null
            ? '; what is on it is not known: plug it in and look.'
            : `; looked at ${medium.seenOn}${medium.seenAt && `, ${medium.seenAt}`}.`}
        </p>
        {medium.holds.length === 0 && medium.seenOn !== null && <p>It is empty.</p>}
        <ul className="check-rows">
          {medium.holds.map((content, index) => {
            const grade = gradeOfContent(content);
            return (
              <li key={`${content.title} ${content.writtenOn}`}>
                <strong>{content.title}</strong>, {startWords(content)},{' '}
                {printBytes(content.bytes, 'decimal')}; written {content.writtenOn} by {content.by}
                {content.skips.length > 0 &&
                  `; skips the checks of ${content.skips.map((kind) => kind.replaceAll('-', ' ')).join(', ')}`}
                <div>
                  <ProofMark mark={grade.mark} label="" /> {grade.words}
                  {content.check && `; ${content.check.by}, ${content.check.at.slice(0, 10)}`}
                  {may.write && task !== index && (
                    <>
                      {' '}
                      <button type="button" className="btn-plain" onClick={() => setTask(index)}>
                        Compare {content.title}
                      </button>
                    </>
                  )}
                </div>
                {task === index && (
                  <ReadBack
                    content={content}
                    release={findRelease(catalogue, content.releaseId)}
                    busy={busy}
                    onFound={(result) => check(index, result)}
                  />
                )}
              </li>
            );
          })}
        </ul>
        {task === 'write' && (
          <WriteMedium
            medium={medium}
            catalogue={catalogue}
            images={images}
            busy={busy}
            onWritten={(content) =>
              void keep([
                ...(medium.kind === 'stick' ? [] : medium.holds),
                { ...content, writtenOn: today, by },
              ])
            }
          />
        )}
      </Modal.Body>
      <Modal.Footer>
        {may.write && medium.kind !== 'disc' && (medium.holds.length > 0 || medium.seenOn === null) && (
          <Button
            variant="quiet"
            disabled={busy}
            onClick={() => {
              if (
                medium.holds.length > 0 &&
                !window.confirm(`Is ${medium.name} empty? What is noted of it goes.`)
              )
                return;
              void keep([]);
            }}
          >
            It is empty
          </Button>
        )}
        {may.write && task !== 'write' && (
          <Button variant="quiet" onClick={() => setTask('write')}>
            {medium.holds.length === 0 ? 'Note what is on it' : 'Note what was written to it'}
          </Button>
        )}
        <Button onClick={onClose}>Close</Button>
      </Modal.Footer>
    </Modal>
  );
}
