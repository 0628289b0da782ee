import type { SaveFlow } from '@ulvane/core/backup';
import { printBytes } from '@ulvane/core/quantity';
import type { FlowLayout } from './layout';

const left = 92;
const right = 128;

type TapesProps = { readonly flow: SaveFlow; readonly layout: FlowLayout };

/** The disks to scale: pale = used by the system, dark = in data sets, black = in none. */
export function Tapes({ flow, layout }: TapesProps) {
  return (
    <g className="tapes">
      {flow.disks.map((disk, index) => {
        const band = layout.disks[index] ?? { top: 0, height: 0 };
        return (
          <g key={disk.title}>
            <text x="0" y={band.top + 11} className="name">
              {disk.title}
            </text>
            <text x="0" y={band.top + 25}>
              {printBytes(disk.sizeBytes, 'decimal')}
            </text>
            {disk.partitions.map((partition) => {
              const at = layout.partitions.get(partition.key) ?? { top: 0, height: 0 };
              const perByte = at.height / Math.max(1, partition.sizeBytes);
              const named = partition.namedBytes * perByte;
              const none = partition.unnamedBytes * perByte;
              const used = (partition.usedBytes ?? 0) * perByte;
              return (
                <g key={partition.key} className={partition.usedBytes === null ? 'unknown' : undefined}>
                  <rect x={left} y={at.top} width={right - left} height={at.height} className="all" />
                  <rect
                    x={left}
                    y={at.top}
                    width={right - left}
                    height={Math.min(used, at.height)}
                    className="used"
                  />
                  <rect x={left} y={at.top} width={right - left} height={named} className="named" />
                  <rect x={left} y={at.top + named} width={right - left} height={none} className="unnamed" />
                  <rect x={left} y={at.top} width={right - left} height={at.height} className="edge" />
                  {at.height >= 15 && at.top - band.top >= 26 && (
                    <text x="0" y={at.top + 12}>
                      {partition.title.length > 14 ? `${partition.title.slice(0, 13)}…` : partition.title}
                    </text>
                  )}
                  {at.height >= 32 && at.top - band.top >= 26 && partition.erased && (
                    <text x="0" y={at.top + 26} className="erased">
                      erased
                    </text>
                  )}
                </g>
              );
            })}
          </g>
        );
      })}
      <text x="0" y={layout.height + 22} className="key">
        Disks to scale. Dark: in data sets. Black: in none. Pale: the rest in use.
      </text>
    </g>
  );
}
