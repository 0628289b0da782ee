import type { OutsideUse, PartitionTable, TablePartition } from '../table/partitionTable';
import type { Obstacle, Remedy, Resolution } from './conversion';
import { bootPlaces } from './bootLoader';

/**
 * Sectors outside of every partition that are in use and that GPT would be written over: a boot loader's code, or
 * something that nobody knows.
 */
export function inTheWay(
  table: PartitionTable,
  partitions: readonly TablePartition[],
  bounds: { readonly firstUsableLba: number; readonly lastUsableLba: number },
  resolutions: readonly Resolution[],
): readonly Obstacle[] {
  const makesBoot = resolutions.some(({ kind }) => kind === 'make-boot');
  return (table.outsideUse ?? []).flatMap((use): readonly Obstacle[] => {
    const end = use.startLba + use.sectorCount;
    const met = use.what === 'gap' ? use.startLba < bounds.firstUsableLba : end > bounds.lastUsableLba + 1;
    const allowed = resolutions.some(
      (resolution) =>
        resolution.kind === 'write-over' &&
        resolution.startLba <= use.startLba &&
        resolution.startLba + resolution.sectorCount >= end,
    );
    if (!met || allowed || (use.what === 'gap' && makesBoot)) return [];
    return [
      {
        code: use.what === 'gap' ? 'loader-in-the-way' : 'end-in-the-way',
        path: `/lba/${use.startLba}`,
        sentence:
          use.what === 'gap'
            ? `GPT is written into the first ${bounds.firstUsableLba} sectors, and sectors ${use.startLba} to ${end - 1} are in use: a boot loader’s code that starts the disk in legacy mode would be gone.`
            : `GPT keeps its second copy in the last sectors, and sectors ${use.startLba} to ${end - 1} are in use there: remains, or something that counts on them.`,
        remedies: [...(use.what === 'gap' ? bootPlaces(table, partitions, bounds) : []), writeOver(use)],
      },
    ];
  });
}

function writeOver({ what, startLba, sectorCount }: OutsideUse): Remedy {
  return {
    resolution: { kind: 'write-over', startLba, sectorCount },
    action:
      what === 'gap'
        ? 'Write over it: the disk is not started in legacy mode any more. The undo capsule keeps it.'
        : 'Write over it: nobody needs what is there. The undo capsule keeps it.',
  };
}
