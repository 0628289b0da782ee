import { api, type MoveView } from '@ulvane/contract';
import type { DataSet, PackHelp, Packing, TreeNode } from '@ulvane/core/backup';
import { call } from '../../api/call';

export type Proposal = {
  readonly packing: Packing;
  readonly trees: Readonly<Record<string, TreeNode>>;
  readonly helps: readonly PackHelp[];
};

type Part = {
  readonly places: readonly string[];
  readonly sizeBytes: number;
  readonly fileCount: number;
  readonly largestFileBytes: number;
  readonly destinationIds: readonly string[];
};

/** What of a data set goes together: everything that has the same drives. One part with the place '' is the whole. */
export function partsOf({ packing }: Proposal, dataSetId: string): readonly Part[] {
  const units = new Map<string, Omit<Part, 'places' | 'destinationIds'> & { readonly on: Set<string> }>();
  const own = <T extends { readonly dataSetId: string }>(list: readonly T[]) =>
    list.filter((one) => one.dataSetId === dataSetId);
  for (const { path, sizeBytes, fileCount, largestFileBytes } of [
    ...own(packing.placements),
    ...own(packing.left),
  ])
    if (!units.has(path)) units.set(path, { sizeBytes, fileCount, largestFileBytes, on: new Set() });
  // A folder that is whole on one drive and in pieces on another counts by its pieces.
  const pieces = [...units].filter(
    ([path]) =>
      ![...units.keys()].some((other) => other !== path && (path === '' || other.startsWith(`${path}/`))),
  );
  for (const { path, shelfId } of own(packing.placements))
    for (const [piece, unit] of pieces)
      if (path === '' || piece === path || piece.startsWith(`${path}/`)) unit.on.add(shelfId);
  const parts = new Map<string, Part>();
  for (const [path, { sizeBytes, fileCount, largestFileBytes, on }] of pieces) {
    const destinationIds = [...on].sort();
    const key = destinationIds.join(' ');
    const part = parts.get(key);
    parts.set(key, {
      places: [...(part?.places ?? []), path],
      sizeBytes: (part?.sizeBytes ?? 0) + sizeBytes,
      fileCount: (part?.fileCount ?? 0) + fileCount,
      largestFileBytes: Math.max(part?.largestFileBytes ?? 0, largestFileBytes),
      destinationIds,
    });
  }
  return [...parts.values()];
}

/** Lets the destinations take what the packing says, in one change of the move. */
export function applyPacking(
  { version, move }: MoveView,
  dataSets: readonly DataSet[],
  proposal: Proposal,
): Promise<MoveView> {
  return call(api.packDataSets, {
    params: { reference: move.reference },
    body: {
      version,
      packing: dataSets.map(({ id }) => ({
        dataSetId: id,
        parts: partsOf(proposal, id).map((part) => ({
          ...part,
          places: [...part.places],
          destinationIds: [...part.destinationIds],
        })),
      })),
    },
  });
}
