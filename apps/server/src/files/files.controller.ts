import { Controller, Header, Req, StreamableFile } from '@nestjs/common';
import { api, type DifferenceGroup, type DifferenceLine, type Files, type MoveView } from '@ulvane/contract';
import type { FileEntry } from '@ulvane/core/manifest';
import {
  answerChecklist,
  joinDataSet,
  keepBackup,
  keepRenames,
  recordWipe,
  packDataSets,
} from '@ulvane/core/record';
import type { Request } from 'express';
import { Readable } from 'node:stream';
import { Actor, Input, Serves, type ActorOfRequest, type InputOf } from '../http/serves';
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
@Controller()
export class FilesController {
  constructor(
    private readonly reader: FileListsReader,
    private readonly lists: FileListsWriter,
    private readonly comparing: Comparing,
    private readonly differences: DifferencesService,
    private readonly writer: MovesWriter,
  ) {}

  @Serves(api.takeFileList)
  take(
    @Input() { params, query }: InputOf<typeof api.takeFileList>,
    @Actor() actor: ActorOfRequest,
    @Req() request: Request,
  ): Promise<MoveView> {
    const { version, dataSetId, role, destinationId, source, sampledFrom } = query;
    return this.lists.take(
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
  }

  @Serves(api.files)
  async files(@Input() { params, query }: InputOf<typeof api.files>): Promise<Files> {
    const { head } = await this.reader.headOf(params.reference, params.listId);
    return this.reader.files(head, query);
  }

  @Serves(api.exportFileList)
  async export(@Input() { params, query }: InputOf<typeof api.exportFileList>): Promise<StreamableFile> {
    const { move, head } = await this.reader.headOf(params.reference, params.listId);
    return new StreamableFile(Readable.from(this.reader.text(move, head, query.format)), {
      type: query.format === 'csv' ? 'text/csv; charset=utf-8' : 'text/plain; charset=utf-8',
      disposition: `attachment; filename="${exportNames[query.format]}"`,
    });
  }

  @Serves(api.drawSample)
  async sample(
    @Input() { params, query }: InputOf<typeof api.drawSample>,
  ): Promise<{ files: readonly FileEntry[]; total: number }> {
    const { head } = await this.reader.headOf(params.reference, params.listId);
    return { files: await this.reader.sample(head, query.size), total: head.fileCount };
  }

  @Serves(api.compareCopy)
  check(
    @Input() { params, body }: InputOf<typeof api.compareCopy>,
    @Actor() actor: ActorOfRequest,
  ): Promise<MoveView> {
    return this.comparing.check(params.reference, body.version, actor, body);
  }

  @Serves(api.reconcile)
  reconcile(
    @Input() { params, body }: InputOf<typeof api.reconcile>,
    @Actor() actor: ActorOfRequest,
  ): Promise<MoveView> {
    return this.comparing.reconcile(params.reference, body.version, actor, body.dataSetId);
  }

  @Serves(api.differenceGroups)
  async groups(
    @Input() { params }: InputOf<typeof api.differenceGroups>,
  ): Promise<{ groups: DifferenceGroup[] }> {
    await this.differences.known(params.reference, params.id);
    return { groups: await this.differences.groups(params.id) };
  }

  @Serves(api.differences)
  async lines(
    @Input() { params, query }: InputOf<typeof api.differences>,
  ): Promise<{ differences: DifferenceLine[] }> {
    await this.differences.known(params.reference, params.id);
    return { differences: await this.differences.differences(params.id, query) };
  }

  @Serves(api.explain)
  explain(
    @Input() { params, body }: InputOf<typeof api.explain>,
    @Actor() actor: ActorOfRequest,
  ): Promise<MoveView> {
    return this.differences.explain(params.reference, body.version, actor, params.id, body);
  }

  @Serves(api.differencesCsv)
  @Header('Content-Type', 'text/csv; charset=utf-8')
  async csv(@Input() { params }: InputOf<typeof api.differencesCsv>): Promise<StreamableFile> {
    await this.differences.known(params.reference, params.id);
    return new StreamableFile(Readable.from(this.differences.csv(params.id)), {
      type: 'text/csv; charset=utf-8',
      disposition: `attachment; filename="${params.reference}-differences.csv"`,
    });
  }

  @Serves(api.packDataSets)
  pack(
    @Input() { params, body }: InputOf<typeof api.packDataSets>,
    @Actor() actor: ActorOfRequest,
  ): Promise<MoveView> {
    return this.writer.change(params.reference, body.version, actor, (move, context) =>
      packDataSets(move, body.packing, context),
    );
  }

  @Serves(api.joinDataSet)
  join(
    @Input() { params, body }: InputOf<typeof api.joinDataSet>,
    @Actor() actor: ActorOfRequest,
  ): Promise<MoveView> {
    return this.writer.change(params.reference, body.version, actor, (move, context) =>
      joinDataSet(move, params.id, context),
    );
  }

  @Serves(api.answerChecklist)
  checklist(
    @Input() { params, body }: InputOf<typeof api.answerChecklist>,
    @Actor() actor: ActorOfRequest,
  ): Promise<MoveView> {
    return this.writer.change(params.reference, body.version, actor, (move, context) =>
      answerChecklist(move, body.answers, context),
    );
  }

  @Serves(api.keepRenames)
  renames(
    @Input() { params, body }: InputOf<typeof api.keepRenames>,
    @Actor() actor: ActorOfRequest,
  ): Promise<MoveView> {
    return this.writer.change(params.reference, body.version, actor, (move) => keepRenames(move, body));
  }

  @Serves(api.keepBackup)
  keep(
    @Input() { params, body }: InputOf<typeof api.keepBackup>,
    @Actor() actor: ActorOfRequest,
  ): Promise<MoveView> {
    const { version, ...kept } = body;
    return this.writer.change(params.reference, version, actor, (move, context) =>
      keepBackup(move, kept, context),
    );
  }

  @Serves(api.recordWipe)
  wipe(
    @Input() { params, body }: InputOf<typeof api.recordWipe>,
    @Actor() actor: ActorOfRequest,
  ): Promise<MoveView> {
    return this.writer.change(params.reference, body.version, actor, (move, context) =>
      recordWipe(move, body, context),
    );
  }
}
