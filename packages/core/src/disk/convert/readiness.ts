import { whatBefore, whyNotClosed } from '../leftState';
import type { PartitionTable } from '../table/partitionTable';
import type { Obstacle, Resolution } from './conversion';

/**
 * What has to be done inside the systems before a table is changed: one that is asleep is started and shut down in
 * full; a volume that was not closed is checked; encryption is suspended.
 */
export function readinessObstacles(
  { partitions }: PartitionTable,
  resolutions: readonly Resolution[],
): readonly Obstacle[] {
  const said = (kind: 'closed' | 'suspended', number: number) =>
    resolutions.some((resolution) => resolution.kind === kind && resolution.partition === number);
  return partitions.flatMap((partition): readonly Obstacle[] => {
    const { number, content } = partition;
    const path = `/partitions/${number}`;
    const open = whyNotClosed(partition);
    const before = whatBefore(partition);
    return [
      ...(open === undefined || (content?.left === 'unclean' && said('closed', number))
        ? []
        : [
            {
              code: `left-${content?.left ?? 'unclean'}` as const,
              path,
              sentence: open,
              remedies:
                content?.left === 'hibernated'
                  ? []
                  : [
                      {
                        resolution: { kind: 'closed' as const, partition: number },
                        action: 'It has been checked and shut down in full since this was read.',
                      },
                    ],
              ...(content?.left === 'hibernated'
                ? { otherwise: 'Start that system, shut it down in full, and read the disk again.' }
                : {}),
            },
          ]),
      ...(before === undefined || said('suspended', number)
        ? []
        : [
            {
              code: 'encryption-on' as const,
              path,
              sentence: before,
              remedies: [
                {
                  resolution: { kind: 'suspended' as const, partition: number },
                  action: 'The encryption is suspended, and the recovery key is kept apart.',
                },
              ],
            },
          ]),
    ];
  });
}
