import { sourcesOf, type DiskFlow, type FlowBand } from '@ulvane/core/disk';
import { printBytes } from '@ulvane/core/quantity';
import { bandPath, flowHeight, movePath, shortened, usedPath, type FlowScale } from './flowScale';

type FlowBandsProps = { readonly id: string; readonly flow: DiskFlow; readonly scale: FlowScale };

/** The bands through all operations: what stays, what slopes and is copied, what is erased, what is new. */
export function FlowBands({ id, flow, scale }: FlowBandsProps) {
  const { bands, columns } = flow;
  const wide = bands.filter((band) => heightAt(band, scale) >= 6);
  const narrow = bands.filter((band) => !wide.includes(band));
  return (
    <>
      <Patterns id={id} />
      <rect width={scale.width} height={flowHeight} className="flow-free" />
      {/* Narrow ones last, so that they lie over what they pass. */}
      {[...wide, ...narrow].map((band) => (
        <g key={band.key} className={`flow-band ${band.kind} ${band.fate}`}>
          {band.fate !== 'new' && (
            <>
              <path d={bandPath(band, scale)} className="all" />
              {usedPath(band, scale) !== undefined && <path d={usedPath(band, scale)} className="used" />}
              {columns.map((column, index) => {
                const sloping = movePath(band, scale, index);
                return (
                  sloping !== undefined && (
                    <path key={`${index} ${column.title}`} d={sloping} fill={`url(#${id}-moves)`} />
                  )
                );
              })}
              <path d={bandPath(band, scale)} className="edge" />
            </>
          )}
        </g>
      ))}
      {flow.containers.map(({ when, stretch }) => {
        const x = when === 'before' ? 5 : scale.width - 5;
        const tick = when === 'before' ? 5 : -5;
        const from = scale.y(stretch.startLba) + 1;
        const until = scale.y(stretch.startLba + stretch.sectorCount) - 1;
        return (
          <g key={when} className="flow-container">
            <path d={`M${x + tick} ${from}H${x}V${until}H${x + tick}`} />
            <text
              transform={`translate(${when === 'before' ? x + 11 : x - 4} ${(from + until) / 2}) rotate(-90)`}
              textAnchor="middle"
            >
              {until - from > 60 ? 'extended' : ''}
            </text>
          </g>
        );
      })}
      {bands.map((band) => (
        <Erased key={`erased ${band.key}`} id={id} band={band} flow={flow} scale={scale} />
      ))}
      {bands
        .filter(({ fate }) => fate === 'new')
        .map((band) => (
          <New key={`new ${band.key}`} band={band} flow={flow} scale={scale} />
        ))}
      {bands
        .filter(({ fate }) => fate !== 'new')
        .map((band) => (
          <BandText key={`text ${band.key}`} band={band} flow={flow} scale={scale} />
        ))}
    </>
  );
}

function heightAt({ cuts }: FlowBand, { y }: FlowScale): number {
  return Math.max(...cuts.map((cut) => (cut ? y(cut.sectorCount) : 0)));
}

/** Shape before colour: hatched moves, cross-hatched goes. */
function Patterns({ id }: { readonly id: string }) {
  return (
    <defs>
      <pattern
        id={`${id}-moves`}
        width="7"
        height="7"
        patternUnits="userSpaceOnUse"
        patternTransform="rotate(45)"
      >
        <path d="M0 0V7" stroke="var(--ink)" strokeWidth="1.7" />
      </pattern>
      <pattern id={`${id}-erased`} width="8" height="8" patternUnits="userSpaceOnUse">
        <path d="M0 0L8 8M8 0L0 8" stroke="var(--line)" strokeWidth="1.1" />
      </pattern>
    </defs>
  );
}

type OneProps = { readonly band: FlowBand; readonly flow: DiskFlow; readonly scale: FlowScale };

/** What is deleted: a cross-hatched block in its column, its size struck out. */
function Erased({ id, band, flow, scale }: OneProps & { readonly id: string }) {
  const column = band.cuts.findIndex((cut, index) => cut === undefined && band.cuts[index - 1] !== undefined);
  const stood = band.cuts[column - 1];
  if (column < 1 || !stood) return null;
  const x = scale.x(column - 1);
  const width = Math.min(scale.columnWidth * 0.45, 96);
  const top = scale.y(stood.startLba);
  const height = Math.max(3, scale.y(stood.sectorCount));
  return (
    <g>
      <path
        d={`M${x} ${top}H${x + width - Math.min(16, height / 2)}L${x + width} ${top + height / 2}L${x + width - Math.min(16, height / 2)} ${top + height}H${x}Z`}
        fill={`url(#${id}-erased)`}
        className="flow-erased"
      />
      {height >= 40 && (
        <>
          <rect x={x + 8} y={top + height / 2 - 18} width="66" height="36" className="flow-plate" />
          <text x={x + 12} y={top + height / 2 - 4} className="gone strong">
            deleted
          </text>
          <text x={x + 12} y={top + height / 2 + 12} className="gone struck">
            {printBytes(stood.sectorCount * flow.sectorSizeBytes, 'decimal')}
          </text>
        </>
      )}
    </g>
  );
}

/** Fewer letters of a word say nothing. */
const minLetters = 8;

/** What is made: a dashed block at the end of its column and on, with where its room comes from. */
function New({ band, flow, scale }: OneProps) {
  const first = band.cuts.findIndex((cut) => cut !== undefined);
  const cut = band.cuts.at(-1);
  if (!cut) return null;
  const moving = flow.columns[first - 1]?.operations.some(({ kind }) => kind === 'move') === true;
  const x = first === 0 ? scale.width * 0.6 : scale.x(first - 1) + scale.columnWidth * (moving ? 0.75 : 0.4);
  const top = scale.y(cut.startLba);
  const height = Math.max(4, scale.y(cut.sectorCount));
  // As many letters as there is room for; the whole is beside the figure and in the table.
  const letters = Math.floor((scale.width - x - 14) / 6.6);
  const sources = sourcesOf(flow, cut);
  const lines = letters < minLetters ? [] : sources.slice(0, Math.max(0, Math.floor((height - 24) / 15)));
  return (
    <g>
      <rect
        x={x}
        y={top + 1}
        width={scale.width - x - 1}
        height={Math.max(3, height - 2)}
        className="flow-new"
      />
      {height >= 20 && letters >= minLetters && (
        <text x={x + 8} y={top + 16} className="strong">
          {shortened(band.key === 'room' ? 'room for something new' : band.label, letters)}
        </text>
      )}
      {lines.map(({ label, sectorCount }, index) => (
        <text key={label} x={x + 8} y={top + 32 + index * 15}>
          {shortened(
            `${printBytes(sectorCount * flow.sectorSizeBytes, 'decimal')} ${label === 'free' ? 'free before' : `from ${label}`}`,
            letters,
          )}
        </text>
      ))}
    </g>
  );
}

/** Words in a band where they have room: at its start, and where it is moved or gives something up. */
function BandText({ band, flow, scale }: OneProps) {
  const { sectorSizeBytes, columns } = flow;
  const [before] = band.cuts;
  const bytes = (sectors: number) => printBytes(sectors * sectorSizeBytes, 'decimal');
  const height = before ? scale.y(before.sectorCount) : 0;
  const top = before ? scale.y(before.startLba) : 0;
  const left = flow.containers.some(({ when }) => when === 'before') ? 24 : 14;
  // Until the column in which it goes.
  const goes = band.cuts.findIndex((cut) => cut === undefined);
  const room = (goes < 1 ? scale.width : scale.x(goes - 1)) - left;
  const [, next] = band.cuts;
  const staysTall = !next || next.startLba !== before?.startLba || scale.y(next.sectorCount) >= 40;
  const still = band.fate === 'stays' && band.cuts.every((cut) => cut?.sectorCount === before?.sectorCount);
  const used = band.usedSectors === undefined ? '' : `, of which ${bytes(band.usedSectors)} in use`;
  return (
    <>
      {before && height >= 24 && room > 110 && (
        <text x={left} y={top + Math.min(20, height / 2 + 1)} className="name">
          {band.label}
          {still ? ' stays, byte for byte' : ''}
        </text>
      )}
      {before && height >= 40 && staysTall && room > 110 && (
        <text x={left} y={top + 37}>
          {bytes(before.sectorCount)}
          {room > 260 ? used : ''}
        </text>
      )}
      {columns.map((column, index) => {
        const from = band.cuts[index];
        const to = band.cuts[index + 1];
        if (!from || !to) return null;
        const middle = scale.x(index) + scale.columnWidth / 2;
        if (from.startLba !== to.startLba) {
          const y =
            (scale.y(from.startLba + from.sectorCount / 2) + scale.y(to.startLba + to.sectorCount / 2)) / 2;
          const at = Math.min(flowHeight - 40, Math.max(4, y - 18));
          return (
            <g key={`${index} ${column.title}`}>
              <rect x={middle - 62} y={at} width="124" height="37" className="flow-note" />
              <text x={middle} y={at + 15} textAnchor="middle" className="strong">
                moves {bytes(Math.abs(to.startLba - from.startLba))}
              </text>
              <text x={middle} y={at + 30} textAnchor="middle">
                copies {bytes(from.sectorCount)}
              </text>
            </g>
          );
        }
        // Where something new takes the room in the same column, its own words stand there.
        const taken = flow.bands.some(({ fate, cuts }) => fate === 'new' && !cuts[index] && cuts[index + 1]);
        const given = taken ? 0 : from.sectorCount - to.sectorCount;
        const wedge = scale.y(given);
        return given > 0 && wedge >= 18 ? (
          <text
            key={`${index} ${column.title}`}
            x={scale.x(index) + scale.columnWidth * 0.66}
            y={scale.y(to.startLba + to.sectorCount) + wedge / 2 + 5}
            className="name"
          >
            {bytes(given)} given up
          </text>
        ) : null;
      })}
    </>
  );
}
