import {
  checklistAnswers,
  fileListRoles,
  fileListSources,
  RenameSchema,
  RetentionSchema,
} from '@ulvane/core/backup';
import { differenceKinds, FileEntrySchema } from '@ulvane/core/manifest';
import { z } from 'zod';
import { endpoint, everyone, nameInPath, writers } from '../endpoint';
import { DifferenceGroupSchema, DifferenceSchema, FilesSchema, listFormats } from '../fileShapes';
import { MoveViewSchema, version } from '../shapes';
import { int4, longDocument, nothing } from './parts';

const page = {
  /** Place in the list after which to begin; -1 is the beginning. */
  after: z.coerce.number().int().min(-1).max(2_147_483_647).default(-1),
  limit: z.coerce.number().int().min(1).max(500).default(200),
};

const PackedPartSchema = z.object({
  /** Folders below the data set; one part with the place '' is the whole. */
  places: z.array(z.string().max(32_768)).min(1).max(20_000),
  sizeBytes: z.int().min(0),
  fileCount: z.int().min(0),
  largestFileBytes: z.int().min(0),
  destinationIds: z.array(z.string()).max(50),
});

/** Lists of files, what compares them, and what becomes of the backups. */
export const filesApi = {
  takeFileList: endpoint({
    method: 'POST',
    path: '/moves/:reference/file-lists',
    summary: 'Record a list of files, one JSON object a line (path, sizeBytes, sha256, modifiedMs, trouble)',
    access: writers,
    body: nothing,
    query: z.object({
      version: z.coerce.number().pipe(version),
      dataSetId: z.string().min(1).max(40),
      role: z.enum(fileListRoles),
      destinationId: z.string().max(40).default(''),
      source: z.enum(fileListSources),
      /** How many files the sample was drawn from; 0 when the list is of all of them. */
      sampledFrom: z.coerce.number().int().min(0).max(2_147_483_647).default(0),
    }),
    response: MoveViewSchema,
    consumes: 'application/x-ndjson',
  }),

  files: endpoint({
    method: 'GET',
    path: '/moves/:reference/file-lists/:listId/files',
    summary: 'A stretch of a list of files',
    access: everyone,
    body: nothing,
    query: z.object({ ...page, search: z.string().max(200).default('') }),
    response: FilesSchema,
  }),

  exportFileList: endpoint({
    method: 'GET',
    path: '/moves/:reference/file-lists/:listId/export',
    summary: 'A list of files as a checksum list, a bag’s manifest or info, CSV, or JSON lines',
    access: everyone,
    body: nothing,
    query: z.object({ format: z.enum(listFormats).default('checksum-list') }),
    response: z.unknown(),
    produces: 'text/plain',
  }),

  drawSample: endpoint({
    method: 'GET',
    path: '/moves/:reference/file-lists/:listId/sample',
    summary: 'Files of a list, drawn at random',
    access: writers,
    body: nothing,
    query: z.object({ size: z.coerce.number().int().min(1).max(100_000).default(300) }),
    response: z.object({ files: z.array(FileEntrySchema), total: z.int() }),
  }),

  compareCopy: endpoint({
    method: 'POST',
    path: '/moves/:reference/checks',
    summary: 'Compare the list of a copy with the list of the data set',
    access: writers,
    body: z.object({ version, dataSetId: z.string(), destinationId: z.string() }),
    query: nothing,
    response: MoveViewSchema,
  }),

  reconcile: endpoint({
    method: 'POST',
    path: '/moves/:reference/reconciliations',
    summary: 'Compare a data set before and after, file by file',
    access: writers,
    body: z.object({ version, dataSetId: z.string() }),
    query: nothing,
    response: MoveViewSchema,
  }),

  differenceGroups: endpoint({
    method: 'GET',
    path: '/moves/:reference/reconciliations/:id/groups',
    summary: 'The differences by kind and folder',
    access: everyone,
    body: nothing,
    query: nothing,
    response: z.object({ groups: z.array(DifferenceGroupSchema) }),
  }),

  differences: endpoint({
    method: 'GET',
    path: '/moves/:reference/reconciliations/:id/differences',
    summary: 'A stretch of the differences of one kind in one folder',
    access: everyone,
    body: nothing,
    query: z.object({ ...page, kind: z.enum(differenceKinds), folder: z.string().max(32_768).default('') }),
    response: z.object({ differences: z.array(DifferenceSchema) }),
  }),

  explain: endpoint({
    method: 'POST',
    path: '/moves/:reference/reconciliations/:id/explain',
    summary: 'Explain or accept differences with a reason, or withdraw that',
    access: writers,
    body: z.object({
      version,
      kind: z.enum(differenceKinds),
      /** All of the kind in one folder; null: in every folder. */
      folder: z.string().max(32_768).nullable(),
      /** Only these; null: all that the folder says. */
      ordinals: z.array(int4).max(10_000).nullable(),
      reason: z.string().max(500).nullable(),
    }),
    query: nothing,
    response: MoveViewSchema,
  }),

  differencesCsv: endpoint({
    method: 'GET',
    path: '/moves/:reference/reconciliations/:id/differences.csv',
    summary: 'Every difference with its reason, as CSV',
    access: everyone,
    body: nothing,
    query: nothing,
    response: z.unknown(),
    produces: 'text/csv',
  }),

  packDataSets: endpoint({
    method: 'PUT',
    path: '/moves/:reference/packing',
    summary: 'Let the destinations take every data set, whole or in parts by folder: all of it, or nothing',
    access: writers,
    body: z.object({
      version,
      packing: z
        .array(z.object({ dataSetId: z.string().max(80), parts: z.array(PackedPartSchema).max(50) }))
        .max(500),
    }),
    query: nothing,
    response: MoveViewSchema,
    limitBytes: longDocument,
  }),

  joinDataSet: endpoint({
    method: 'POST',
    path: '/moves/:reference/data-sets/:id/join',
    summary: 'Join the parts of a data set',
    access: writers,
    body: z.object({ version }),
    query: nothing,
    response: MoveViewSchema,
    params: { id: nameInPath },
  }),

  answerChecklist: endpoint({
    method: 'PUT',
    path: '/moves/:reference/checklist',
    summary: 'Answer lines of the checklist: there is none, ask the owner, or open again',
    access: writers,
    body: z.object({
      version,
      answers: z
        .array(
          z.object({
            id: nameInPath,
            answer: z.enum(checklistAnswers),
            reason: z.string().trim().max(300).default(''),
          }),
        )
        .min(1)
        .max(500),
    }),
    query: nothing,
    response: MoveViewSchema,
    params: {},
  }),

  keepRenames: endpoint({
    method: 'PUT',
    path: '/moves/:reference/renames',
    summary: 'Save the list of other names that files have on a destination',
    access: writers,
    body: z.object({
      version,
      dataSetId: z.string(),
      destinationId: z.string(),
      renames: z.array(RenameSchema).max(20_000),
    }),
    query: nothing,
    response: MoveViewSchema,
    limitBytes: longDocument,
  }),

  keepBackup: endpoint({
    method: 'PUT',
    path: '/moves/:reference/backups',
    summary: 'Label, place and last day of the backup on a destination',
    access: writers,
    body: RetentionSchema.omit({ wiped: true }).extend({ version }),
    query: nothing,
    response: MoveViewSchema,
  }),

  recordWipe: endpoint({
    method: 'POST',
    path: '/moves/:reference/backups/wipe',
    summary: 'Record that a backup has been wiped',
    access: writers,
    body: z.object({ version, destinationId: z.string(), method: z.string().max(300) }),
    query: nothing,
    response: MoveViewSchema,
  }),
} as const;
