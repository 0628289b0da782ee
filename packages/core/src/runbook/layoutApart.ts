import { mebibyteBytes, printBytes } from '../quantity/bytes';
import { systemShare, type SystemShare } from '../disk/systemShare';
import { diskBytes, partitionBytes, systemPartition } from '../survey/disk';
import { diskToWrite } from './diskToWrite';
import type { RunbookInput, StepInput } from './input';

/** A layout in which data have partitions of their own. */
type LayoutApart = {
  readonly systemBytes: number;
  /** In disk order; one without a size gets the rest. */
  readonly parts: readonly { readonly name: string; readonly sizeBytes: number | null }[];
};

/** What the size of the disk says of a split; undefined where disk or release is not known. */
export function shareOfDisk(
  input: Pick<RunbookInput, 'facts' | 'route' | 'disk' | 'release' | 'dataSets'>,
): SystemShare | undefined {
  const disk = diskToWrite(input);
  if (!disk || !input.release) return undefined;
  const system = systemPartition(disk);
  return systemShare({
    roomBytes:
      input.route.writesOver === 'system-partition' && system
        ? partitionBytes(disk, system)
        : diskBytes(disk),
    systemBytes: input.release.systemBytes,
    dataBytes: input.dataSets.reduce((sum, { sizeBytes }) => sum + sizeBytes, 0),
  });
}

/**
 * The partitions that somebody wants beside the system's; else one for data, where the house keeps data apart and the
 * disk is large enough or somebody has said how large the system is to be. Undefined where system and data share one.
 */
export function layoutApart(input: RunbookInput): LayoutApart | undefined {
  const { preparation, houseRules, release } = input;
  if (!release) return undefined;
  const share = shareOfDisk(input);
  const systemBytes = preparation.wantedSystemBytes ?? share?.systemBytes ?? release.systemBytes * 3;
  if (preparation.dataParts.length > 0) return { systemBytes, parts: preparation.dataParts };
  if (houseRules.dataPartition === 'one') return undefined;
  return preparation.wantedSystemBytes !== null || (share?.isWorthIt ?? true)
    ? { systemBytes, parts: [{ name: 'data', sizeBytes: null }] }
    : undefined;
}

/** Why the partitions that somebody wants cannot be made on the disk that is written; undefined where they can. */
export function partsBeyondDisk(input: RunbookInput): string | undefined {
  const layout = layoutApart(input);
  const disk = diskToWrite(input);
  if (!layout || !disk) return undefined;
  const own = input.release?.installerPartitions.reduce((sum, { sizeBytes }) => sum + sizeBytes, 0) ?? 0;
  // One that gets the rest is there only where a rest is.
  const sized = layout.parts.reduce((sum, { sizeBytes }) => sum + (sizeBytes ?? mebibyteBytes), 0);
  const wanted = layout.systemBytes + own + sized;
  return wanted > diskBytes(disk)
    ? `System, installer and these partitions want ${printBytes(wanted, 'decimal')}, and the disk has ${printBytes(diskBytes(disk), 'decimal')}: make one of them smaller.`
    : undefined;
}

/** The same where partitions are made by hand on the installer's own page; else they come after the first start. */
export function apartInInstaller(input: StepInput): LayoutApart | undefined {
  const { diskWork, houseRules, route } = input;
  const isPlanned = diskWork?.work.kind === 'layout' && diskWork.work.goal.kind === 'split';
  return houseRules.partitioning === 'by-hand' && route.steps.includes('make-data-partition') && !isPlanned
    ? layoutApart(input)
    : undefined;
}
