import { releaseTitle } from '@ulvane/core/catalogue';
import { useMemo, useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { useHouse } from '../api/useHouse';
import { Field } from '../shell/Field';
import { Conversion } from './Conversion';
import { ConversionResult } from './ConversionResult';
import { convertOpen, plannerFor } from './diskWorker';
import { DropImage } from './DropImage';
import { Layout } from './Layout';
import { FixTable } from './FixTable';
import { ProblemList } from './ProblemList';
import { InstallerBox, ShrinkDialogBox } from './SizeBoxes';
import { TableRead } from './TableRead';
import { Undo } from './Undo';
import { useOpenImage } from './useOpenImage';

/** Any disk's image, without a move: read, converted, laid out; and the arithmetic of size boxes. */
export function DiskBench() {
  const { image, problems, sectorSizeBytes, take, readAs, close } = useOpenImage(null);
  const { house } = useHouse();
  const [releaseId, setReleaseId] = useState('');
  const release = house?.catalogue.releases.find(({ id }) => id === releaseId);
  const table = image?.table;
  const planner = useMemo(() => (table ? plannerFor(table, {}) : undefined), [table]);
  return (
    <>
      <title>Disk bench · Ulvane</title>
      <div className="page-head">
        <h1>Disk bench</h1>
        <span className="soft">
          partition tables as they are, and what to type for the one that is wanted
        </span>
      </div>
      <div className="columns wide-left">
        <div>
          <section className="sheet">
            <h2>Image of a disk</h2>
            <DropImage partsAllowed={false} onFiles={(files) => void take(files)} />
            <ProblemList problems={problems} />
            {image && table && (
              <>
                <div className="d-flex gap-2 align-items-end mt-2 mb-1">
                  <strong className="me-auto">{image.name}</strong>
                  <Button
                    size="sm"
                    variant="quiet"
                    onClick={() => void readAs(sectorSizeBytes === 512 ? 4096 : 512)}
                  >
                    Read with sectors of {sectorSizeBytes === 512 ? '4,096' : '512'} bytes
                  </Button>
                  <Button size="sm" variant="quiet" onClick={close}>
                    Close the image
                  </Button>
                </div>
                {image.otherSize && (
                  <p className="notice" role="status">
                    The image says that its sectors have {sectorSizeBytes.toLocaleString('en')} bytes: it was
                    read so.
                  </p>
                )}
                <TableRead table={table} name={image.name} />
              </>
            )}
          </section>
          {image && table && <FixTable key={image.opening} name={image.name} serial={null} table={table} />}
        </div>
        <div>
          <section className="sheet">
            <h2>Installer’s size box</h2>
            <Field label="Release" hint="Its own small partitions are added">
              {(ids) => (
                <Form.Select
                  {...ids}
                  value={releaseId}
                  onChange={(event) => setReleaseId(event.target.value)}
                >
                  <option value="">none: it makes no partition of its own</option>
                  {house?.catalogue.releases.map((one) => (
                    <option key={one.id} value={one.id}>
                      {releaseTitle(one)}
                    </option>
                  ))}
                </Form.Select>
              )}
            </Field>
            <InstallerBox
              key={releaseId}
              ownPartitionBytes={release?.installerPartitions.map(({ sizeBytes }) => sizeBytes) ?? []}
              start="90 GiB"
            />
          </section>
          <section className="sheet">
            <h2>Shrink dialog</h2>
            <ShrinkDialogBox presentBytes={undefined} />
          </section>
          {image && <Undo name={image.name} kept={null} />}
        </div>
      </div>
      {image && table && planner && (
        <>
          {table.scheme !== 'none' && (
            <Conversion key={`convert ${image.opening}`} name={image.name} table={table} ask={convertOpen}>
              {(plan) => <ConversionResult name={image.name} serial={null} of={plan} result={plan.target} />}
            </Conversion>
          )}
          <Layout
            key={`layout ${image.opening}`}
            name={image.name}
            table={table}
            release={release}
            planner={planner}
          />
        </>
      )}
    </>
  );
}
