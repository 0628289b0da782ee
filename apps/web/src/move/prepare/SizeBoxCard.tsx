import { api } from '@ulvane/contract';
import { explainSizeBox, parseBytes, printBytes, printExactBytes, sizeBox, type Release } from '@ulvane/core';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { useChange } from '../../api/useMove';
import { useMay } from '../../api/useSession';
import { Field } from '../../shell/Field';
import { Problem } from '../../shell/Problem';
import { useOpenMove } from '../MoveContext';

/** What to type into the installer's size box for a wanted system size. */
export function SizeBoxCard({ release }: { readonly release: Release }) {
  const { view, move } = useOpenMove();
  const { change, error, busy } = useChange(view);
  const may = useMay();
  const kept = move.preparation.wantedSystemBytes;
  const [text, setText] = useState(() => (kept === null ? '90 GiB' : printExactBytes(kept, 'binary')));
  const wanted = parseBytes(text, 'binary');
  const box = wanted.ok
    ? sizeBox(
        wanted.value,
        release.installerPartitions.map(({ sizeBytes }) => sizeBytes),
      )
    : wanted;
  const problem = box.ok ? undefined : box.problems[0]?.sentence;
  return (
    <section className="sheet">
      <h2>Size box</h2>
      <Problem error={error} />
      <Field
        label="The system shall get"
        hint="In GB or GiB; the box of the installer means MiB"
        error={problem}
      >
        {(ids) => <Form.Control {...ids} value={text} onChange={(event) => setText(event.target.value)} />}
      </Field>
      {box.ok && (
        <>
          <p className="size-box-result mb-1">
            Type <strong>{box.value.typeMebibytes}</strong>{' '}
            <span className="soft">(MiB, though it may say MB)</span>
          </p>
          <p className="soft mb-2">
            {explainSizeBox(box.value)} Typed as whole GB × 1000 it would come out{' '}
            {printBytes(Math.abs(box.value.missingBytes), 'binary')} too{' '}
            {box.value.missingBytes >= 0 ? 'small' : 'large'}.
          </p>
        </>
      )}
      {may.write && move.handover.signedOff === null && (
        <span className="d-flex gap-2">
          <Button
            size="sm"
            variant="quiet"
            disabled={busy || !wanted.ok || !box.ok}
            onClick={() =>
              wanted.ok && void change(api.prepare, { preparation: { wantedSystemBytes: wanted.value } })
            }
          >
            Put it into the runbook
          </Button>
          {kept !== null && (
            <Button
              size="sm"
              variant="quiet"
              disabled={busy}
              onClick={() => void change(api.prepare, { preparation: { wantedSystemBytes: null } })}
            >
              Take it out
            </Button>
          )}
        </span>
      )}
    </section>
  );
}
