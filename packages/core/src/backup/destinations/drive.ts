import { z } from 'zod';
import { fileSystemIds } from '../../catalogue/fileSystems';
import { neededOn } from './allocation';
import { linkClasses, mediumClasses, type Copy, type DataSet, type Destination } from '../scope/dataSet';
import { countGrades } from '../copies/grade';
import type { Retention } from '../keeping/retention';
import { DaySchema } from '../../quantity/daySchema';
import { MediumContentSchema } from './mediumContent';

export const driveHealths = ['good', 'worn', 'failing', 'unknown'] as const;

/** A backup drive, stick or disc of the house. Capacity is as formatted, not as sold. */
export const DriveSchema = z.strictObject({
  id: z.uuid(),
  /** The name on its label. */
  name: z.string().trim().min(1).max(100),
  kind: z.enum(['drive', 'stick', 'disc', 'share', 'cloud']),
  /** An installer stick is erased with every image: it is never a destination. */
  purpose: z.enum(['backup', 'installer']),
  serial: z.string().trim().max(128),
  capacityBytes: z.int().positive(),
  /** Taken by what is no backup of a move. */
  otherBytes: z.int().min(0),
  fileSystem: z.enum(fileSystemIds),
  /** As it was formatted; absent where nobody has looked. */
  clusterBytes: z.int().positive().exactOptional(),
  link: z.enum(linkClasses),
  medium: z.enum(mediumClasses),
  health: z.enum(driveHealths),
  note: z.string().trim().max(300),
  /** Installers on it, a volume each; what is on it is not known while `seenOn` is null. */
  holds: z.array(MediumContentSchema).max(16).default([]),
  /** The day on which somebody last looked what is on it. */
  seenOn: DaySchema.nullable().default(null),
  /** Where that was. */
  seenAt: z.string().trim().max(100).default(''),
});

export type Drive = z.infer<typeof DriveSchema>;

/** What a move has, or is to have, on a drive. */
type DriveContent = {
  readonly reference: string;
  readonly label: string;
  readonly sizeBytes: number;
  readonly dataSets: number;
  /** How its copies there were checked: '2 compared, 1 stated'; empty while none is recorded. */
  readonly grades: string;
  /** ISO date until which it is kept; null while that is not said. */
  readonly keepUntil: string | null;
};

type Holder = {
  readonly reference: string;
  readonly dataSets: readonly DataSet[];
  readonly destinations: readonly Destination[];
  readonly copies: readonly Copy[];
  readonly retention: readonly Retention[];
};

/** What lies, or is planned to lie, on a drive by one move; what has been wiped is not there any more. */
export function contentOn(driveId: string, move: Holder): readonly DriveContent[] {
  return move.destinations
    .filter((destination) => destination.driveId === driveId && destination.takes.length > 0)
    .flatMap((destination) => {
      const kept = move.retention.find(({ destinationId }) => destinationId === destination.id);
      if (kept?.wiped) return [];
      const sets = move.dataSets.filter(({ id }) => destination.takes.includes(id));
      return [
        {
          reference: move.reference,
          label: kept?.label ?? destination.name,
          // As it lies there: in whole clusters, with its folders.
          sizeBytes: sets.reduce((sum, set) => sum + neededOn(set, destination).bytes, 0),
          dataSets: sets.length,
          grades: countGrades(move.copies.filter(({ destinationId }) => destinationId === destination.id)),
          keepUntil: kept?.keepUntil ?? null,
        },
      ];
    });
}

/** Free bytes of a drive with that on it; never below zero. */
export function freeOn(
  drive: Pick<Drive, 'capacityBytes' | 'otherBytes'>,
  contents: readonly DriveContent[],
): number {
  const used = contents.reduce((sum, { sizeBytes }) => sum + sizeBytes, 0);
  return Math.max(0, drive.capacityBytes - drive.otherBytes - used);
}
