import { typeOf, type Resolution } from '@ulvane/core/disk';

/** A remedy that was chosen earlier, in words. */
export function resolutionText(resolution: Resolution): string {
  switch (resolution.kind) {
    case 'shrink':
      return `Partition ${resolution.partition} ends ${resolution.bySectors} sectors earlier.`;
    case 'logical-to-entry':
      return 'Logical partitions become ordinary entries.';
    case 'entry-to-logical':
      return `Partitions ${resolution.partitions.join(', ')} become logical.`;
    case 'set-type':
      return `Partition ${resolution.partition} gets the type ${typeOf(resolution.typeCode)?.name ?? resolution.typeCode}.`;
    case 'reuse-efi':
      return `Partition ${resolution.partition} becomes the EFI system partition.`;
    case 'make-efi':
      return `An EFI system partition is made at sector ${resolution.startLba}.`;
    case 'make-boot':
      return `A boot-loader partition is made at sector ${resolution.startLba}.`;
    case 'write-over':
      return `Sectors ${resolution.startLba} to ${resolution.startLba + resolution.sectorCount - 1} are written over.`;
    case 'closed':
      return `Partition ${resolution.partition} has been checked and its system shut down in full.`;
    case 'suspended':
      return `The encryption of partition ${resolution.partition} is suspended.`;
    case 'no-efi':
      return 'No EFI system partition: no system is started from this disk.';
    case 'drop':
      return `The entry of partition ${resolution.partition} goes.`;
  }
}
