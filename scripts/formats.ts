import { mkdirSync, writeFileSync } from 'node:fs';
import { CatalogueExportSchema } from '@ulvane/core/catalogue';
import { WritesFileSchema } from '@ulvane/core/disk';
import { FileEntrySchema } from '@ulvane/core/manifest';
import { MoveExportSchema } from '@ulvane/core/record';
import { SurveySchema } from '@ulvane/core/survey';
import { LogRecordSchema } from '@ulvane/contract';
import { z } from 'zod';
import { BackupManifestSchema } from './lib/backupFile';

/** The published JSON Schemas, generated from the Zod schemas that the code parses with. */
export const published = {
  survey: { title: 'Ulvane survey, version 1', schema: SurveySchema },
  move: { title: 'Ulvane move, version 2', schema: MoveExportSchema },
  'file-entry': { title: 'One line of a list of files', schema: FileEntrySchema },
  'sector-writes': { title: 'Ulvane sector writes, version 1', schema: WritesFileSchema },
  log: { title: 'Log of a Ulvane move', schema: LogRecordSchema },
  'backup-manifest': { title: 'Manifest of a Ulvane backup, version 1', schema: BackupManifestSchema },
  catalogue: { title: 'Ulvane catalogue, version 1', schema: CatalogueExportSchema },
} as const;

/** One published schema as the text of its file. */
export function schemaText({ title, schema }: (typeof published)[keyof typeof published]): string {
  return `${JSON.stringify({ title, ...z.toJSONSchema(schema, { io: 'input' }) }, null, 2)}\n`;
}

/** Writes them below docs/formats. */
export function writeSchemas(): void {
  mkdirSync('docs/formats', { recursive: true });
  for (const [name, entry] of Object.entries(published))
    writeFileSync(`docs/formats/${name}.schema.json`, schemaText(entry));
}

if (process.argv[1]?.endsWith('formats.ts')) writeSchemas();
