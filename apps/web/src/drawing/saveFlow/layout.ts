import type { SaveFlow } from '@ulvane/core/backup';
import type { Stretch } from '../ribbon';
import { stack } from '../stack';

export type FlowLayout = {
  readonly height: number;
  readonly boxes: ReadonlyMap<string, Stretch>;
  /** By destination and box. */
  readonly slots: ReadonlyMap<string, Stretch>;
  readonly destinations: ReadonlyMap<string, Stretch>;
  /** By partition, inside its disk. */
  readonly partitions: ReadonlyMap<string, Stretch>;
  readonly disks: readonly Stretch[];
};

const boxHeight = 26;
const slotHeight = 21;
const boxGap = 7;
/** Room for the name of a destination above its slots. */
const destinationGap = 22;

export const slotKey = ({
  destinationId,
  boxId,
}: {
  readonly destinationId: string;
  readonly boxId: string;
}) => `${destinationId} ${boxId}`;

/** Where everything of the figure is, in pixels from its upper edge. */
export function layOut({ disks, boxes, slots }: SaveFlow): FlowLayout {
  const byDestination = [...new Set(slots.map(({ destinationId }) => destinationId))].map((id) => ({
    id,
    slots: slots.filter(({ destinationId }) => destinationId === id),
  }));
  const min = Math.max(
    boxes.length * (boxHeight + boxGap),
    slots.length * slotHeight + byDestination.length * destinationGap,
  );
  const height = Math.max(240, Math.min(420, min + 120), min);
  const boxBands = stack(
    boxes.map(({ sizeBytes }) => sizeBytes),
    height,
    boxHeight,
    boxGap,
  );
  const slotRoom = height - destinationGap * byDestination.length;
  const slotBands = stack(
    byDestination.flatMap((one) => one.slots.map(({ sizeBytes }) => sizeBytes)),
    slotRoom,
    slotHeight,
    0,
  );
  const slotAt = new Map<string, Stretch>();
  const destinationAt = new Map<string, Stretch>();
  let index = 0;
  byDestination.forEach(({ id, slots: own }, order) => {
    const shift = (order + 1) * destinationGap;
    const first = index;
    for (const slot of own) {
      const band = slotBands[index] ?? { top: 0, height: 0 };
      slotAt.set(slotKey(slot), { top: band.top + shift, height: band.height });
      index += 1;
    }
    const top = (slotBands[first]?.top ?? 0) + shift;
    const last = slotBands[index - 1];
    destinationAt.set(id, { top, height: (last ? last.top + last.height + shift : top) - top });
  });
  const diskBands = stack(
    disks.map(({ sizeBytes }) => sizeBytes),
    height,
    60,
    34,
  );
  const partitions = new Map<string, Stretch>();
  disks.forEach((disk, at) => {
    const band = diskBands[at] ?? { top: 0, height: 0 };
    let top = band.top;
    for (const { key, sizeBytes } of disk.partitions) {
      const own = (sizeBytes / disk.sizeBytes) * band.height;
      partitions.set(key, { top, height: own });
      top += own;
    }
  });
  return {
    height,
    boxes: new Map(boxes.map(({ id }, at) => [id, boxBands[at] ?? { top: 0, height: 0 }])),
    slots: slotAt,
    destinations: destinationAt,
    partitions,
    disks: diskBands,
  };
}
