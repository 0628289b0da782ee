import { planConversion, tableFromSurvey, type Resolution } from '@ulvane/core/disk';
import { diskOfDecision, planDisk } from '@ulvane/core/record';
import { type DiskWork } from '@ulvane/core/runbook';
import { systemDisk, valueOf, type Disk } from '@ulvane/core/survey';
import type { Recorder } from './recorder';

/** GUIDs are not stored: any will do. */
const noRandom = (byteCount: number) => new Uint8Array(byteCount);

/** What is resolved by taking the first remedy of every obstacle; undefined when one has none. */
function firstRemedies(disk: Disk): readonly Resolution[] | undefined {
  let resolutions: readonly Resolution[] = [];
  for (let round = 0; round < 5; round += 1) {
    const outcome = planConversion(tableFromSurvey(disk), 'gpt', { random: noRandom, resolutions });
    if (outcome.ok) return resolutions;
    const more = outcome.problems.flatMap(({ remedies: [first] }) => (first ? [first.resolution] : []));
    if (more.length < outcome.problems.length) return undefined;
    resolutions = [...resolutions, ...more];
  }
  return undefined;
}

/** Disk work that some moves have planned: room beside the present system, and one scheme converted. */
export function planSomeDiskWork(recorder: Recorder, technician: string): void {
  const { facts, decision } = recorder.current;
  if (!decision) return;
  const disk = diskOfDecision(recorder.current);
  if (!disk || disk !== systemDisk(valueOf(facts, 'disks'))) return;
  const work = workFor(disk, decision.routeId);
  if (!work) return;
  recorder.wait(3);
  recorder.play(technician, (move, context) => planDisk(move, { disk: disk.name, work }, context));
}

/** Room for a second system and its work. */
const roomBytes = 60 * 1024 ** 3;

function workFor(disk: Disk, routeId: string): DiskWork | undefined {
  if (routeId === 'beside-same-disk') return { kind: 'layout', goal: { kind: 'room', sizeBytes: roomBytes } };
  if (routeId !== 'in-place-upgrade' || disk.scheme !== 'mbr') return undefined;
  const resolutions = firstRemedies(disk);
  return resolutions?.some(({ kind }) => kind === 'make-efi')
    ? { kind: 'convert', target: 'gpt', resolutions: [...resolutions] }
    : undefined;
}
