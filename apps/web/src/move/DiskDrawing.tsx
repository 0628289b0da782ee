import {
  diskMark,
  layoutAfter,
  printBothUnits,
  diskBytes,
  diskToWrite,
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
  const route = move.decision ? routes[move.decision.routeId] : undefined;
  const writesOver = route?.writesOver ?? 'nothing';
  const written = route && writesOver !== 'nothing' ? diskToWrite(move.facts, route) : undefined;
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
      if (disk !== written) return 'kept';
      if (writesOver !== 'system-partition') return 'erased';
      return partition.role === 'system' ? 'erased' : partition.role === undefined ? 'unknown' : 'kept';
    };
  return (
    <>
      {disks.map((disk) => {
        const after =
          disk === written && target
            ? layoutAfter(disk, writesOver === 'system-partition' ? 'system-partition' : 'whole-disk', target)
            : undefined;
        return (
          <section className="sheet" key={disk.name}>
            <h2>
              Disk <span className="mono">{diskMark(disk)}</span>, {printBothUnits(diskBytes(disk))}
              {system && disk !== (written ?? system) && <span className="soft">, do not touch</span>}
            </h2>
            <Tape disk={disk} before={segmentsOf(disk, fateOf(disk))} after={after} />
          </section>
        );
      })}
    </>
  );
}
