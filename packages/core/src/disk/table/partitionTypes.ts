/** What a partition is for, as its type in the table says. */
export type PartitionPurpose =
  | 'efi'
  | 'reserved'
  | 'data'
  | 'recovery'
  | 'swap'
  | 'boot'
  | 'volumes'
  | 'pool'
  | 'extended'
  | 'protective'
  | 'dynamic';

type PartitionType = {
  readonly name: string;
  readonly purpose: PartitionPurpose;
  /** Upper case; absent where GPT has no such type. */
  readonly guid?: string;
  /** The bytes that MBR has for it, the one to write first; empty where MBR has none. */
  readonly bytes: readonly number[];
};

/** GUIDs as published with the UEFI specification (table 5.7) and by the systems that define them. */
export const efiGuid = 'C12A7328-F81F-11D2-BA4B-00A0C93EC93B';
export const basicDataGuid = 'EBD0A0A2-B9E5-4433-87C0-68B6B72699C7';
export const reservedGuid = 'E3C9E316-0B5C-4DB8-817D-F92DF00215AE';
export const recoveryGuid = 'DE94BBA4-06D1-4D40-A16A-BFD50179D6AC';
export const systemFilesGuid = '0FC63DAF-8483-4772-8E79-3D69D8477DE4';
export const swapGuid = '0657FD6D-A4AB-43C4-84E5-0933C84B4F4F';
/** Read from the start of the disk by loaders in legacy mode. */
export const bootGuid = '21686148-6449-6E6F-744E-656564454649';

export const extendedBytes: readonly number[] = [0x05, 0x0f, 0x85];
export const protectiveByte = 0xee;
const dynamicByte = 0x42;
export const efiByte = 0xef;

/** The types that are converted by themselves; all others ask for one by hand. */
export const partitionTypes: readonly PartitionType[] = [
  { name: 'EFI system partition', purpose: 'efi', guid: efiGuid, bytes: [efiByte] },
  { name: 'reserved by the system', purpose: 'reserved', guid: reservedGuid, bytes: [] },
  {
    name: 'data',
    purpose: 'data',
    guid: basicDataGuid,
    bytes: [0x07, 0x01, 0x04, 0x06, 0x0b, 0x0c, 0x0e],
  },
  { name: 'recovery', purpose: 'recovery', guid: recoveryGuid, bytes: [0x27] },
  {
    name: 'system files',
    purpose: 'data',
    guid: systemFilesGuid,
    bytes: [0x83],
  },
  { name: 'swap', purpose: 'swap', guid: swapGuid, bytes: [0x82] },
  {
    name: 'logical volumes',
    purpose: 'volumes',
    guid: 'E6D6D379-F507-44C2-A23C-238F2A3DF928',
    bytes: [0x8e],
  },
  {
    name: 'member of a disk array',
    purpose: 'volumes',
    guid: 'A19D880F-05FC-4D3B-A006-743F0F84911E',
    bytes: [0xfd],
  },
  {
    name: 'boot loader',
    purpose: 'boot',
    guid: bootGuid,
    bytes: [],
  },
  {
    name: 'volume container',
    purpose: 'data',
    guid: '7C3457EF-0000-11AA-AA11-00306543ECAC',
    bytes: [],
  },
  {
    name: 'extended file system',
    purpose: 'data',
    guid: '48465300-0000-11AA-AA11-00306543ECAC',
    bytes: [0xaf],
  },
  {
    name: 'member of a storage pool',
    purpose: 'pool',
    guid: '6A898CC3-1DD2-11B2-99A6-080020736631',
    bytes: [],
  },
  { name: 'extended partition', purpose: 'extended', bytes: extendedBytes },
  { name: 'protective', purpose: 'protective', bytes: [protectiveByte] },
  { name: 'dynamic volumes', purpose: 'dynamic', bytes: [dynamicByte] },
  // In GPT dynamic volumes have two types: their own table, and the rest of the disk.
  {
    name: 'table of dynamic volumes',
    purpose: 'dynamic',
    guid: '5808C8AA-7E8F-42E0-85D2-E1E90434CFB3',
    bytes: [],
  },
  {
    name: 'data of dynamic volumes',
    purpose: 'dynamic',
    guid: 'AF9B60A0-1431-4F62-BC68-3311714A69AD',
    bytes: [],
  },
];

/** @example printTypeByte(7) // '0x07' */
export function printTypeByte(byte: number): string {
  return `0x${byte.toString(16).toUpperCase().padStart(2, '0')}`;
}

/**
 * The type behind a code as the table has it, a GUID or a byte like `0x07`; undefined for what is not known.
 * @example typeOf('0xEF')?.purpose // 'efi'
 */
export function typeOf(typeCode: string): PartitionType | undefined {
  return byCode.get(typeCode.toUpperCase());
}

const byCode: ReadonlyMap<string, PartitionType> = new Map(
  partitionTypes.flatMap((type) => [
    ...(type.guid === undefined ? [] : [[type.guid, type] as const]),
    ...type.bytes.map((byte) => [printTypeByte(byte).toUpperCase(), type] as const),
  ]),
);

/** The byte of a code like `0x07`; undefined for a GUID. */
export function typeByte(typeCode: string): number | undefined {
  const match = /^0x([0-9A-F]{1,2})$/i.exec(typeCode);
  return match?.[1] === undefined ? undefined : Number.parseInt(match[1], 16);
}
