import { segmentsOf, type Segment } from '@ulvane/core/disk';
import { printBothUnits } from '@ulvane/core/quantity';
import { diskBytes, diskMark, type Disk } from '@ulvane/core/survey';
import { Tape } from '../drawing/Tape';

type DiskSheetProps = {
  readonly disk: Disk;
  /** The move does not write to it. */
  readonly untouched?: boolean;
  readonly before?: readonly Segment[];
  readonly after?: readonly Segment[] | undefined;
};

/** A surveyed disk with its marks and its tape. */
export function DiskSheet({ disk, untouched = false, before, after }: DiskSheetProps) {
  return (
    <section className={`sheet${untouched ? ' untouched' : ''}`}>
      <h2>
        Disk <span className="mono">{diskMark(disk)}</span>, {printBothUnits(diskBytes(disk))}
        {untouched && <span className="do-not-touch">do not touch</span>}
      </h2>
      <Tape
        name={diskMark(disk)}
        sectorSizeBytes={disk.sectorBytes}
        sectorCount={disk.sectorCount}
        before={before ?? segmentsOf(disk, () => 'kept')}
        after={after}
      />
    </section>
  );
}
