import { randomUUID } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import type { MoveView } from '@ulvane/contract';
import type { FileListHead } from '@ulvane/core/backup';
import { recordFileList, type CommandOutcome, type Move } from '@ulvane/core/record';
import type { Request } from 'express';
import { receive } from '../http/receive';
import type { ActorOfRequest } from '../http/serves';
import { MovesWriter } from '../moves/moves.writer';
import type { ReceivedSummary } from '../threads/incoming';
import { fileEntryColumns } from '../threads/readListTask';
import { Workers } from '../threads/workers';
import { copyIn } from './copyIn';

type Given = Pick<FileListHead, 'dataSetId' | 'role' | 'destinationId' | 'source' | 'sampledFrom'>;

const nothingYet: ReceivedSummary = {
  fileCount: 0,
  sizeBytes: 0,
  largestFileBytes: 0,
  withoutSize: 0,
  withoutDigest: 0,
  troubled: 0,
};

/** Two million lines of ordinary paths. */
const listLimitBytes = 1024 * 1024 * 1024;

/** Records lists of files: the lines, the head and the log's line in one transaction, or nothing. */
@Injectable()
export class FileListsWriter {
  constructor(
    private readonly writer: MovesWriter,
    private readonly workers: Workers,
  ) {}

  /** Receives a list whole, reads it in a thread of its own, and only then asks for a connection to store it. */
  async take(
    reference: string,
    version: number,
    actor: ActorOfRequest,
    given: Given,
    request: Request,
  ): Promise<MoveView> {
    const listId = randomUUID();
    const command =
      (summary: ReceivedSummary) =>
      (move: Move, context: Parameters<typeof recordFileList>[2]): CommandOutcome =>
        recordFileList(move, { id: listId, ...given, ...summary }, context);
    // What would be refused is refused before a million lines are received.
    await this.writer.wouldChange(reference, version, actor, command(nothingYet));
    return this.workers.withFile((from) =>
      this.workers.withFile(async (into) => {
        await receive(request, from, listLimitBytes);
        const summary = await this.workers.run('readListTask', { listId, from, into });
        return this.writer.changeWith(reference, async (change, manager) => {
          await copyIn(manager, 'file_entry', fileEntryColumns, into);
          return change(version, actor, command(summary));
        });
      }),
    );
  }
}
