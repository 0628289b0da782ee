import { findRelease } from '../catalogue/find';
import type { Catalogue } from '../catalogue/catalogue';
import { diskBytes, partitionBytes, type Disk } from './disk';
import { isEmptyDevice, valueOf, type FactKey, type Facts } from './facts';

type Contradiction = {
  /** The facts that cannot all be right. */
  readonly keys: readonly FactKey[];
  /** Where, below the fact: a JSON pointer, empty for the fact itself. */
  readonly place: string;
  readonly sentence: string;
};

/** What cannot be about disks: partitions beyond the end, over each other, or fuller than they are large. */
function contradictionsOfDisks(disks: readonly Disk[]): readonly Contradiction[] {
  const found: Contradiction[] = [];
  const tell = (place: string, sentence: string) => found.push({ keys: ['disks'], place, sentence });
  for (const [d, disk] of disks.entries()) {
    for (const [p, partition] of disk.partitions.entries()) {
      const place = `/${d}/partitions/${p}`;
      if (partition.startLba + partition.sectorCount > disk.sectorCount)
        tell(place, `Partition ${partition.number} of ${disk.name} ends behind the end of the disk.`);
      if (partition.usedBytes !== undefined && partition.usedBytes > partitionBytes(disk, partition))
        tell(place, `Partition ${partition.number} of ${disk.name} has more bytes used than it has.`);
    }
    if (!Number.isSafeInteger(diskBytes(disk)))
      tell(`/${d}`, `${disk.name} has more bytes than Ulvane counts.`);
  }
  return found;
}

/**
 * Facts that cannot hold together, whoever measured or typed them: named, never silently picked
 * between. Without a catalogue the present release’s word size is not looked at.
 */
export function contradictionsOf(facts: Facts, catalogue?: Catalogue): readonly Contradiction[] {
  const found: Contradiction[] = [];
  const tell = (keys: readonly FactKey[], sentence: string) => found.push({ keys, place: '', sentence });
  if (valueOf(facts, 'firmwareMode') === 'legacy' && valueOf(facts, 'secureBoot') === 'on')
    tell(
      ['firmwareMode', 'secureBoot'],
      'Firmware mode is legacy and Secure Boot is on: both cannot be. Read the boot page of the firmware set-up.',
    );
  const present = catalogue && findRelease(catalogue, valueOf(facts, 'presentRelease'));
  if (present?.wordBits === 64 && valueOf(facts, 'wordBits') === 32)
    tell(
      ['presentRelease', 'wordBits'],
      `The present system (${present.name}) works with 64 bit and the processor with 32: both cannot be. Run the collector again, and read the present system’s page about the device.`,
    );
  if (
    isEmptyDevice(facts) &&
    valueOf(facts, 'disks')?.some(({ partitions }) => partitions.some(({ role }) => role === 'system'))
  )
    tell(
      ['presentRelease', 'disks'],
      'No system is said to be on the device, and a partition is marked as the system’s: look which is right.',
    );
  return [...found, ...contradictionsOfDisks(valueOf(facts, 'disks') ?? [])];
}

/** The facts without those that contradict each other: until that is cleared up they are unknown. */
export function undisputedFacts(facts: Facts, contradictions: readonly Contradiction[]): Facts {
  if (contradictions.length === 0) return facts;
  const disputed = new Set<string>(contradictions.flatMap(({ keys }) => keys));
  // Fewer of the same facts, each with its own value.
  return Object.fromEntries(Object.entries(facts).filter(([key]) => !disputed.has(key))) as Facts;
}
