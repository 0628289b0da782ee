import type { PlanDisk } from '@ulvane/core/runbook';
import { shortened } from '../flow/flowScale';
import { axisHeight, diskHeight, labelWidth, runPath, runsOf, type PlanScale } from './planScale';

type DiskBandsProps = {
  readonly id: string;
  readonly disk: PlanDisk;
  readonly scale: PlanScale;
  readonly steps: number;
};

/** The partitions of a disk through all steps: kept is solid, new has a dashed outline, erased is cross-hatched. */
export function DiskBands({ id, disk, scale, steps }: DiskBandsProps) {
  const { x, y, columnWidth } = scale;
  return (
    <g>
      <defs>
        <pattern id={`${id}-gone`} width="7" height="7" patternUnits="userSpaceOnUse">
          <path d="M0 0L7 7M7 0L0 7" stroke="var(--line)" strokeWidth="1" />
        </pattern>
      </defs>
      <rect
        x={labelWidth}
        y={axisHeight}
        width={x(steps) - labelWidth}
        height={diskHeight}
        className="flow-free"
      />
      {disk.bands.map((band) => {
        const { key, kind, fate, usedSectors } = band;
        return runsOf(band).map((run) => {
          const { first, last } = run;
          const until = band.cuts[last];
          if (!until) return null;
          const isLast = last === steps;
          const gone = y(until.sectorCount) - y(0);
          return (
            <g key={`${key} ${first}`} className={`plan-band ${kind} ${fate}`}>
              <path d={runPath(band, run, scale)} className="all" />
              {usedSectors !== undefined && fate !== 'new' && (
                <path
                  d={runPath(band, run, scale, (sectors) => Math.min(sectors, usedSectors))}
                  className="used"
                />
              )}
              <path d={runPath(band, run, scale)} className="edge" />
              {!isLast && (
                <rect
                  x={x(last + 0.5)}
                  y={y(until.startLba)}
                  width={Math.max(5, Math.min(columnWidth * 0.9, 14))}
                  height={Math.max(2, gone)}
                  fill={`url(#${id}-gone)`}
                  className="plan-gone"
                />
              )}
            </g>
          );
        });
      })}
      <path
        d={`M${labelWidth} ${axisHeight}H${x(steps)}M${labelWidth} ${axisHeight + diskHeight}H${x(steps)}`}
        className="disk-edge"
      />
    </g>
  );
}

/** Pixels of one letter. */
const letter = 6.4;

/** Names and sizes where a band has room for them; the table has all. */
export function DiskTexts({ disk, scale, steps }: Omit<DiskBandsProps, 'id'>) {
  const { x, y } = scale;
  const gigabytes = (sectors: number) => ((sectors * disk.sectorSizeBytes) / 1e9).toFixed(1);
  return disk.bands.map((band) => {
    const { key, label, fate, usedSectors } = band;
    return runsOf(band).map(({ first, last }) => {
      const from = band.cuts[first];
      if (!from) return null;
      const left = x(first === 0 ? 0 : first - 0.35) + 5;
      const right = x(last === steps ? last : last + 0.5) - 4;
      const height = y(from.sectorCount) - y(0);
      const letters = Math.floor((right - left) / letter);
      const top = y(from.startLba);
      return (
        <g key={`${key} ${first}`}>
          {height >= 15 && letters >= 4 && (
            <text x={left} y={top + Math.min(14, height / 2 + 5)} className="b">
              {shortened(`${label} ${gigabytes(from.sectorCount)}`, letters)}
            </text>
          )}
          {height >= 32 && usedSectors !== undefined && fate !== 'new' && letters >= 12 && (
            <text x={left} y={top + 29}>
              {gigabytes(usedSectors)} in use
            </text>
          )}
        </g>
      );
    });
  });
}
