import { sourceMedium } from '../backup/copies/copyTime';
import type { MeasuredCopy } from '../backup/copies/measuredCopy';
import { standingOf } from '../runbook/signature';
import { systemDisk } from '../survey/disk';
import { valueOf } from '../survey/facts';
import type { Move } from './move';

/**
 * The copies of a move that were timed: each signed copy step with its minutes. An image is left out: how much of the
 * disk it read is not known.
 */
export function measuredCopies(move: Move): readonly MeasuredCopy[] {
  const steps = move.plan?.runbook.steps ?? [];
  const source = sourceMedium(systemDisk(valueOf(move.facts, 'disks')));
  return move.destinations.flatMap((destination): MeasuredCopy[] => {
    const step = steps.find(({ id }) => id === `copy:${destination.id}`);
    if (!step?.title.startsWith('Copy ')) return [];
    const { state, last } = standingOf(move.signatures, step.id);
    const minutes = last?.actualMinutes ?? 0;
    if (state !== 'signed' || !last || minutes <= 0) return [];
    const taken = move.dataSets.filter(({ id }) => destination.takes.includes(id));
    const { serial, link, medium } = destination;
    return [
      {
        at: last.at,
        serial,
        source,
        link,
        medium,
        sizeBytes: taken.reduce((sum, set) => sum + set.sizeBytes, 0),
        fileCount: taken.reduce((sum, set) => sum + set.fileCount, 0),
        minutes,
      },
    ];
  });
}
