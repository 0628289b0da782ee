import type { Segment } from '@ulvane/core/disk';
import { printBothUnits } from '@ulvane/core/quantity';
import { useId } from 'react';
import { tapeScale } from './tapeScale';
import { Bar, barHeight, Patterns, Ticks, ticksHeight } from './TapeBar';

const width = 486;

/** A disk on a plate: one bar to scale, what is erased struck through; the sentence below says the same. */
export function DiskStrip({
  name,
  sectorSizeBytes,
  sectorCount,
  segments,
}: {
  /** What the disk is called: its mark. */
  readonly name: string;
  readonly sectorSizeBytes: number;
  readonly sectorCount: number;
  readonly segments: readonly Segment[];
}) {
  const id = useId();
  const scale = tapeScale([segments], sectorCount, width);
  const bytes = sectorCount * sectorSizeBytes;
  const named = (fate: Segment['fate']) =>
    segments
      .filter((one) => one.kind === 'partition' && one.fate === fate)
      .map(({ partitionNumber, label }) => [partitionNumber, label].filter(Boolean).join(' '))
      .join(', ');
  const parts = [
    ['Erased', named('erased')],
    ['Kept', named('kept')],
    ['Not known what it is', named('unknown')],
  ].filter(([, names]) => names !== '');
  return (
    <figure className="disk-strip">
      <svg
        viewBox={`-1 0 ${width + 2} ${ticksHeight + barHeight + 1}`}
        role="img"
        aria-labelledby={`${id}-title`}
      >
        <title id={`${id}-title`}>{`Disk ${name}, ${printBothUnits(bytes)}, to scale`}</title>
        <Patterns id={id} />
        <Ticks bytes={bytes} sectorSizeBytes={sectorSizeBytes} scale={scale} width={width} unit="decimal" />
        <Bar
          id={id}
          y={ticksHeight}
          width={width}
          segments={segments}
          scale={scale}
          sectorSizeBytes={sectorSizeBytes}
        />
      </svg>
      <figcaption>
        {parts.length === 0
          ? 'No partition is known on this disk.'
          : parts.map(([word, names]) => `${word ?? ''}: ${names ?? ''}.`).join(' ')}
      </figcaption>
    </figure>
  );
}
