import { newGuid, type Random } from '../table/guid';
import type { PartitionTable, TablePartition } from '../table/partitionTable';
import { basicDataGuid, bootGuid, efiGuid, recoveryGuid, reservedGuid } from '../table/partitionTypes';
import type { NewPurpose } from './goal';
import { purposeName } from './operation';

type Wish = {
  readonly startLba: number;
  readonly sectorCount: number;
  readonly purpose: NewPurpose;
  readonly logical?: boolean;
};

const guids: Readonly<Record<NewPurpose, string>> = {
  efi: efiGuid,
  reserved: reservedGuid,
  recovery: recoveryGuid,
  boot: basicDataGuid,
  loader: bootGuid,
  system: basicDataGuid,
  data: basicDataGuid,
  installer: basicDataGuid,
};

const bytes: Readonly<Record<NewPurpose, string>> = {
  efi: '0xEF',
  reserved: '0x07',
  recovery: '0x27',
  boot: '0x07',
  loader: '0x83',
  system: '0x07',
  data: '0x07',
  installer: '0x0C',
};

/** A new partition with the first number that is free in its scheme. */
export function entryFor(table: PartitionTable, wish: Wish, random: Random | undefined): TablePartition {
  const { startLba, sectorCount, purpose } = wish;
  const logical = table.scheme === 'mbr' && wish.logical === true;
  const taken = new Set([
    ...table.partitions.map(({ number }) => number),
    ...(table.extended ? [table.extended.entry] : []),
  ]);
  let number = logical ? 5 : 1;
  while (taken.has(number)) number += 1;
  const role = purpose === 'installer' || purpose === 'loader' ? undefined : purpose;
  return {
    number,
    kind: table.scheme === 'gpt' ? 'entry' : logical ? 'logical' : 'primary',
    startLba,
    sectorCount,
    typeCode: table.scheme === 'gpt' ? guids[purpose] : bytes[purpose],
    label: purposeName(purpose),
    ...(table.scheme === 'gpt' ? { name: purposeName(purpose) } : {}),
    ...(table.scheme === 'gpt' && random ? { guid: newGuid(random) } : {}),
    ...(logical ? { ebrLba: startLba - 1 } : {}),
    ...(role ? { role } : {}),
  };
}
