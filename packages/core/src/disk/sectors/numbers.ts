/**
 * A 64-bit little-endian number of a disk structure. What is larger than can be counted exactly comes
 * back as the largest safe integer: it is out of every disk's range all the same.
 */
export function readU64(view: DataView, offset: number, littleEndian = true): number {
  const value = view.getBigUint64(offset, littleEndian);
  return value > BigInt(Number.MAX_SAFE_INTEGER) ? Number.MAX_SAFE_INTEGER : Number(value);
}

export function writeU64(view: DataView, offset: number, value: number): void {
  view.setBigUint64(offset, BigInt(value), true);
}

export function viewOf(bytes: Uint8Array): DataView {
  return new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
}

/** Bytes as signs of one byte each, up to the first zero. */
export function readLatin(view: DataView, offset: number, lengthBytes: number): string {
  let text = '';
  for (let index = 0; index < lengthBytes; index += 1) {
    const code = view.getUint8(offset + index);
    if (code === 0) break;
    text += String.fromCharCode(code);
  }
  return text.trim();
}

/** UTF-8, up to the first zero; what is no UTF-8 becomes the replacement sign. */
export function readUtf8(view: DataView, offset: number, lengthBytes: number): string {
  const bytes = new Uint8Array(view.buffer, view.byteOffset + offset, lengthBytes);
  const end = bytes.indexOf(0);
  return new TextDecoder().decode(end < 0 ? bytes : bytes.subarray(0, end)).trim();
}

/** UTF-16LE code units, up to the first zero. */
export function readUtf16(view: DataView, offset: number, units: number): string {
  let text = '';
  for (let index = 0; index < units; index += 1) {
    const code = view.getUint16(offset + index * 2, true);
    if (code === 0) break;
    text += String.fromCharCode(code);
  }
  return text;
}
