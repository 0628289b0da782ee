import { printBothUnits, type PlanEdge } from '@ulvane/core';
import type { ScaleLinear } from 'd3';
import { useRef, type KeyboardEvent, type PointerEvent } from 'react';

type TapeEdgeProps = {
  readonly edge: PlanEdge;
  readonly scale: ScaleLinear<number, number>;
  readonly y: number;
  readonly height: number;
  readonly sectorSizeBytes: number;
  readonly onMove: (lba: number) => void;
  /** The limit that was just felt, in words; undefined when none is. */
  readonly felt: string | undefined;
  readonly onFelt: (sentence: string | undefined) => void;
};

/** The edge of a partition as something to take hold of: it stops at its limits and says why. */
export function TapeEdge({ edge, scale, y, height, sectorSizeBytes, onMove, felt, onFelt }: TapeEdgeProps) {
  const { atLba, leastLba, mostLba, stepLba } = edge;
  const held = useRef(false);
  const moveTo = (lba: number) => {
    const stepped = Math.round(lba / stepLba) * stepLba;
    onFelt(stepped < leastLba ? edge.leastBecause : stepped > mostLba ? edge.mostBecause : undefined);
    const within = Math.min(mostLba, Math.max(leastLba, stepped));
    if (within !== atLba) onMove(within);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const large = event.shiftKey ? 1024 : 1;
    const to = {
      ArrowLeft: atLba - stepLba * large,
      ArrowDown: atLba - stepLba * large,
      ArrowRight: atLba + stepLba * large,
      ArrowUp: atLba + stepLba * large,
      PageDown: atLba - stepLba * 1024,
      PageUp: atLba + stepLba * 1024,
      Home: leastLba,
      End: mostLba,
    }[event.key];
    if (to === undefined) return;
    event.preventDefault();
    moveTo(to);
    if (event.key === 'Home') onFelt(edge.leastBecause);
    if (event.key === 'End') onFelt(edge.mostBecause);
  };
  const lbaAt = (event: PointerEvent<SVGGElement>) => {
    const svg = event.currentTarget.ownerSVGElement;
    const matrix = svg?.getScreenCTM();
    return matrix ? scale.invert((event.clientX - matrix.e) / matrix.a) : atLba;
  };
  const x = scale(atLba);
  return (
    <g
      className="tape-edge no-print"
      tabIndex={0}
      role="slider"
      aria-label={`End of partition ${edge.partition}`}
      aria-valuemin={leastLba}
      aria-valuemax={mostLba}
      aria-valuenow={atLba}
      aria-valuetext={`sector ${atLba}, ${printBothUnits(atLba * sectorSizeBytes)} from the start of the disk${felt === undefined ? '' : `. ${felt}`}`}
      onKeyDown={onKeyDown}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        held.current = true;
      }}
      onPointerMove={(event) => {
        if (held.current) moveTo(lbaAt(event));
      }}
      onPointerUp={() => {
        held.current = false;
      }}
    >
      <rect x={x - 10} y={y - 8} width={20} height={height + 16} fill="transparent" />
      <line x1={x} x2={x} y1={y - 7} y2={y + height + 7} stroke="var(--ink)" strokeWidth="3" />
      <circle cx={x} cy={y + height + 6} r="6" fill="var(--ink)" />
    </g>
  );
}
