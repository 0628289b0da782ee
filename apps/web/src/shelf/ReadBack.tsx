import type { MediumContent } from '@ulvane/core/backup';
import type { Release } from '@ulvane/core/catalogue';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { compareLists } from '../files/compareLists';
import { Field } from '../shell/Field';

type ReadBackProps = {
  readonly content: MediumContent;
  readonly release: Release | undefined;
  readonly busy: boolean;
  readonly onFound: (result: 'compared' | 'differs') => void;
};

/** Reads a medium back: block by block against the published checksum, or its files against those of the image. */
export function ReadBack({ content, release, busy, onFound }: ReadBackProps) {
  const [typed, setTyped] = useState('');
  const [image, setImage] = useState<File>();
  const [stick, setStick] = useState<File>();
  const [unfit, setUnfit] = useState<string>();
  const sum = typed.trim().split(/\s/)[0]?.toLowerCase() ?? '';
  const isWhole = /^[0-9a-f]{64}$/.test(sum);
  const compareFiles = async () => {
    if (!image || !stick) return;
    setUnfit(undefined);
    try {
      const { counts } = await compareLists(image, stick);
      // What a computer adds to a stick by itself is no difference; what the image has is all there, and the same.
      onFound(counts.changed + counts.missing === 0 && counts.same > 0 ? 'compared' : 'differs');
    } catch (problem) {
      setUnfit(problem instanceof Error ? problem.message : 'The lists could not be compared.');
    }
  };
  return (
    <div className="read-back">
      {release && (
        <form
          onSubmit={(event) => {
            event.preventDefault();
            if (isWhole) onFound(sum === release.imageSha256 ? 'compared' : 'differs');
          }}
        >
          <p className="mb-1">
            Written block by block: read just the image’s bytes back and paste the checksum.{' '}
            <code>head -c {release.imageBytes} /dev/the-stick | sha256sum</code>
          </p>
          <div className="d-flex gap-2 align-items-end">
            <Field label="SHA-256 that was read back">
              {(ids) => (
                <Form.Control
                  {...ids}
                  className="mono"
                  size="sm"
                  value={typed}
                  onChange={({ target }) => setTyped(target.value)}
                />
              )}
            </Field>
            <Button size="sm" type="submit" disabled={busy || !isWhole}>
              Compare with the published one
            </Button>
          </div>
          {typed.trim() !== '' && !isWhole && (
            <p className="small-print" role="status">
              64 figures, 0 to 9 and a to f; these are {sum.length}.
            </p>
          )}
        </form>
      )}
      <p className="mb-1">
        Copied file by file: a checksum list of the image’s files, and one of {content.title} on it.
      </p>
      <div className="d-flex gap-2 align-items-end">
        <Field label="List of the image’s files">
          {(ids) => (
            <Form.Control
              {...ids}
              type="file"
              size="sm"
              onChange={({ target }) => setImage((target as HTMLInputElement).files?.[0])}
            />
          )}
        </Field>
        <Field label="List of the medium’s files">
          {(ids) => (
            <Form.Control
              {...ids}
              type="file"
              size="sm"
              onChange={({ target }) => setStick((target as HTMLInputElement).files?.[0])}
            />
          )}
        </Field>
        <Button
          size="sm"
          variant="quiet"
          disabled={busy || !image || !stick}
          onClick={() => void compareFiles()}
        >
          Compare the lists
        </Button>
      </div>
      {unfit !== undefined && (
        <p className="notice" role="alert">
          {unfit}
        </p>
      )}
    </div>
  );
}
