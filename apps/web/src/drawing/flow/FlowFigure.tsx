import type { DiskFlow, FlowBand } from '@ulvane/core/disk';
import { printBothUnits, printBytes } from '@ulvane/core/quantity';
import { useId, useState, type KeyboardEvent, type ReactNode } from 'react';
import { FlowBands } from './FlowBands';
import { FlowHeads, FlowNotes, minutesOf } from './FlowNotes';
import { flowHeight, flowScale, sideWidth, tapeWidth, type FlowScale } from './flowScale';
import { FlowSide } from './FlowSide';
import { FlowUndo } from './FlowUndo';
import { useWidth } from './useWidth';

type FlowFigureProps = {
  /** What the disk is called: its mark. */
  readonly name: string;
  readonly flow: DiskFlow;
  /** The last answer while the next is under way, or one that is no longer possible. */
  readonly stale?: boolean;
  /** What stands above a flow without an operation. */
  readonly empty?: string;
  /** What can be done with the plan, at the end of the balance. */
  readonly children?: ReactNode;
};

type Reading = { readonly cut: number; readonly band: number };

/**
 * A disk through its operations: down from the first byte to the last, true to scale; right one operation after the
 * other. Every cut is the whole disk.
 */
export function FlowFigure({
  name,
  flow,
  stale = false,
  empty = 'Nothing changes: the disk is like that already.',
  children,
}: FlowFigureProps) {
  const id = useId();
  const [frame, width] = useWidth<HTMLElement>(1200);
  const [reading, setReading] = useState<Reading>();
  const scale = flowScale(flow, Math.max(200, width - 2 * (sideWidth + tapeWidth) - 8));
  const bytes = flow.sectorCount * flow.sectorSizeBytes;
  const minutes = flow.columns.reduce((sum, column) => sum + minutesOf(column), 0);
  const hands = flow.columns.reduce(
    (sum, { operations }) => sum + operations.reduce((own, one) => own + one.handsMinutes, 0),
    0,
  );
  const standing = reading ? standingAt(flow, reading.cut) : [];
  const read = reading && standing[Math.min(reading.band, standing.length - 1)];
  const onKeyDown = (event: KeyboardEvent) => {
    const next = step(reading ?? { cut: 0, band: 0 }, event.key, flow);
    if (!next) return;
    event.preventDefault();
    setReading(next);
  };
  return (
    <figure ref={frame} className={stale ? 'flow stale' : 'flow'} aria-label={`Flow of disk ${name}`}>
      <div className="flow-parts">
        <div>
          <div className="flow-end">
            <strong>Before</strong> {printBothUnits(bytes)}
          </div>
          <FlowSide flow={flow} scale={scale} side="before" />
          <p className="flow-sum">
            <strong>{minutes} min in all</strong>
            <span>
              {hands} hands-on, {minutes - hands} waiting
            </span>
            <span>
              {flow.copiedSectors === 0
                ? 'Nothing is copied from place to place.'
                : `Copies ${printBytes(flow.copiedSectors * flow.sectorSizeBytes, 'decimal')} on the disk.`}
            </span>
            <span>Thin lines are drawn thicker.</span>
          </p>
        </div>
        {/* Read with the arrow keys: operations sideways, partitions up and down. */}
        <div
          className="flow-window"
          role="application"
          aria-roledescription="flow of a disk"
          aria-label={`${name}: ${flow.columns.length === 1 ? 'one operation' : `${flow.columns.length} operations`}. Arrow keys read where each partition is; the same is a table below.`}
          tabIndex={0}
          onKeyDown={onKeyDown}
          onFocus={() => setReading(reading ?? { cut: 0, band: 0 })}
          onBlur={() => setReading(undefined)}
        >
          <FlowHeads flow={flow} columnWidth={scale.columnWidth} empty={empty} />
          <svg
            className="flow-svg"
            width={scale.width}
            height={flowHeight + 34}
            aria-hidden="true"
            overflow="visible"
          >
            <FlowBands id={id.replaceAll(':', '')} flow={flow} scale={scale} />
            <rect width={scale.width} height={flowHeight} className="flow-frame" />
            <FlowUndo flow={flow} scale={scale} />
            <TheLine flow={flow} scale={scale} />
            {reading && <ReadingLine scale={scale} cut={reading.cut} read={read} />}
          </svg>
          <FlowNotes flow={flow} columnWidth={scale.columnWidth} />
        </div>
        <div>
          <div className="flow-end after">
            <strong>After</strong> {printBothUnits(bytes)}
          </div>
          <FlowSide flow={flow} scale={scale} side="after" />
        </div>
      </div>
      <p className="flow-reading" role="status">
        {reading && read ? readingText(flow, reading.cut, read) : ''}
      </p>
      <Balance flow={flow}>{children}</Balance>
    </figure>
  );
}

function standingAt(flow: DiskFlow, cut: number): readonly FlowBand[] {
  return flow.bands
    .filter(({ cuts }) => cuts[cut] !== undefined)
    .sort((a, b) => (a.cuts[cut]?.startLba ?? 0) - (b.cuts[cut]?.startLba ?? 0));
}

function step({ cut, band }: Reading, key: string, flow: DiskFlow): Reading | undefined {
  const max = standingAt(flow, cut).length - 1;
  const at = Math.min(band, max);
  switch (key) {
    case 'ArrowLeft':
      return { cut: Math.max(0, cut - 1), band: at };
    case 'ArrowRight':
      return { cut: Math.min(flow.columns.length, cut + 1), band: at };
    case 'ArrowUp':
      return { cut, band: Math.max(0, at - 1) };
    case 'ArrowDown':
      return { cut, band: Math.min(max, at + 1) };
    default:
      return undefined;
  }
}

function readingText(flow: DiskFlow, cut: number, band: FlowBand): string {
  const stretch = band.cuts[cut];
  if (!stretch) return '';
  const { sectorSizeBytes, columns } = flow;
  const when = cut === 0 ? 'Before the first operation' : `After ${cut}, ${columns[cut - 1]?.title ?? ''}`;
  const at = (lba: number) => printBytes(lba * sectorSizeBytes, 'decimal');
  const used =
    band.usedSectors === undefined
      ? ''
      : `, ${printBytes(band.usedSectors * sectorSizeBytes, 'decimal')} in use`;
  return `${when}: ${band.label} from ${at(stretch.startLba)} to ${at(stretch.startLba + stretch.sectorCount)}, ${printBothUnits(stretch.sectorCount * sectorSizeBytes)}${used}; sectors ${stretch.startLba} to ${stretch.startLba + stretch.sectorCount - 1}.`;
}

function ReadingLine({
  scale,
  cut,
  read,
}: {
  readonly scale: FlowScale;
  readonly cut: number;
  readonly read: FlowBand | undefined;
}) {
  const x = Math.min(scale.width - 1, Math.max(1, scale.x(cut)));
  const stretch = read?.cuts[cut];
  return (
    <g className="flow-read">
      <path d={`M${x} -4V${flowHeight + 4}`} />
      {stretch && (
        <path
          className="at"
          d={`M${x} ${scale.y(stretch.startLba)}V${Math.max(scale.y(stretch.startLba) + 3, scale.y(stretch.startLba + stretch.sectorCount))}`}
        />
      )}
    </g>
  );
}

/** The double line before the first operation that cannot be brought back. */
function TheLine({ flow, scale }: { readonly flow: DiskFlow; readonly scale: FlowScale }) {
  if (flow.lineBefore === undefined) return null;
  const x = Math.max(7, scale.x(flow.lineBefore));
  return (
    <g className="flow-line">
      <path d={`M${x - 4} -60V${flowHeight + 34}M${x + 4} -60V${flowHeight + 34}`} />
      <rect x={x - 43} y={flowHeight - 62} width="86" height="26" rx="4" />
      <text x={x} y={flowHeight - 44} textAnchor="middle">
        The Line
      </text>
    </g>
  );
}

/** What stays, moves, is new and is free adds up to the disk. */
function Balance({ flow, children }: { readonly flow: DiskFlow; readonly children: ReactNode }) {
  const { sums, erasedSectors, sectorSizeBytes, sectorCount } = flow;
  const text = (sectors: number) => printBytes(sectors * sectorSizeBytes, 'decimal');
  return (
    <div className="flow-balance">
      <span>
        <i className="key stays" /> stays <strong>{text(sums.stays)}</strong>
      </span>
      <span>
        <i className="key moves" /> moves <strong>{text(sums.moves)}</strong>
      </span>
      <span>
        <i className="key new" /> new <strong>{text(sums.new)}</strong>
      </span>
      <span>
        <i className="key free" /> free <strong>{text(sums.free)}</strong>
      </span>
      <span>
        = <strong>{text(sectorCount)}</strong>
      </span>
      {erasedSectors > 0 && (
        <span className="soft">
          <i className="key erased" /> {text(erasedSectors)} deleted
        </span>
      )}
      <span className="soft">darker: in use</span>
      <span className="flow-do">{children}</span>
    </div>
  );
}
