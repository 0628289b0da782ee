import {
  diskMark,
  layoutAfter,
  printBothUnits,
  diskBytes,
  routes,
  segmentsOf,
  systemDisk,
  valueOf,
  type Disk,
  type Fate,
  type Partition,
} from '@ulvane/core';
import { Tape } from '../drawing/Tape';
import { useOpenMove } from './MoveContext';
import { useTarget } from './readings';

/** The disks of the device as tapes: the system's with what the route does to it, the others untouched. */
export function DiskDrawing() {
  const { move } = useOpenMove();
  const target = useTarget();
  const disks = valueOf(move.facts, 'disks') ?? [];
  const system = systemDisk(disks);
  const writesOver = move.decision ? routes[move.decision.routeId].writesOver : 'nothing';
  if (disks.length === 0)
    return (
      <section className="sheet">
        <h2>Disk</h2>
        <p className="mb-0">No disk is known yet: run the collector, or type the disk on Survey.</p>
      </section>
    );
  const fateOf =
    (disk: Disk) =>
    (partition: Partition): Fate => {
      if (disk !== system || writesOver === 'nothing') return 'kept';
      if (writesOver === 'whole-disk') return 'erased';
      return partition.role === 'system' ? 'erased' : partition.role === undefined ? 'unknown' : 'kept';
    };
  return (
    <>
      {disks.map((disk) => {
        const after =
          disk === system && target && writesOver !== 'nothing'
            ? layoutAfter(disk, writesOver, target)
            : undefined;
        return (
          <section className="sheet" key={disk.name}>
            <h2>
              Disk <span className="mono">{diskMark(disk)}</span>, {printBothUnits(diskBytes(disk))}
              {system && disk !== system && <span className="soft">, do not touch</span>}
            </h2>
            <Tape disk={disk} before={segmentsOf(disk, fateOf(disk))} after={after} />
          </section>
        );
      })}
    </>
  );
}
