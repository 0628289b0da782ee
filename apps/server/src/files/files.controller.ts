import { StreamableFile } from '@nestjs/common';
import {
  answerChecklist,
  joinDataSet,
  keepBackup,
  keepRenames,
  recordWipe,
  packDataSets,
} from '@ulvane/core/record';
import { Readable } from 'node:stream';
import { controllerOf } from '../http/controller';
import { MovesWriter } from '../moves/moves.writer';
import { Comparing } from './comparing';
import { DifferencesService } from './differences.service';
import { FileListsReader } from './fileLists.reader';
import { FileListsWriter } from './fileLists.writer';

const exportNames = {
  'checksum-list': 'sha256sums.txt',
  'bag-manifest': 'manifest-sha256.txt',
  'bag-info': 'bag-info.txt',
  'bag-declaration': 'bagit.txt',
  'bag-tag-manifest': 'tagmanifest-sha256.txt',
  csv: 'files.csv',
  lines: 'files.jsonl',
} as const;

/** Lists of files, their comparison, and what becomes of the backups. */
export const FilesController = controllerOf(
  {
    reader: FileListsReader,
    lists: FileListsWriter,
    comparing: Comparing,
    differences: DifferencesService,
    writer: MovesWriter,
  },
  {
    takeFileList: ({ params, query }, { actor, request }, { lists }) => {
      const { version, dataSetId, role, destinationId, source, sampledFrom } = query;
      return lists.take(
        params.reference,
        version,
        actor,
        {
          dataSetId,
          role,
          destinationId: destinationId === '' ? null : destinationId,
          source,
          sampledFrom: sampledFrom === 0 ? null : sampledFrom,
        },
        request,
      );
    },

    files: async ({ params, query }, _caller, { reader }) => {
      const { head } = await reader.headOf(params.reference, params.listId);
      return reader.files(head, query);
    },

    exportFileList: async ({ params, query }, _caller, { reader }) => {
      const { move, head } = await reader.headOf(params.reference, params.listId);
      return new StreamableFile(Readable.from(reader.text(move, head, query.format)), {
        type: query.format === 'csv' ? 'text/csv; charset=utf-8' : 'text/plain; charset=utf-8',
        disposition: `attachment; filename="${exportNames[query.format]}"`,
      });
    },

    drawSample: async ({ params, query }, _caller, { reader }) => {
      const { head } = await reader.headOf(params.reference, params.listId);
      return { files: await reader.sample(head, query.size), total: head.fileCount };
    },

    compareCopy: ({ params, body }, { actor }, { comparing }) =>
      comparing.check(params.reference, body.version, actor, body),

    reconcile: ({ params, body }, { actor }, { comparing }) =>
      comparing.reconcile(params.reference, body.version, actor, body.dataSetId),

    differenceGroups: async ({ params }, _caller, { differences }) => {
      await differences.known(params.reference, params.id);
      return { groups: await differences.groups(params.id) };
    },

    differences: async ({ params, query }, _caller, { differences }) => {
      await differences.known(params.reference, params.id);
      return { differences: await differences.differences(params.id, query) };
    },

    explain: ({ params, body }, { actor }, { differences }) =>
      differences.explain(params.reference, body.version, actor, params.id, body),

    differencesCsv: async ({ params }, { response }, { differences }) => {
      response.setHeader('Content-Type', 'text/csv; charset=utf-8');
      await differences.known(params.reference, params.id);
      return new StreamableFile(Readable.from(differences.csv(params.id)), {
        type: 'text/csv; charset=utf-8',
        disposition: `attachment; filename="${params.reference}-differences.csv"`,
      });
    },

    packDataSets: ({ params, body }, { actor }, { writer }) =>
      writer.change(params.reference, body.version, actor, (move, context) =>
        packDataSets(move, body.packing, context),
      ),

    joinDataSet: ({ params, body }, { actor }, { writer }) =>
      writer.change(params.reference, body.version, actor, (move, context) =>
        joinDataSet(move, params.id, context),
      ),

    answerChecklist: ({ params, body }, { actor }, { writer }) =>
      writer.change(params.reference, body.version, actor, (move, context) =>
        answerChecklist(move, body.answers, context),
      ),

    keepRenames: ({ params, body }, { actor }, { writer }) =>
      writer.change(params.reference, body.version, actor, (move) => keepRenames(move, body)),

    keepBackup: ({ params, body }, { actor }, { writer }) => {
      const { version, ...kept } = body;
      return writer.change(params.reference, version, actor, (move, context) =>
        keepBackup(move, kept, context),
      );
    },

    recordWipe: ({ params, body }, { actor }, { writer }) =>
      writer.change(params.reference, body.version, actor, (move, context) =>
        recordWipe(move, body, context),
      ),
  },
);
