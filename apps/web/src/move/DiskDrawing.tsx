import { segmentsOfConversion, segmentsOfPlan, routeLayout, segmentsOf } from '@ulvane/core/disk';
import { diskWorkOf, planDiskSegments } from '@ulvane/core/runbook';
import { routes } from '@ulvane/core/route';
import { diskOfDecision } from '@ulvane/core/record';
import { systemDisk, valueOf } from '@ulvane/core/survey';
import { useMemo } from 'react';
import { Link } from 'react-router';
import { fatesOn } from './diskFate';
import { DiskSheet } from './DiskSheet';
import { useOpenMove } from './MoveContext';
import { useTarget } from './readings';
import { usePlanned } from './runbook/usePlanned';

/** The disks of the device as tapes: the system's with what the route does to it, the others untouched. */
export function DiskDrawing() {
  const { move } = useOpenMove();
  const target = useTarget();
  const disks = valueOf(move.facts, 'disks') ?? [];
  const system = systemDisk(disks);
  const route = move.decision ? routes[move.decision.routeId] : undefined;
  const writesOver = route?.writesOver ?? 'nothing';
  const written = writesOver === 'nothing' ? undefined : diskOfDecision(move);
  const states = usePlanned();
  const { diskPlan, facts } = move;
  const planned = useMemo(() => {
    const work = diskPlan ? diskWorkOf(facts, diskPlan, route) : undefined;
    if (!work?.ok) return undefined;
    const { disk, before, after } = work.value;
    const drawn =
      work.value.work.kind === 'convert' ? segmentsOfConversion(before, after) : segmentsOfPlan(work.value);
    return { disk, ...drawn };
  }, [diskPlan, facts, route]);
  if (disks.length === 0)
    return (
      <section className="sheet">
        <h2>Disk</h2>
        <p className="mb-0">No disk is known yet: run the collector, or type the disk on Survey.</p>
      </section>
    );
  return (
    <>
      {disks.map((disk) => {
        const untouched = system !== undefined && disk !== (written ?? system);
        if (planned?.disk === disk)
          return <DiskSheet key={disk.name} disk={disk} before={planned.before} after={planned.after} />;
        const beside =
          route?.id === 'beside-same-disk' ? states?.disks.find(({ name }) => name === disk.name) : undefined;
        const after = beside
          ? planDiskSegments(beside, states?.states.steps.length ?? 0)
          : disk === written && target
            ? routeLayout(disk, writesOver === 'system-partition' ? 'system-partition' : 'whole-disk', target)
                ?.after
            : undefined;
        return (
          <DiskSheet
            key={disk.name}
            disk={disk}
            untouched={untouched}
            before={segmentsOf(disk, fatesOn(disk, written, writesOver))}
            after={after}
          />
        );
      })}
      <p className="no-print">
        <Link to={`/moves/${move.reference}/disk`}>Plan work on the disk</Link>: another scheme, another
        layout, and the old sectors saved.
      </p>
    </>
  );
}
