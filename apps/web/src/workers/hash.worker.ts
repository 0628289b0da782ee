import { expose } from 'comlink';
import { createSHA256, type IHasher } from 'hash-wasm';

/** A file with the size that it was found with. */
export type SizedFile = { readonly file: File; readonly sizeBytes: number };

export type HashOutcome = {
  /** 64 hexadecimal digits, or why there are none. */
  readonly sha256: string | null;
  readonly trouble: 'unreadable' | 'changed-while-read' | null;
  /** The file is not there any more: its drive may be gone. */
  readonly gone: boolean;
};

/** Files up to this size are read whole and hashed by the browser itself, which is the quickest. */
const wholeBytes = 64 * 1024 * 1024;
/** From this size on a file is read by itself: several of them at once only fill the memory. */
const aloneBytes = 16 * 1024 * 1024;
const sliceBytes = 16 * 1024 * 1024;
/** Small files under way at a time: while one is hashed the next are read. */
const atOnce = 6;

function hexOf(digest: ArrayBuffer): string {
  return Array.from(new Uint8Array(digest), (byte) => byte.toString(16).padStart(2, '0')).join('');
}

let hasher: Promise<IHasher> | undefined;

async function inSlices(
  { file, sizeBytes }: SizedFile,
  onBytes: (bytes: number) => void,
): Promise<string | null> {
  const sha = await (hasher ??= createSHA256());
  sha.init();
  let read = 0;
  // The next slice is read while this one is hashed.
  let next = file.slice(0, sliceBytes).arrayBuffer();
  while (read < sizeBytes) {
    const slice = new Uint8Array(await next);
    if (slice.length === 0) return null;
    read += slice.length;
    next = file.slice(read, read + sliceBytes).arrayBuffer();
    sha.update(slice);
    onBytes(slice.length);
  }
  await next;
  return read === sizeBytes ? sha.digest('hex') : null;
}

async function hashOne(sized: SizedFile, onBytes: (bytes: number) => void): Promise<HashOutcome> {
  const { file, sizeBytes } = sized;
  try {
    // Outside a secure context the browser has no hash of its own.
    if (sizeBytes > wholeBytes || !('subtle' in crypto)) {
      const sha256 = await inSlices(sized, onBytes);
      return { sha256, trouble: sha256 === null ? 'changed-while-read' : null, gone: false };
    }
    const bytes = await file.arrayBuffer();
    if (bytes.byteLength !== sizeBytes) return { sha256: null, trouble: 'changed-while-read', gone: false };
    const sha256 = hexOf(await crypto.subtle.digest('SHA-256', bytes));
    onBytes(bytes.byteLength);
    return { sha256, trouble: null, gone: false };
  } catch (error) {
    const name = error instanceof DOMException ? error.name : '';
    return { sha256: null, trouble: 'unreadable', gone: name === 'NotFoundError' };
  }
}

const work = {
  /** One outcome for each file, in their order. Large files stand alone among the small ones. */
  hash: async (
    files: readonly SizedFile[],
    onBytes: (bytes: number) => void,
  ): Promise<readonly HashOutcome[]> => {
    const outcomes: HashOutcome[] = [];
    let next = 0;
    let bytes = 0;
    let told = performance.now();
    const count = (more: number) => {
      bytes += more;
      if (performance.now() - told < 250) return;
      onBytes(bytes);
      bytes = 0;
      told = performance.now();
    };
    const lane = async () => {
      while (next < files.length) {
        const index = next;
        next += 1;
        const file = files[index];
        if (file) outcomes[index] = await hashOne(file, count);
      }
    };
    const large = files.some(({ sizeBytes }) => sizeBytes > aloneBytes);
    await Promise.all(Array.from({ length: large ? 1 : atOnce }, lane));
    if (bytes > 0) onBytes(bytes);
    return outcomes;
  },
};

export type HashWork = typeof work;

expose(work);
