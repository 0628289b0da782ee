import crc from 'crc-32';

/**
 * CRC-32 as GPT uses it (polynomial 0x04C11DB7, reflected, seed and final XOR all ones; UEFI 2.10, 5.3.2).
 * @returns an unsigned 32-bit number
 * @example crc32(new TextEncoder().encode('123456789')) // 0xCBF43926
 */
export function crc32(bytes: Uint8Array): number {
  return crc.buf(bytes) >>> 0;
}

/** @example printCrc32(0x2144df1c) // '2144df1c' */
export function printCrc32(value: number): string {
  return value.toString(16).padStart(8, '0');
}
