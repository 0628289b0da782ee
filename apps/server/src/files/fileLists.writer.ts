import { randomUUID } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import type { MoveView } from '@ulvane/contract';
import {
  recordFileList,
  sameList,
  type CommandOutcome,
  type FileEntry,
  type FileListHead,
  type ListSummary,
  type Move,
} from '@ulvane/core';
import { DataSource } from 'typeorm';
import type { ActorOfRequest } from '../http/serves';
import { MovesWriter } from '../moves/moves.writer';
import { copyIn } from './copyIn';
import { inOneTransaction } from './inOneTransaction';
import { IncomingList } from './incoming';

type Given = Pick<FileListHead, 'dataSetId' | 'role' | 'destinationId' | 'source' | 'sampledFrom'>;

const nothingYet: ListSummary = {
  fileCount: 0,
  sizeBytes: 0,
  largestFileBytes: 0,
  withoutSize: 0,
  withoutDigest: 0,
  troubled: 0,
};

/** Records lists of files: the lines, the head and the log's line in one transaction, or nothing. */
@Injectable()
export class FileListsWriter {
  constructor(
    private readonly dataSource: DataSource,
    private readonly writer: MovesWriter,
  ) {}

  async take(
    reference: string,
    version: number,
    actor: ActorOfRequest,
    given: Given,
    chunks: AsyncIterable<Uint8Array>,
  ): Promise<MoveView> {
    const id = randomUUID();
    const command =
      (summary: ListSummary) =>
      (move: Move, context: Parameters<typeof recordFileList>[2]): CommandOutcome =>
        recordFileList(move, { id, ...given, ...summary }, context);
    // What would be refused is refused before a million lines are read.
    await this.writer.wouldChange(reference, version, actor, command(nothingYet));
    return inOneTransaction(this.dataSource, async (runner) => {
      const incoming = new IncomingList();
      await copyIn(
        runner,
        'file_entry',
        ['list_id', 'ordinal', 'path', 'size_bytes', 'sha256', 'modified_ms', 'trouble'],
        rowsOf(id, incoming.entries(chunks)),
      );
      const summary = incoming.finish();
      return this.writer.changeIn(
        runner.manager,
        reference,
        version,
        actor,
        command(summary),
        async (before) => {
          const replaced = before.fileLists.filter((list) => sameList(list, given)).map((list) => list.id);
          if (replaced.length > 0)
            await runner.query('DELETE FROM file_entry WHERE list_id = ANY($1)', [replaced]);
        },
      );
    });
  }
}

async function* rowsOf(
  id: string,
  entries: AsyncIterable<FileEntry>,
): AsyncGenerator<readonly (string | number | null)[]> {
  let ordinal = 0;
  for await (const { path, sizeBytes, sha256, modifiedMs, trouble } of entries) {
    yield [id, ordinal, path, sizeBytes, sha256 === null ? null : `\\x${sha256}`, modifiedMs, trouble];
    ordinal += 1;
  }
}
