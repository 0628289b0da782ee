import { z } from 'zod';
import { fail, succeed, type Outcome } from '../../outcome/outcome';
import { parseWith } from '../../outcome/parseWith';
import { crc32, printCrc32 } from './crc32';
import { readPadded, sectorSizes, type SectorSource } from './sectorSource';
import { checkWrites, type SectorWrite } from './sectorWrite';
import type { UndoCapsule } from './undoCapsule';

const writesFormatName = 'ulvane-sector-writes';
const writesFormatVersion = 1;

const crc = z.string().regex(/^[0-9a-f]{8}$/);

/** Sectors to write, each with the checksum of what must be there before; see docs/formats.md. */
export const WritesFileSchema = z.strictObject({
  format: z.literal(writesFormatName),
  version: z.literal(writesFormatVersion),
  purpose: z.enum(['conversion', 'layout', 'mending', 'undo']),
  disk: z.strictObject({
    sectorSizeBytes: z.union(sectorSizes.map((size) => z.literal(size))),
    sectorCount: z.int().positive(),
    /** As printed on the disk, when it is known; nothing is written to a disk with other marks. */
    serial: z.string().max(128).nullable(),
  }),
  writes: z
    .array(
      z.strictObject({
        startLba: z.int().min(0),
        sectorCount: z.int().positive(),
        about: z.string().max(200),
        /** CRC-32 of the sectors before and after, eight hexadecimal digits. */
        before: crc,
        after: crc,
        /** The sectors, base64 (RFC 4648). */
        data: z.base64().max(2_000_000),
      }),
    )
    .max(2000),
});

export type WritesFile = z.infer<typeof WritesFileSchema>;
type Purpose = WritesFile['purpose'];

/** The writes of a plan as a document, with the checksums of what they replace. */
export function encodeWrites(
  source: SectorSource,
  writes: readonly SectorWrite[],
  purpose: Purpose,
  serial: string | null,
): WritesFile {
  return fileOf(source, purpose, serial, writes, (write) =>
    crc32(readPadded(source, write.startLba, write.bytes.length / source.sectorSizeBytes).bytes),
  );
}

/** An undo capsule in the same form: what must be there is what the plan wrote. */
export function encodeCapsule(capsule: UndoCapsule, serial: string | null): WritesFile {
  const written = new Map(capsule.writes.map((write, index) => [write, capsule.writtenCrc32[index] ?? 0]));
  return fileOf(capsule, 'undo', serial, capsule.writes, (write) => written.get(write) ?? 0);
}

function fileOf(
  { sectorSizeBytes, sectorCount }: Pick<SectorSource, 'sectorSizeBytes' | 'sectorCount'>,
  purpose: Purpose,
  serial: string | null,
  writes: readonly SectorWrite[],
  before: (write: SectorWrite) => number,
): WritesFile {
  return {
    format: writesFormatName,
    version: writesFormatVersion,
    purpose,
    disk: { sectorSizeBytes: sectorSizeBytes === 4096 ? 4096 : 512, sectorCount, serial },
    writes: writes.map((write) => ({
      startLba: write.startLba,
      sectorCount: write.bytes.length / sectorSizeBytes,
      about: write.about,
      before: printCrc32(before(write)),
      after: printCrc32(crc32(write.bytes)),
      data: z.util.uint8ArrayToBase64(write.bytes),
    })),
  };
}

/** Reads such a document; refuses what is none, does not hold together, or does not fit its own disk. */
export function parseWrites(input: unknown): Outcome<WritesFile> {
  const parsed = parseWith(WritesFileSchema, input);
  if (!parsed.ok) return parsed;
  const file = parsed.value;
  const decoded = writesOfFile(file);
  const wrong = file.writes.findIndex(
    ({ sectorCount, after }, index) =>
      decoded[index]?.bytes.length !== sectorCount * file.disk.sectorSizeBytes ||
      printCrc32(crc32(decoded[index].bytes)) !== after,
  );
  if (wrong >= 0)
    return fail(
      'writes-damaged',
      `/writes/${wrong}`,
      `The sectors of write ${wrong + 1} do not have the checksum that is given with them: the file was damaged or edited.`,
    );
  const fits = checkWrites(file.disk, decoded);
  return fits.ok ? succeed(file) : fits;
}

function writesOfFile(file: WritesFile): readonly SectorWrite[] {
  return file.writes.map(({ startLba, about, data }) => ({
    startLba,
    about,
    bytes: z.util.base64ToUint8Array(data),
  }));
}

/**
 * The writes of a document for this very disk, in their order. Every place has to hold what the document
 * expects or what it writes: so one that broke off is gone on with, or undone. Refused when size or
 * sectors are others, and when nothing is left to do.
 */
export function writesFor(source: SectorSource, file: WritesFile): Outcome<readonly SectorWrite[]> {
  if (source.sectorCount !== file.disk.sectorCount || source.sectorSizeBytes !== file.disk.sectorSizeBytes)
    return fail(
      'another-disk',
      '/disk',
      `The file is for a disk with ${file.disk.sectorCount} sectors of ${file.disk.sectorSizeBytes} bytes; this one has ${source.sectorCount} of ${source.sectorSizeBytes}.`,
    );
  const there = file.writes.map(({ startLba, sectorCount }) =>
    printCrc32(crc32(readPadded(source, startLba, sectorCount).bytes)),
  );
  const changed = file.writes.find(
    ({ before, after }, index) => there[index] !== before && there[index] !== after,
  );
  if (changed)
    return fail(
      'changed-since',
      `/lba/${changed.startLba}`,
      `Sector ${changed.startLba} (${changed.about}) holds neither what the file expects nor what it writes: it is another disk, or it was written since.`,
    );
  return file.writes.every(({ after }, index) => there[index] === after)
    ? fail(
        'already-written',
        '/writes',
        'The disk holds everything already that the file would write: nothing is left to do.',
      )
    : succeed(writesOfFile(file));
}
