import { api } from '@ulvane/contract';
import type { Release } from '@ulvane/core/catalogue';
import { printExactBytes } from '@ulvane/core/quantity';
import { isClosed } from '@ulvane/core/record';
import { shareOfDisk, type RunbookInput } from '@ulvane/core/runbook';
import Button from 'react-bootstrap/Button';
import { useChange } from '../../api/useMove';
import { useMay } from '../../api/useSession';
import { InstallerBox } from '../../disk/SizeBoxes';
import { Problem } from '../../shell/Problem';
import { useOpenMove } from '../MoveContext';

type SizeBoxCardProps = { readonly release: Release; readonly input: RunbookInput | undefined };

/** What to type into the installer's size box for a wanted system size. */
export function SizeBoxCard({ release, input }: SizeBoxCardProps) {
  const { view, move } = useOpenMove();
  const { change, error, busy } = useChange(view);
  const may = useMay();
  const kept = move.preparation.wantedSystemBytes;
  const share = input && shareOfDisk(input);
  const proposed = share && share.restBytes > 0 ? printExactBytes(share.systemBytes, 'decimal') : '90 GiB';
  const note = (wantedSystemBytes: number | null) =>
    void change(api.prepare, { preparation: { wantedSystemBytes } });
  return (
    <section className="sheet">
      <h2>Size box</h2>
      <Problem error={error} />
      <InstallerBox
        ownPartitionBytes={release.installerPartitions.map(({ sizeBytes }) => sizeBytes)}
        start={kept === null ? proposed : printExactBytes(kept, 'binary')}
      >
        {(wantedBytes) =>
          may.write &&
          !isClosed(move) && (
            <span className="d-flex gap-2">
              <Button size="sm" variant="quiet" disabled={busy} onClick={() => note(wantedBytes)}>
                Add to the runbook
              </Button>
              {kept !== null && (
                <Button size="sm" variant="quiet" disabled={busy} onClick={() => note(null)}>
                  Remove
                </Button>
              )}
            </span>
          )
        }
      </InstallerBox>
    </section>
  );
}
