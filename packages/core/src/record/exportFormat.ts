import { z } from 'zod';
import { fail, succeed, type Outcome } from '../outcome/outcome';
import { parseWith } from '../outcome/parseWith';
import { EventSchema, type LogEvent } from './event';
import { MoveSchema, type Move } from './move';
import { upgradeRecord } from './oldRecords';

const moveFormatName = 'ulvane-move';
const moveFormatVersion = 2;
/** A longer record would hold up everybody who reads it: see docs/decisions, 0017. */
export const moveLimitBytes = 2 * 1024 * 1024;

/** A whole move with its log; see docs/formats.md. */
export const MoveExportSchema = z.strictObject({
  format: z.literal(moveFormatName),
  version: z.literal(moveFormatVersion),
  move: MoveSchema,
  events: z.array(EventSchema),
});

export type MoveExport = z.infer<typeof MoveExportSchema>;

/** The move as a document; `importMove(JSON.stringify(exportMove(…)))` gives the same back. */
export function exportMove(move: Move, events: readonly LogEvent[]): MoveExport {
  return { format: moveFormatName, version: moveFormatVersion, move, events: [...events] };
}

const HeadSchema = z.looseObject({ format: z.string(), version: z.int() });

/** Reads an exported move. Refuses what is no export, of a newer version, or damaged, with the place. */
export function importMove(input: unknown): Outcome<MoveExport> {
  const head = parseWith(HeadSchema, input);
  if (!head.ok || head.value.format !== moveFormatName)
    return fail(
      'not-a-move',
      '/format',
      `This is not an exported move: “format” should be “${moveFormatName}”.`,
    );
  if (head.value.version > moveFormatVersion)
    return fail(
      'move-newer',
      '/version',
      `The file has version ${head.value.version}; this Ulvane reads up to version ${moveFormatVersion}. Update Ulvane first.`,
    );
  const parsed = parseWith(
    MoveExportSchema,
    head.value.version < moveFormatVersion
      ? { ...head.value, version: moveFormatVersion, move: upgradeRecord(head.value.move) }
      : input,
  );
  return parsed.ok ? succeed(parsed.value) : parsed;
}
