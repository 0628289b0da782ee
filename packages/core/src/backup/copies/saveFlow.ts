import { printCount } from '../../quantity/count';
import { diskMark, partitionBytes, systemDisk, type Disk, type Partition } from '../../survey/disk';
import { valueOf, type Facts } from '../../survey/facts';
import type { SurveyFolder } from '../../survey/format';
import type { FailedCheck } from './check';
import type { CopiesOfDataSet } from './copies';
import { describeOutdated, type OutdatedCopy } from './outdated';
import type { Copy, DataSet, Destination } from '../scope/dataSet';
import { copyGrades, describeGrade, gradeOf, type CopyGrade } from './grade';
import { placeOfPath, proposeDataSets } from '../scope/proposals';

/** One partition as a piece of a disk's tape. Bytes that nobody has measured are null. */
type FlowPartition = {
  readonly key: string;
  readonly title: string;
  readonly sizeBytes: number;
  readonly usedBytes: number | null;
  /** Bytes of data sets on it. */
  readonly namedBytes: number;
  /** Bytes of the owner's that no data set names. */
  readonly unnamedBytes: number;
  readonly erased: boolean;
};

export type FlowDisk = {
  readonly title: string;
  readonly sizeBytes: number;
  readonly partitions: readonly FlowPartition[];
};

/** A data set, several small ones, or bytes that no data set names. */
export type FlowBox = {
  readonly id: string;
  readonly kind: 'set' | 'small-sets' | 'unnamed';
  readonly title: string;
  readonly paths: readonly string[];
  readonly sizeBytes: number;
  readonly fileCount: number | null;
  readonly partitionKey: string | null;
  readonly dataSetIds: readonly string[];
};

export type FlowSlot = {
  readonly destinationId: string;
  readonly boxId: string;
  readonly sizeBytes: number;
  readonly state: CopyGrade | 'planned' | 'differs';
  /** The grade was found for an earlier list: struck, it counts no more. */
  readonly outdated: boolean;
  readonly counts: boolean;
  readonly words: string;
};

export type SaveFlow = {
  readonly disks: readonly FlowDisk[];
  readonly boxes: readonly FlowBox[];
  readonly slots: readonly FlowSlot[];
  /** Copies, one a data set and destination: how many there are to be, and how many count. */
  readonly planned: number;
  readonly counted: number;
};

type FlowInput = {
  readonly facts: Facts;
  readonly folders: readonly SurveyFolder[];
  readonly dataSets: readonly DataSet[];
  readonly destinations: readonly Destination[];
  readonly copies: readonly Copy[];
  readonly failedChecks: readonly FailedCheck[];
  readonly outdatedCopies: readonly OutdatedCopy[];
  readonly status: readonly CopiesOfDataSet[];
};

const keyOf = (disk: Disk, { number }: Partition) => `${disk.name} ${number}`;

/** More boxes than this, and those under a hundredth of the bytes become one. */
const maxBoxes = 8;

/**
 * Where the owner's bytes are, and where their copies go: every byte of a data set is in one box, and in one slot for
 * each destination that takes it. A measured folder that no data set names is a box without a slot.
 */
export function saveFlow(input: FlowInput): SaveFlow {
  const { facts, folders, dataSets, destinations } = input;
  const disks = (valueOf(facts, 'disks') ?? []).filter(({ partitions }) => partitions.length > 0);
  const system = systemDisk(disks);
  const systemPart = system?.partitions.find(({ role }) => role === 'system');
  const fallback = system && systemPart ? keyOf(system, systemPart) : null;
  const partitionOf = (path: string) => {
    const at = placeOfPath(path, disks, system);
    return at.disk && at.partition ? keyOf(at.disk, at.partition) : fallback;
  };
  const sets = dataSets.map((one): FlowBox => ({
    id: one.id,
    kind: 'set',
    title: one.name,
    paths: one.path === '' ? [] : [one.path],
    sizeBytes: one.sizeBytes,
    fileCount: one.fileCount,
    partitionKey: partitionOf(one.path),
    dataSetIds: [one.id],
  }));
  const named = (key: string) => sumOf(sets.filter(({ partitionKey }) => partitionKey === key));
  const unnamed = disks.flatMap((disk) =>
    disk.partitions.flatMap((partition) => {
      const key = keyOf(disk, partition);
      const measured = proposeDataSets(folders, facts, dataSets).filter(
        ({ path }) => partitionOf(path) === key,
      );
      const measuredBytes = sumOf(measured);
      // On a partition without a system, what is used and not named is the owner's too.
      const rest =
        partition.role === 'data' && partition.usedBytes !== undefined
          ? Math.max(0, partition.usedBytes - named(key) - measuredBytes)
          : 0;
      return measuredBytes + rest === 0 ? [] : [unnamedBox(key, measured, measuredBytes, rest)];
    }),
  );
  const boxes = folded([...sets, ...unnamed]).toSorted(
    (a, b) =>
      orderOf(a, disks) - orderOf(b, disks) || Number(a.kind === 'unnamed') - Number(b.kind === 'unnamed'),
  );
  const erased = (key: string) =>
    sets.some(
      ({ partitionKey, id }) =>
        partitionKey === key && input.status.some((line) => line.dataSetId === id && line.risk === 'at-risk'),
    );
  const single = destinations.flatMap(({ takes }) => takes);
  return {
    disks: disks.map((disk) => ({
      title: `Disk ${diskMark(disk)}`,
      sizeBytes: disk.sectorBytes * disk.sectorCount,
      partitions: disk.partitions.map((partition) => {
        const key = keyOf(disk, partition);
        return {
          key,
          title: `${partition.number} ${partition.label ?? partition.role ?? ''}`.trim(),
          sizeBytes: partitionBytes(disk, partition),
          usedBytes: partition.usedBytes ?? null,
          namedBytes: named(key),
          unnamedBytes: sumOf(unnamed.filter(({ partitionKey }) => partitionKey === key)),
          erased: erased(key),
        };
      }),
    })),
    boxes,
    slots: destinations.flatMap((destination) => boxes.flatMap((box) => slotOf(box, destination, input))),
    planned: single.length,
    counted: input.status.flatMap(({ copies }) => copies.filter(({ because }) => because === null)).length,
  };
}

const sumOf = (sized: readonly { readonly sizeBytes: number }[]) =>
  sized.reduce((sum, { sizeBytes }) => sum + sizeBytes, 0);

function unnamedBox(key: string, measured: readonly DataSet[], measuredBytes: number, rest: number): FlowBox {
  return {
    id: `unnamed ${key}`,
    kind: 'unnamed',
    title: 'In no data set',
    paths: measured.map(({ path }) => path),
    sizeBytes: measuredBytes + rest,
    fileCount: rest > 0 ? null : measured.reduce((sum, { fileCount }) => sum + fileCount, 0),
    partitionKey: key,
    dataSetIds: [],
  };
}

function orderOf({ partitionKey }: FlowBox, disks: readonly Disk[]): number {
  const keys = disks.flatMap((disk) => disk.partitions.map((partition) => keyOf(disk, partition)));
  return partitionKey === null ? keys.length : keys.indexOf(partitionKey);
}

/** Small data sets of one partition become one box where there are too many to be told apart. */
function folded(boxes: readonly FlowBox[]): readonly FlowBox[] {
  if (boxes.length <= maxBoxes) return boxes;
  const limit = sumOf(boxes) / 100;
  const isSmall = ({ kind, sizeBytes }: FlowBox) => kind === 'set' && sizeBytes < limit;
  const small = boxes.filter(isSmall);
  const groups = [...new Set(small.map(({ partitionKey }) => partitionKey))].map((key) =>
    small.filter(({ partitionKey }) => partitionKey === key),
  );
  const single = groups.filter(({ length }) => length === 1).flat();
  return [
    ...boxes.filter((box) => !isSmall(box)),
    ...single,
    ...groups
      .filter(({ length }) => length > 1)
      .map((group): FlowBox => ({
        id: `small ${group[0]?.id ?? ''}`,
        kind: 'small-sets',
        title: printCount(group.length, 'small set'),
        paths: [],
        sizeBytes: sumOf(group),
        fileCount: group.reduce((sum, { fileCount }) => sum + (fileCount ?? 0), 0),
        partitionKey: group[0]?.partitionKey ?? null,
        dataSetIds: group.flatMap(({ dataSetIds }) => dataSetIds),
      })),
  ];
}

function slotOf(
  box: FlowBox,
  destination: Destination,
  { dataSets, copies, failedChecks, outdatedCopies, status }: FlowInput,
): readonly FlowSlot[] {
  const taken = box.dataSetIds.filter((id) => destination.takes.includes(id));
  if (taken.length === 0) return [];
  const here = <T extends { readonly dataSetId: string; readonly destinationId: string }>(
    all: readonly T[],
  ) => all.filter((one) => one.destinationId === destination.id && taken.includes(one.dataSetId));
  const failed = here(failedChecks);
  const done = here(copies);
  const judged = status
    .filter(({ dataSetId }) => taken.includes(dataSetId))
    .flatMap((line) => line.copies.filter(({ destinationId }) => destinationId === destination.id));
  const counts = judged.length === taken.length && judged.every(({ because }) => because === null);
  const because = judged.find((one) => one.because !== null)?.because;
  const worst = copyGrades[Math.max(-1, ...done.map((copy) => copyGrades.indexOf(gradeOf(copy))))];
  const base = {
    destinationId: destination.id,
    boxId: box.id,
    sizeBytes: sumOf(dataSets.filter(({ id }) => taken.includes(id))),
    counts,
    outdated: false,
  };
  if (failed.length > 0)
    return [
      {
        ...base,
        counts: false,
        state: 'differs',
        words: `${printCount(
          failed.reduce((sum, { count }) => sum + count, 0),
          'file',
        )} ${failed.length === 1 && failed[0]?.count === 1 ? 'differs' : 'differ'}`,
      },
    ];
  const earlier = here(outdatedCopies).filter(
    ({ dataSetId }) => !done.some((one) => one.dataSetId === dataSetId),
  );
  const [outdated] = earlier;
  if (outdated && done.length + earlier.length === taken.length)
    return [
      {
        ...base,
        counts: false,
        state: gradeOf(outdated),
        outdated: true,
        words: describeOutdated(outdated),
      },
    ];
  if (worst === undefined || done.length < taken.length)
    return [
      {
        ...base,
        counts: false,
        state: 'planned',
        words: done.length === 0 ? 'not compared yet' : `${taken.length - done.length} not compared yet`,
      },
    ];
  const [only] = done;
  return [
    {
      ...base,
      state: worst,
      words: because ?? (done.length === 1 && only ? describeGrade(only) : `all at least ${worst}`),
    },
  ];
}
