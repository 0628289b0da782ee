import { createHash } from 'node:crypto';
import type { FileEntry } from '@ulvane/core/manifest';

const modulus = 1n << 256n;

/**
 * One number for the content of a list, in whichever order its files stand: the sum, modulo 2^256, of the SHA-256 of
 * each file's path, size and checksum.
 */
export class ContentDigest {
  private sum = 0n;

  add({ path, sizeBytes, sha256 }: Pick<FileEntry, 'path' | 'sizeBytes' | 'sha256'>): void {
    const of = createHash('sha256')
      .update(`${path}\0${sizeBytes ?? ''}\0${sha256 ?? ''}`)
      .digest('hex');
    this.sum = (this.sum + BigInt(`0x${of}`)) % modulus;
  }

  /** 64 hexadecimal digits. */
  value(): string {
    return this.sum.toString(16).padStart(64, '0');
  }
}
