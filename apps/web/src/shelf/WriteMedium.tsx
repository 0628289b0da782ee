import type { DriveView, ImageView } from '@ulvane/contract';
import { mediumModes, type MediumContent } from '@ulvane/core/backup';
import { findRelease, releaseTitle, type Catalogue } from '@ulvane/core/catalogue';
import { judgeImage, mediumMinutes } from '@ulvane/core/media';
import { gigabyteBytes, printMinutes } from '@ulvane/core/quantity';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { Field } from '../shell/Field';
import { modeWords } from './words';

type WriteMediumProps = {
  readonly medium: DriveView;
  readonly catalogue: Catalogue;
  readonly images: readonly ImageView[];
  readonly busy: boolean;
  readonly onWritten: (content: Omit<MediumContent, 'writtenOn' | 'by'>) => void;
};

/** A size read off a list may be rounded: two parts in a hundred. */
const sizeTolerance = 0.02;

/** What was written to a medium: the one in the hand is identified by its serial number and size first. */
export function WriteMedium({ medium, catalogue, images, busy, onWritten }: WriteMediumProps) {
  const [releaseId, setReleaseId] = useState(images[0]?.releaseId ?? catalogue.releases[0]?.id ?? '');
  const [mode, setMode] = useState<MediumContent['mode']>('uefi');
  const [skips, setSkips] = useState<MediumContent['skips']>([]);
  const [serialEnd, setSerialEnd] = useState('');
  const [size, setSize] = useState('');
  const release = findRelease(catalogue, releaseId);
  if (!release) return <p className="notice">The catalogue has no release.</p>;
  const waivable = release.requirements.flatMap((one) => ('waiver' in one && one.waiver ? [one.kind] : []));
  const image = images.find((one) => one.releaseId === releaseId);
  const finding = image && judgeImage(image, release);
  const isSerial =
    medium.serial === '' ||
    (serialEnd.trim().length >= 4 && medium.serial.toLowerCase().endsWith(serialEnd.trim().toLowerCase()));
  const bytes = Number(size.replace(',', '.')) * gigabyteBytes;
  const isSize = Math.abs(bytes - medium.capacityBytes) <= medium.capacityBytes * sizeTolerance;
  const fits = release.imageBytes <= medium.capacityBytes;
  const bad = finding?.state === 'differs';
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        onWritten({
          releaseId,
          title: releaseTitle(release),
          mode,
          scheme: medium.kind === 'disc' ? 'none' : mode === 'uefi' ? 'gpt' : 'mbr',
          bytes: release.imageBytes,
          skips,
          check: null,
        });
      }}
    >
      <p className="caution">
        everything on {medium.name} is erased when it is written. Ulvane writes nothing itself: write it with
        your tool, about {printMinutes(mediumMinutes(release.imageBytes, medium))}, then note it here.
      </p>
      <div className="row">
        <div className="col-6">
          <Field label="Release">
            {(ids) => (
              <Form.Select
                {...ids}
                value={releaseId}
                onChange={({ target }) => {
                  setReleaseId(target.value);
                  setSkips([]);
                }}
              >
                {catalogue.releases.map((one) => (
                  <option key={one.id} value={one.id}>
                    {releaseTitle(one)}
                  </option>
                ))}
              </Form.Select>
            )}
          </Field>
        </div>
        <div className="col-6">
          <Field label="Starts in">
            {(ids) => (
              <Form.Select
                {...ids}
                value={mode}
                onChange={({ target }) => setMode(mediumModes.find((one) => one === target.value) ?? 'uefi')}
              >
                {mediumModes.map((one) => (
                  <option key={one} value={one}>
                    {modeWords[one]}
                  </option>
                ))}
              </Form.Select>
            )}
          </Field>
        </div>
        <div className="col-6">
          <Field
            label="Serial number, its end"
            hint={
              medium.serial === ''
                ? 'None is in the inventory'
                : 'At least four characters, read off the device'
            }
          >
            {(ids) => (
              <Form.Control
                {...ids}
                className="mono"
                value={serialEnd}
                onChange={({ target }) => setSerialEnd(target.value)}
              />
            )}
          </Field>
        </div>
        <div className="col-6">
          <Field label="Size in GB, as its list shows it" hint="Decimal gigabytes">
            {(ids) => (
              <Form.Control
                {...ids}
                inputMode="decimal"
                value={size}
                onChange={({ target }) => setSize(target.value)}
              />
            )}
          </Field>
        </div>
      </div>
      {waivable.length > 0 && (
        <fieldset className="mb-2">
          <legend className="form-label">Checks that it was made to skip</legend>
          {waivable.map((kind) => (
            <Form.Check
              inline
              key={kind}
              id={`skips-${kind}`}
              checked={skips.includes(kind)}
              onChange={({ target }) =>
                setSkips(target.checked ? [...skips, kind] : skips.filter((one) => one !== kind))
              }
              label={kind.replaceAll('-', ' ')}
            />
          ))}
        </fieldset>
      )}
      {serialEnd.trim() !== '' && !isSerial && (
        <p className="notice" role="status">
          The serial number of {medium.name} does not end so: is it another stick?
        </p>
      )}
      {size.trim() !== '' && !isSize && (
        <p className="notice" role="status">
          {medium.name} has {(medium.capacityBytes / gigabyteBytes).toFixed(1)} GB: is it another stick?
        </p>
      )}
      {!fits && <p className="notice">The image does not fit on it.</p>}
      {bad && <p className="notice">The image at hand: {finding.sentence}</p>}
      <Button type="submit" disabled={busy || !isSerial || !isSize || !fits || bad}>
        It is written
      </Button>
    </form>
  );
}
