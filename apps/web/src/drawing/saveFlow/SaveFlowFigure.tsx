import type { Destination, FlowBox, SaveFlow } from '@ulvane/core/backup';
import { printBytes, printCount } from '@ulvane/core/quantity';
import { useId } from 'react';
import { ProofMark } from '../ProofMark';
import { ribbon, type Stretch } from '../ribbon';
import { Tapes } from './Tapes';
import { layOut, slotKey } from './layout';

const width = 930;
const boxLeft = 178;
const boxRight = 418;
const slotLeft = 660;
const bar = 7;

type SaveFlowFigureProps = {
  readonly flow: SaveFlow;
  readonly destinations: readonly Destination[];
};

/** The owner’s name behind a set’s own is on the plate already. */
const plain = (title: string) => title.replace(/ \([^)]*\)$/, '');
const shortened = (text: string, max: number) => (text.length > max ? `${text.slice(0, max - 1)}…` : text);

/** Where the owner's bytes are, and where their copies go: disks, data sets, destinations; a flow is as wide as its bytes. */
export function SaveFlowFigure({ flow, destinations }: SaveFlowFigureProps) {
  const id = useId();
  const layout = layOut(flow);
  const box = (key: string) => layout.boxes.get(key) ?? { top: 0, height: 0 };
  const nameOf = (key: string) => destinations.find((one) => one.id === key)?.name ?? key;
  return (
    <figure className="save-flow mb-0">
      <svg viewBox={`0 -4 ${width} ${layout.height + 34}`} role="img" aria-labelledby={`${id}-title`}>
        <title id={`${id}-title`}>
          {`${printCount(flow.boxes.length, 'box')} of data and ${printCount(destinations.length, 'destination')}: ${flow.counted} of ${flow.planned} copies count. The table below says the same.`}
        </title>
        <Tapes flow={flow} layout={layout} />
        <g className="flows">
          {flow.boxes.map((one) => (
            <Source key={one.id} box={one} flow={flow} layout={layout} />
          ))}
          {flow.slots.map((slot) => (
            <path
              key={slotKey(slot)}
              className={`flow ${slot.counts ? 'counts' : slot.state}`}
              d={ribbon(
                boxRight,
                box(slot.boxId),
                slotLeft,
                layout.slots.get(slotKey(slot)) ?? { top: 0, height: 0 },
              )}
            />
          ))}
        </g>
        {flow.boxes.map((one) => (
          <Box key={one.id} box={one} band={box(one.id)} />
        ))}
        {[...layout.destinations].map(([key, band]) => (
          <g key={key}>
            <text x={slotLeft} y={band.top - 6} className="name">
              {nameOf(key)}
            </text>
            <rect
              x={slotLeft}
              y={band.top}
              width={width - slotLeft - 1}
              height={band.height}
              className="frame"
            />
          </g>
        ))}
        {flow.slots.map((slot) => {
          const band = layout.slots.get(slotKey(slot)) ?? { top: 0, height: 0 };
          const title = flow.boxes.find((one) => one.id === slot.boxId)?.title ?? '';
          const middle = band.top + band.height / 2;
          return (
            <g key={slotKey(slot)} className={`slot ${slot.counts ? 'counts' : 'short'}`}>
              <rect x={slotLeft} y={band.top} width={width - slotLeft - 1} height={band.height} />
              {slot.counts && (
                <rect x={slotLeft - bar} y={band.top} width={bar} height={band.height} className="bar" />
              )}
              <text x={slotLeft + 6} y={middle + 4} className="name">
                {shortened(plain(title), 15)}
              </text>
              <g transform={`translate(${slotLeft + 108} ${middle - 6})`}>
                <ProofMark mark={slot.state} struck={slot.outdated} label="" />
              </g>
              <text x={slotLeft + 145} y={middle + 4}>
                {shortened(slot.words.replace(/ files?$/, ''), 22)}
              </text>
            </g>
          );
        })}
      </svg>
    </figure>
  );
}

/** From the partition to the box, and for what no data set names on to a wall. */
function Source({
  box,
  flow,
  layout,
}: {
  readonly box: FlowBox;
  readonly flow: SaveFlow;
  readonly layout: ReturnType<typeof layOut>;
}) {
  const to = layout.boxes.get(box.id) ?? { top: 0, height: 0 };
  const partition = flow.disks
    .flatMap(({ partitions }) => partitions)
    .find(({ key }) => key === box.partitionKey);
  const at = layout.partitions.get(box.partitionKey ?? '');
  const before = flow.boxes
    .slice(0, flow.boxes.indexOf(box))
    .filter((one) => one.partitionKey === box.partitionKey);
  const perByte = at && partition ? at.height / Math.max(1, partition.sizeBytes) : 0;
  const above = before.reduce((sum, { sizeBytes }) => sum + sizeBytes, 0);
  const middle = to.top + to.height / 2;
  return (
    <>
      {at && (
        <path
          className={`flow source ${box.kind}`}
          d={ribbon(
            128,
            { top: at.top + above * perByte, height: Math.max(1, box.sizeBytes * perByte) },
            boxLeft,
            to,
          )}
        />
      )}
      {box.kind === 'unnamed' && (
        <g className="wall">
          <path d={`M${boxRight} ${middle}H${boxRight + 24}`} />
          <path d={`M${boxRight + 24} ${middle - 8}V${middle + 8}`} />
          <text x={boxRight + 32} y={middle + 4} className="name">
            goes nowhere
          </text>
        </g>
      )}
    </>
  );
}

function Box({ box, band }: { readonly box: FlowBox; readonly band: Stretch }) {
  const [path] = box.paths;
  const tall = band.height >= 40 && path !== undefined;
  const y = band.top + band.height / 2 + (tall ? -3 : 4);
  return (
    <g className={`box ${box.kind}`}>
      <rect x={boxLeft} y={band.top} width={boxRight - boxLeft} height={band.height} rx="2" />
      {box.kind !== 'unnamed' && (
        <rect x={boxRight - bar} y={band.top} width={bar} height={band.height} className="bar" />
      )}
      <text x={boxLeft + 8} y={y} className="name">
        {shortened(plain(box.title), 20)}
      </text>
      <text x={boxRight - 72} y={y} textAnchor="end" className="name">
        {printBytes(box.sizeBytes, 'decimal')}
      </text>
      <text x={boxRight - 12} y={y} textAnchor="end">
        {box.fileCount === null ? '' : box.fileCount.toLocaleString('en')}
      </text>
      {tall && (
        <text x={boxLeft + 8} y={y + 15} className="path">
          {shortened(box.paths.join('  '), 32)}
        </text>
      )}
    </g>
  );
}
